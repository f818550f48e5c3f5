import fc from 'fast-check';
import { expect, it } from 'vitest';

import { filterParameters, readFilter } from './filter-parameters.ts';

it('writes one parameter for each value, none and all in words', () => {
  expect(filterParameters({ department: ['Tours', ''], location: [] })).toEqual([
    ['filter.department', 'Tours'],
    ['filter.department', '(none)'],
    ['filter.location', '(all)'],
  ]);
  expect(filterParameters({ department: ['Tours'] }, 'slice')).toEqual([['slice.department', 'Tours']]);
});
it('leaves other parameters alone', () => {
  const search = new URLSearchParams('asOf=2026-10&filter.department=Tours&slice.department=Store&filtered.department=X');
  expect(readFilter(search)).toEqual({ department: ['Tours'] });
  expect(readFilter(search, 'slice')).toEqual({ department: ['Store'] });
});
it('gives a dimension no way into the prototype of objects', () => {
  const filter = readFilter([['filter.__proto__', 'x']]);
  expect(Object.getPrototypeOf(filter)).toBe(Object.prototype);
  expect(Object.keys(filter)).toEqual(['__proto__']);
});
it('reads what it wrote, through an address too', () => {
  const text = fc.string({ unit: 'grapheme', maxLength: 20 }).filter((value) => value !== '(none)' && value !== '(all)');
  fc.assert(
    fc.property(fc.dictionary(text, fc.array(text, { maxLength: 4 })), (filter) => {
      expect(readFilter(new URLSearchParams(new URLSearchParams(filterParameters(filter)).toString()))).toEqual({ ...filter });
    }),
  );
});
