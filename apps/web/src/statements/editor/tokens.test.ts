import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { textAsName, textWithFields, textWithWords } from './tokens.ts';

describe('fields in texts', () => {
  it('are edited as words', () => {
    expect(textWithWords('Total, {span}')).toBe('Total, ‹Period›');
    expect(textWithFields('Total, ‹period›')).toBe('Total, {span}');
    expect(textAsName('Purchases: {group}')).toBe('Purchases: Account group');
  });
  it('stay as typed where there is no such field', () => {
    expect(textWithWords('{quarter}')).toBe('{quarter}');
    expect(textWithFields('‹Quarter›')).toBe('‹Quarter›');
  });
  it('come back as they were stored', () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('{span}', '{as_of}', '{value}', '{none}', 'Total, ', ' ', 'Tours {')),
        (parts) => textWithFields(textWithWords(parts.join(''))) === parts.join(''),
      ),
    ));
});
