import type { Cause, Minor, Reason } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { causeTemplate, directionWords, varianceTemplate } from './cause-words.ts';
import { monthsInRowWords } from './finding-words.ts';
import { fieldsOf, liveText, plainTextOf } from './live-text.ts';
import { suspectWords } from './suspect-words.ts';

describe('a text with figures', () => {
  const value = (field: string): string | null => ({ variance: '9,466', 'party:Hull & Sons': '1,200' })[field] ?? null;
  it('shows what its fields are now', () =>
    expect(plainTextOf(liveText('It is {variance}, of which {party:Hull & Sons}.', value))).toBe('It is 9,466, of which 1,200.'));
  it('says what a figure was when it was accepted, where it has changed', () => {
    const { segments } = liveText('It is {variance}.', value, { variance: '9,500' });
    expect(segments).toEqual([
      { text: 'It is ', field: null, was: null },
      { text: '9,466', field: 'variance', was: '9,500' },
      { text: '.', field: null, was: null },
    ]);
    expect(liveText('{variance}', value, { variance: '9,466' }).segments[0]!.was).toBeNull();
  });
  it('leaves alone what means nothing, braces and all', () =>
    expect(plainTextOf(liveText('{nothing} {variance {} a}', value))).toBe('{nothing} {variance {} a}'));
  it('names its fields', () => expect(fieldsOf('{a} and {lines:1,2} and {3}')).toEqual(['a', 'lines:1,2']));
});

const names = {
  bill: (line: number) => ({
    number: `PU-${line}`,
    document: line === 1 ? '' : `D-${line}`,
    memo: 'Guide payroll, August',
    day: 'Oct 6',
    party: 'Hull Carriers',
    field: `{lines:${line}}`,
  }),
  account: (account: number) => `${account} Repairs`,
  party: () => 'Hull Carriers',
  month: (month: number) => ({ name: `month ${month}`, key: `2026-0${month}` }),
  part: () => 'Department Store',
  money: (amount: number) => String(Math.abs(amount)),
};
const of = (cause: object): Cause => ({ amount: -500 as Minor, share: 1, ...cause }) as Cause;

it.each([
  [
    { kind: 'repeatedBill', line: 3, of: 2, size: 1 },
    'Bill D-2 of Oct 6 from Hull Carriers for {lines:2} was posted again as D-3 on Oct 6.',
  ],
  [
    { kind: 'unusualAmount', line: 1, usual: 20, as: 'tenfold' },
    'PU-1 of Oct 6 from Hull Carriers is {lines:1}, about ten times the usual 20: there may be a digit too many.',
  ],
  [
    { kind: 'unusualAmount', line: 1, usual: 20, as: 'tenth' },
    'PU-1 of Oct 6 from Hull Carriers is {lines:1}, about a tenth of the usual 20: a digit may be missing.',
  ],
  [
    { kind: 'unusualAmount', line: 1, usual: 20, as: 'digitsSwapped' },
    'PU-1 of Oct 6 from Hull Carriers is {lines:1} instead of the usual 20: two digits may be transposed.',
  ],
  [{ kind: 'unusualAmount', line: 1, usual: 20, as: 'large' }, 'PU-1 of Oct 6 from Hull Carriers is {lines:1}; 20 is usual.'],
  [
    { kind: 'unfamiliarAccount', line: 2, party: 0, account: 6310, usualAccount: 6220 },
    'D-2 of Oct 6 from Hull Carriers for {lines:2} is posted to 6310 Repairs; Hull Carriers is usually posted to 6220 Repairs.',
  ],
  [{ kind: 'newParty', party: 0, line: 2, bills: 1 }, 'Hull Carriers is new since Oct 6, with {party:Hull Carriers} in one entry.'],
  [{ kind: 'newParty', party: 0, line: 2, bills: 3 }, 'Hull Carriers is new since Oct 6, with {party:Hull Carriers} in 3 entries.'],
  [
    { kind: 'stoppedParty', party: 0, lastLine: 2 },
    'Nothing from Hull Carriers since Oct 6; in the same months a year before it came to 500.',
  ],
  [
    { kind: 'missingBill', party: 0, account: 6310, usual: 90, lastLine: 2 },
    'The monthly entry from Hull Carriers on 6310 Repairs, usually 90, did not come; the last is D-2 of Oct 6.',
  ],
  [{ kind: 'changedPrice', party: 0, line: 2, before: 90, now: 95 }, 'Hull Carriers comes at 95 since Oct 6 instead of 90.'],
  [{ kind: 'timing', month: 8, neighbor: 9, line: null }, 'Timing: offset by {month:2026-09} the other way in month 9.'],
  [
    { kind: 'timing', month: 8, neighbor: 9, line: 1 },
    'Timing: offset by {month:2026-09} the other way in month 9. PU-1 of Oct 6, “Guide payroll, August”, for {lines:1} belongs to the other month. {yearToDate} remains for the year to date.',
  ],
  [{ kind: 'part', by: 'dimension', name: 'department', key: 'Store' }, 'Department Store accounts for 500.'],
])('%j', (cause, words) => expect(causeTemplate(of(cause), names)).toBe(words));

