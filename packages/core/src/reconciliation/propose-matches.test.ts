import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type IsoDate, isoDate } from '../calendar/iso-date.ts';
import { minor } from '../money/minor.ts';
import type { BankLine, CashLine } from './bank-line.ts';
import { areTransposed, bankTexts, hasSameParty, hasSameReference } from './line-likeness.ts';
import { proposeMatches } from './propose-matches.ts';

const on = (day: number): IsoDate => isoDate(2026, 10, day);
const bank = (id: number, day: number, amount: number, more: Partial<BankLine> = {}): BankLine => ({
  id,
  date: on(day),
  amount: minor(amount),
  text: '',
  reference: '',
  party: '',
  ...more,
});
const cash = (id: number, day: number, amount: number, more: Partial<CashLine> = {}): CashLine => ({
  id,
  date: on(day),
  amount: minor(amount),
  entry: `E-${id}`,
  document: '',
  memo: '',
  party: '',
  ...more,
});
const propose = (ofBank: readonly BankLine[], ledger: readonly CashLine[]) => {
  const { matches, near } = proposeMatches({ bank: ofBank, ledger });
  return { matches: matches.map(({ bank: b, ledger: l, basis, days, isSure }) => [b, l, basis, days, isSure]), near };
};

describe('one line for one', () => {
  it('is proven by a reference, however the bank writes it', () =>
    expect(
      propose([bank(1, 9, -50_000, { text: 'ACH DEBIT HF26090 00417' })], [cash(1, 6, -50_000, { document: 'HF-26090' })]).matches,
    ).toEqual([[[1], [1], 'reference', 3, true]]));
  it('goes to the line that the reference names, not to the nearer one of the same amount', () =>
    expect(
      propose(
        [bank(1, 9, -489_000, { text: 'D-4471A' }), bank(2, 20, -489_000, { text: 'D-4471' })],
        [cash(1, 9, -489_000, { document: 'D-4472' }), cash(2, 1, -489_000, { document: 'D-4471A' })],
      ).matches,
    ).toEqual([[[1], [2], 'reference', 8, true]]));
  it('is likely by the name of the customer, and by the words of the memo', () => {
    expect(
      propose([bank(1, 9, 500, { text: 'WIRE FROM HARROW BAY' })], [cash(1, 8, 500, { party: 'Harrow Bay Paddlesports' })]).matches,
    ).toEqual([[[1], [1], 'party', 1, true]]);
    expect(propose([bank(1, 9, -500, { text: 'PAYROLL 15' })], [cash(1, 9, -500, { memo: 'Funding of payroll' })]).matches).toEqual([
      [[1], [1], 'words', 0, true],
    ]);
  });
  it('by the amount alone is proposed within ten days, and a person should look', () => {
    expect(propose([bank(1, 11, 500)], [cash(1, 1, 500)]).matches).toEqual([[[1], [1], 'amount', 10, false]]);
    expect(propose([bank(1, 12, 500)], [cash(1, 1, 500)]).matches).toEqual([]);
  });
  it('takes the nearest day of equally good ones, each line once', () =>
    expect(propose([bank(1, 10, 500), bank(2, 20, 500)], [cash(1, 19, 500), cash(2, 9, 500), cash(3, 20, 500)]).matches).toEqual([
      [[2], [3], 'amount', 0, false],
      [[1], [2], 'amount', 1, false],
    ]));
  it('never joins money in with money out', () => expect(propose([bank(1, 10, 500)], [cash(1, 10, -500)]).matches).toEqual([]));
});

describe('several lines for one', () => {
  it('a deposit of the checks of a day', () =>
    expect(
      propose([bank(1, 10, 1500, { text: 'DEPOSIT' })], [cash(1, 9, 500), cash(2, 9, 700), cash(3, 9, 300), cash(4, 8, 1100)]).matches,
    ).toEqual([[[1], [1, 2, 3], 'together', 1, false]]));
  it('is sure when the bank names each', () =>
    expect(
      propose(
        [bank(1, 10, 1200, { text: 'DEP D-2608 D-2609' })],
        [cash(1, 9, 500, { document: 'D-2608' }), cash(2, 8, 700, { document: 'D-2609' })],
      ).matches,
    ).toEqual([[[1], [2, 1], 'together', 2, true]]));
  it('a payment that left the bank in two parts', () =>
    expect(propose([bank(1, 10, -300), bank(2, 11, -700)], [cash(1, 9, -1000)]).matches).toEqual([[[1, 2], [1], 'together', 2, false]]));
  it('of lines that only some of add up: the smallest group, six at most', () => {
    const amounts = [101, 103, 107, 109, 113, 127, 131, 137];
    const checks = amounts.map((amount, at) => cash(at, 3 + at, amount));
    const sumOf = (...places: number[]): number => places.reduce((sum, at) => sum + amounts[at]!, 0);
    expect(propose([bank(1, 10, sumOf(3, 7))], checks).matches).toEqual([[[1], [3, 7], 'together', 4, false]]);
    expect(propose([bank(1, 10, sumOf(0, 1, 2, 3, 4, 5))], checks).matches).toEqual([[[1], [0, 1, 2, 3, 4, 5], 'together', 7, false]]);
    expect(propose([bank(1, 10, sumOf(0, 1, 2, 3, 4, 5, 6))], checks).matches).toEqual([]);
  });
  it('is not proposed when two groups would do', () =>
    expect(propose([bank(1, 10, 1000)], [cash(1, 9, 300), cash(2, 8, 700), cash(3, 7, 300)]).matches).toEqual([]));
  it('takes a moment for very many lines, of one amount or of many', () => {
    const days = (at: number): number => 1 + (at % 28);
    const ledger = Array.from({ length: 6000 }, (_, at) => cash(at, days(at), at % 2 === 0 ? 5000 : 10_000 + at));
    const banks = Array.from({ length: 1000 }, (_, at) => bank(at, days(at), at % 2 === 0 ? 5000 : 900_000 + at));
    expect(propose(banks, ledger).matches.filter(([, , basis]) => basis === 'amount')).toHaveLength(500);
  });
  it('searches no longer than it proves anything', () => {
    const many = Array.from({ length: 400 }, (_, at) => cash(at, 5 + (at % 7), 1000 + at * 7));
    expect(propose([bank(1, 10, 3_000_000)], many).matches).toEqual([]);
  });
});

