import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { monthCalendar, periodAt, periodOfKey } from '../calendar/fiscal-calendar.ts';
import { readSearch } from './read-search.ts';

// FY2025 to FY2027, April 2024 to March 2027, posted to October 2026
const calendar = monthCalendar({ startMonth: 4, firstYear: 2025, lastYear: 2027 });
const read = (text: string, exponent = 2) => readSearch(text, { calendar, exponent, last: periodOfKey(calendar, '2026-10') });
const monthOf = (text: string): string | null => {
  const { month } = read(text);
  return month === null ? null : periodAt(calendar, month).key;
};

describe('amounts', () => {
  it.each([
    ['9466', 946_550, 946_649, 'what shows as 9,466 in dollars'],
    ['9,466', 946_550, 946_649, ''],
    ['$9,466', 946_550, 946_649, ''],
    ['(9,466)', 946_550, 946_649, 'a credit as a statement shows it'],
    ['-9466', 946_550, 946_649, ''],
    ['9466.00', 946_600, 946_600, 'to the cent'],
    ['9466.5', 946_645, 946_654, ''],
    ['9k', 850_000, 949_999, 'as thousands show it'],
    ['1.2m', 115_000_000, 124_999_999, ''],
    ['>50k', 5_000_001, Infinity, ''],
    ['>=50k', 5_000_000, Infinity, ''],
    ['< 100', 0, 9_999, ''],
    ['<=100', 0, 10_000, ''],
    ['50k to 60k', 5_000_000, 6_000_000, ''],
    ['60k..50k', 5_000_000, 6_000_000, 'either way round'],
  ])('%s is %d to %d %s', (text, least, most) => {
    expect(read(text).amount).toEqual({ least, most });
  });
  it('know currencies without decimals', () => expect(read('500', 0).amount).toEqual({ least: 500, most: 500 }));
  it.each(['freight', '', 'PU-001230', '1,23', '12 34', '>', '> freight', '1..2..3', '1 to', '9'.repeat(30), '9999999999999m'])(
    '%s is none',
    (text) => expect(read(text).amount).toBeNull(),
  );
  it('hold every amount that rounds to what was typed, and no other', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), (cents) => {
        const { amount } = read(String(Math.floor((cents + 50) / 100)));
        expect(cents >= amount!.least && cents <= amount!.most).toBe(true);
        expect(amount!.most - amount!.least).toBe(cents < 50 ? 49 : 99);
      }),
    ));
});

describe('months', () => {
  it.each([
    ['oct 2025', '2025-10'],
    ['October 2025', '2025-10'],
    ['OCT 25', '2025-10'],
    ['2025-10', '2025-10'],
    ['10/2025', '2025-10'],
    ['2026-4', '2026-04'],
    ['oct', '2026-10'],
    ['nov', '2025-11'],
    ['2031-10', null],
    ['2025-13', null],
    ['oct 2025 freight', null],
    ['oc', null],
    ['freight 2025', null],
    ['oct x', null],
  ])('%s is %s', (text, month) => expect(monthOf(text)).toBe(month));
  it('before anything is posted are the last of their name', () => {
    const { month } = readSearch('oct', { calendar, exponent: 2, last: null });
    expect(periodAt(calendar, month!).key).toBe('2026-10');
  });
});

it('words are in small letters, without spaces', () =>
  expect(read('  Canvas  & PROPER ')).toMatchObject({ text: 'Canvas  & PROPER', words: ['canvas', 'proper'], amount: null, month: null }));
it('answers any text', () =>
  fc.assert(
    fc.property(fc.string(), (text) => {
      expect(read(text).text).toBe(text.trim());
    }),
  ));