it('a variance says on which side it is, of what, and when', () => {
  expect([directionWords('budget', 5), directionWords('priorYear', -5), directionWords('priorMonth', 5), directionWords(null, -5)]).toEqual(
    ['over budget', 'less than a year before', 'more than the month before', 'less'],
  );
  expect(varianceTemplate('Freight in', { hasPercent: true, span: 'yearToDate', month: null })).toBe(
    'Freight in is {variance} ({percent}) {direction} for the year to date.',
  );
  expect(varianceTemplate('Freight in', { hasPercent: false, span: 'month', month: 'August 2026' })).toBe(
    'Freight in is {variance} {direction} in August 2026.',
  );
});

it('months in a row are counted in words', () =>
  expect([1, 3, 13].map(monthsInRowWords)).toEqual(['', 'third month in a row', '13th month in a row']));

const suspect = { account: (account: number) => `${account} Boat shows`, money: String, bill: () => 'D-4471 of 2026-10-06' };
it.each([
  [{ kind: 'tenfold', usual: 20 }, 'About ten times the usual 20'],
  [{ kind: 'tenth', usual: 20 }, 'About a tenth of the usual 20'],
  [{ kind: 'digitsSwapped', usual: 20 }, 'Two digits may be transposed; usually 20'],
  [{ kind: 'large', usual: 20, times: 3.24 }, '3.2 times the usual 20'],
  [{ kind: 'repeatedDocument', of: 1, days: 11 }, 'Same document and amount as D-4471 of 2026-10-06, 11 days later'],
  [{ kind: 'repeatedAmount', of: 1, days: 0 }, 'Same amount as D-4471 of 2026-10-06, on the same day'],
  [{ kind: 'unfamiliarAccount', usualAccount: 6220, times: 4 }, 'First posting to this account; usually on 6220 Boat shows'],
  [{ kind: 'missingDimension', dimension: 'department', usually: 0.997 }, 'No department; 99% of the account’s lines have one'],
  [
    { kind: 'unusualDimension', dimension: 'department', value: 'Tours', times: 1, of: 1200 },
    'Department Tours is on 1 of 1,200 lines of the account',
  ],
  [{ kind: 'otherMonth', named: 8 }, 'Memo refers to August'],
  [{ kind: 'missingBill', usual: 20, months: 9 }, 'No entry this month; it came in each of 9 months before, usually 20'],
  [{ kind: 'roundAtPeriodEnd' }, 'A round amount at the end of a month'],
  [{ kind: 'manualAtPeriodEnd' }, 'Entered by hand at the end of a month'],
  [{ kind: 'watchedAccount' }, 'A posting to a watched account'],
  [{ kind: 'weekend' }, 'Dated on a weekend'],
  [{ kind: 'wrongSide', balance: 20 }, 'Unusual debit balance: 20'],
])('%j as a reason', (reason, words) => expect(suspectWords({ score: 1, ...reason } as Reason, suspect)).toBe(words));
