import { describe, expect, it } from 'vitest';

import { checkPostings } from './check-postings.ts';
import { learnedKey } from './checked-ledger.ts';
import { smallLedger, type SmallPosting } from './small-ledger.ts';

const MONTHS = 20;
const monthly = (of: Partial<SmallPosting> = {}): SmallPosting[] =>
  Array.from({ length: MONTHS }, (_, month) => ({
    month,
    dayOfMonth: 9,
    account: 5,
    party: 1,
    amount: 200_000 + ((month * 7919) % 23) * 300,
    document: `EL-${1000 + month}`,
    ...of,
  }));
/** Reasons of the postings that deserve a look, beside a ledger in which nothing does. */
const reasonsOf = (more: readonly SmallPosting[], own: readonly SmallPosting[] = monthly()) =>
  checkPostings(smallLedger([...own, ...more], MONTHS)).map(({ reasons }) => reasons.map(({ kind }) => kind));
const bill = (of: Partial<SmallPosting>): SmallPosting => ({
  month: 15,
  dayOfMonth: 20,
  account: 5,
  party: 1,
  amount: 203_000,
  document: 'X-1',
  ...of,
});

describe('postings that deserve a look', () => {
  it('are none in a regular ledger', () => expect(reasonsOf([])).toEqual([]));
  it.each<[string, readonly SmallPosting[], readonly string[]]>([
    ['a digit too many', [bill({ amount: 2_030_000 })], ['tenfold']],
    ['a digit too few', [bill({ amount: 20_300 })], ['tenth']],
    [
      'a document posted again with a letter',
      [bill({ month: 14, document: 'X-1' }), bill({ document: 'X-1A', dayOfMonth: 2 })],
      ['repeatedDocument'],
    ],
    [
      'the same amount within days',
      [bill({ dayOfMonth: 15, amount: 203_111 }), bill({ document: 'X-7', dayOfMonth: 19, amount: 203_111 })],
      ['repeatedAmount'],
    ],
    ['a vendor on an account it was never on', [bill({ account: 7 })], ['unfamiliarAccount']],
    ['a line without a department', [bill({ department: '' })], ['missingDimension']],
    ['a text that names the month before', [bill({ party: -1, memo: 'Electricity, March 2025' })], ['otherMonth']],
    ['a posting to a watched account', [bill({ account: 99, party: -1 })], ['watchedAccount']],
  ])('%s', (_, more, kinds) => expect(reasonsOf(more)).toEqual([kinds]));
  it('a month without the entry that comes every month', () => {
    const suspects = checkPostings(
      smallLedger([...monthly().filter(({ month }) => month !== 12), ...monthly({ account: 6, party: 2 })], MONTHS),
    );
    expect(suspects.map(({ slot, account, party, line, reasons }) => [slot, account, party, line, reasons[0]!.kind])).toEqual([
      [12, 5, 1, null, 'missingBill'],
    ]);
  });
  it('a balance on the side it is hardly ever on', () => {
    const bank = monthly().map((each) => ({ ...each, amount: -each.amount }));
    const suspects = checkPostings(smallLedger([...bank, bill({ month: 19, amount: 9_000_000, account: 8, party: -1 })], MONTHS));
    expect(suspects.map(({ slot, account, reasons }) => [slot, account, reasons[0]!.kind])).toContainEqual([19, 0, 'wrongSide']);
  });
  it('are not drafts, nor what lies outside the months asked for, nor what was learned', () => {
    const tenfold = bill({ amount: 2_030_000 });
    expect(reasonsOf([{ ...tenfold, isDraft: true }])).toEqual([]);
    const ledger = smallLedger([...monthly(), tenfold], MONTHS);
    expect(checkPostings({ ...ledger, slots: { from: 0, to: 14 } })).toEqual([]);
    expect(checkPostings({ ...ledger, learned: new Set([learnedKey('tenfold', 5, 1)]) })).toEqual([]);
  });
  it('weigh less the older they are, and more the larger', () => {
    const score = (of: Partial<SmallPosting>) =>
      checkPostings(smallLedger([...monthly(), bill({ account: 99, party: -1, ...of })], MONTHS))[0]!.score;
    expect(score({ month: 2 })).toBeLessThan(score({ month: 15 }));
    expect(score({ amount: 100 })).toBeLessThan(score({ amount: 10_000_000 }));
  });
  it('have scores that are the sum of what is shown', () => {
    const [suspect] = checkPostings(smallLedger([...monthly(), bill({ amount: 2_030_000, department: '' })], MONTHS));
    expect(suspect!.reasons.map(({ kind }) => kind)).toEqual(['tenfold', 'missingDimension']);
    expect(suspect!.score).toBeCloseTo(suspect!.reasons.reduce((sum, { score }) => sum + score, 0) * suspect!.weight, 0);
  });
});
