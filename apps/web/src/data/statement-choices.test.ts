import { describe, expect, it } from 'vitest';

import { choicesIn, readChoices, setFilter, statementQuery, viewAddress } from './statement-choices.ts';

const read = (text: string) => readChoices(new URLSearchParams(text), '2026-10');

describe('choices in the address', () => {
  it('are read: filters by dimension, accounts, drafts, display', () => {
    const choices = read('filter.department=Tours&filter.department=(none)&accounts=4000-4999&drafts=yes&unit=thousands&budget=3');
    expect(choices).toEqual({
      asOf: '2026-10',
      budget: 3,
      filter: { department: ['Tours', ''] },
      accounts: '4000-4999',
      drafts: 'yes',
      display: { unit: 'thousands' },
    });
    expect(statementQuery(choices)).toMatchObject({ filter: { department: ['Tours', ''] }, unit: 'thousands', budget: 3, asOf: '2026-10' });
  });
  it('take every value where a filter of the view is taken off', () =>
    expect(read('filter.department=(all)').filter).toEqual({ department: [] }));
  it('set and take off a filter; one of the view is overruled, one of the address goes', () => {
    const search = new URLSearchParams('asOf=2026-10');
    setFilter(search, 'department', ['Tours', '']);
    expect(search.toString()).toBe('asOf=2026-10&filter.department=Tours&filter.department=%28none%29');
    setFilter(search, 'department', []);
    expect(search.toString()).toBe('asOf=2026-10');
    setFilter(search, 'department', []);
    expect(read(search.toString()).filter).toEqual({ department: [] });
  });
  it('are saved without the month and the drill-down', () => {
    const choices = choicesIn(new URLSearchParams('asOf=2026-10&figure=a~b&unit=cents&filter.department=Tours'));
    expect(choices).toEqual({ address: 'unit=cents&filter.department=Tours' });
  });
  it('of another view go along where they say what the figures are of; how they are written is the view’s own', () => {
    expect(viewAddress({ company: 1, view: 'income' }, '2026-11')).toBe('/c/1/statements/income?asOf=2026-11');
    const from = new URLSearchParams('unit=millions&filter.department=Store&budget=2&asOf=2026-10');
    expect(viewAddress({ company: 1, view: 'income' }, null, from)).toBe('/c/1/statements/income?filter.department=Store&budget=2');
    expect(viewAddress({ company: 1, view: 'income' }, null)).toBe('/c/1/statements/income');
  });
});