describe('lines that nearly agree', () => {
  it('have two figures exchanged, or one reference and two amounts', () => {
    expect(propose([bank(1, 10, 543_600)], [cash(1, 9, 534_600)]).near).toEqual([
      { bank: 1, ledger: 1, kind: 'transposed', difference: 9000 },
    ]);
    expect(propose([bank(1, 10, -1000, { text: 'HF-26090' })], [cash(1, 9, -1200, { document: 'HF-26090' })]).near).toEqual([
      { bank: 1, ledger: 1, kind: 'sameReference', difference: 200 },
    ]);
    expect(propose([bank(1, 10, 543_600)], [cash(1, 9, 536_400)]).near).toEqual([]);
  });
  it('go by a reference before figures exchanged, each line of the ledger once', () =>
    expect(
      propose(
        [bank(1, 10, 543_600, { text: 'D-4471' }), bank(2, 11, 543_600, { text: 'D-4471' })],
        [cash(1, 9, 534_600), cash(2, 10, 500_000, { document: 'D-4471' })],
      ).near,
    ).toEqual([
      { bank: 1, ledger: 2, kind: 'sameReference', difference: 43_600 },
      { bank: 2, ledger: 1, kind: 'transposed', difference: 9000 },
    ]));
  it('are of one sign, and within ten days', () => {
    expect(propose([bank(1, 25, -1000, { text: 'D-4471' })], [cash(1, 24, 1200, { document: 'D-4471' })]).near).toEqual([]);
    expect(propose([bank(1, 25, 1000, { text: 'D-4471' })], [cash(1, 14, 1200, { document: 'D-4471' })]).near).toEqual([]);
    expect(propose([bank(1, 25, 1000, { text: 'D-4471' })], [cash(1, 15, 1200, { document: 'D-4471' })]).near).toHaveLength(1);
  });
  it.each([
    [543_600, 534_600, true],
    [-543_600, -534_600, true],
    [543_600, -534_600, false],
    [543_600, 543_600, false],
    [543_600, 536_400, false],
    [12, 21, true],
    [1200, 120, false],
  ])('%d and %d: %s', (a, b, are) => expect(areTransposed(a, b)).toBe(are));
});

it('a short text or one without a figure is no reference, and short names are no proof', () => {
  const texts = bankTexts(bank(1, 1, 1, { text: 'TRANSFER A-1 CLUB', reference: 'N/A' }));
  expect(hasSameReference(texts, { document: 'A-1', entry: '' })).toBe(false);
  expect(hasSameReference(texts, { document: 'Transfer', entry: '' })).toBe(false);
  expect(hasSameParty(texts, { party: 'A B C' })).toBe(false);
  expect(hasSameParty(texts, { party: 'Granite Ledge Club' })).toBe(false);
});

const lineOf = fc.record({ day: fc.integer({ min: 1, max: 28 }), amount: fc.integer({ min: -9, max: 9 }).filter((each) => each !== 0) });
it('every line is in one proposal at most, and every proposal adds up', () =>
  fc.assert(
    fc.property(fc.array(lineOf, { maxLength: 14 }), fc.array(lineOf, { maxLength: 14 }), (ofBank, ofLedger) => {
      const banks = ofBank.map(({ day, amount }, id) => bank(id, day, amount));
      const ledger = ofLedger.map(({ day, amount }, id) => cash(id, day, amount));
      const { matches, near } = proposeMatches({ bank: banks, ledger });
      const used = { bank: matches.flatMap((each) => each.bank), ledger: matches.flatMap((each) => each.ledger) };
      expect(new Set(used.bank).size).toBe(used.bank.length);
      expect(new Set(used.ledger).size).toBe(used.ledger.length);
      for (const { bank: b, ledger: l } of matches)
        expect(b.reduce((sum, id) => sum + banks[id]!.amount, 0)).toBe(l.reduce((sum, id) => sum + ledger[id]!.amount, 0));
      for (const { bank: b, ledger: l } of near) expect([used.bank.includes(b), used.ledger.includes(l)]).toEqual([false, false]);
    }),
  ));
