import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { type IsoDate, isoDate } from '../calendar/iso-date.ts';
import { minor } from '../money/minor.ts';
import type { BankLine, CashLine } from './bank-line.ts';
import { reconcile, type ReconciliationInput } from './reconcile.ts';

const on = (month: number, day: number): IsoDate => isoDate(2026, month, day);
const bank = (id: number, date: IsoDate, amount: number): BankLine => ({
  id,
  date,
  amount: minor(amount),
  text: '',
  reference: '',
  party: '',
});
const cash = (id: number, date: IsoDate, amount: number): CashLine => ({
  id,
  date,
  amount: minor(amount),
  entry: '',
  document: '',
  memo: '',
  party: '',
});
const input = (more: Partial<ReconciliationInput>): ReconciliationInput => ({
  asOf: on(10, 31),
  bank: [],
  bankOpening: 100_000,
  from: on(10, 1),
  ledger: [],
  ledgerOpening: 100_000,
  outstandingBefore: new Set(),
  clearings: [],
  ...more,
});
const ids = (lines: readonly { readonly id: number }[]): number[] => lines.map(({ id }) => id);

describe('a cash account', () => {
  // opening 1,000; a check of 200 clears, a deposit of 300 on the last day and a check of 50 do not, the bank charges 5
  const month = input({
    bank: [bank(1, on(10, 6), -20_000), bank(2, on(10, 30), -500)],
    ledger: [cash(1, on(10, 2), -20_000), cash(2, on(10, 31), 30_000), cash(3, on(10, 20), -5000), cash(4, on(11, 2), 999)],
    clearings: [{ id: 7, bank: [1], ledger: [1] }],
  });
  it('is reconciled by what is on its way and what is not recorded', () => {
    const { depositsInTransit, outstandingPayments, unrecorded, ...figures } = reconcile(month);
    expect([ids(depositsInTransit), ids(outstandingPayments), ids(unrecorded)]).toEqual([[2], [3], [2]]);
    expect(figures).toEqual({
      bankBalance: 79_500,
      adjustedBank: 104_500,
      ledgerBalance: 105_000,
      adjustedLedger: 104_500,
      difference: 0,
      broken: [],
    });
  });
  it('as of the day between check and bank has the check outstanding', () => {
    const { outstandingPayments, bankBalance, difference } = reconcile({ ...month, asOf: on(10, 3) });
    expect([ids(outstandingPayments), bankBalance, difference]).toEqual([[1], 100_000, 0]);
  });
  it('before the first statement counts as settled, unless a statement clears it or a person says so', () => {
    // the ledger had paid 30 and 70 in September that the bank had not seen; 40 it had
    const before = { ledgerOpening: 90_000, ledger: [cash(1, on(9, 20), -3000), cash(2, on(9, 21), -7000), cash(3, on(9, 22), -4000)] };
    const cleared = { bank: [bank(1, on(10, 5), -3000)], clearings: [{ id: 1, bank: [1], ledger: [1] }] };
    expect(reconcile(input({ ...before, ...cleared })).difference).toBe(7000);
    const marked = reconcile(input({ ...before, ...cleared, outstandingBefore: new Set([2]) }));
    expect([marked.difference, ids(marked.outstandingPayments)]).toEqual([0, [2]]);
    expect(ids(reconcile(input({ ...before, ...cleared, asOf: on(10, 1), outstandingBefore: new Set([2]) })).outstandingPayments)).toEqual([
      1, 2,
    ]);
  });
  it('whose cleared line was corrected says which clearing no longer adds up, and clears nothing by it', () => {
    const { broken, outstandingPayments } = reconcile({ ...month, ledger: [cash(1, on(10, 2), -19_000), ...month.ledger.slice(1)] });
    expect([broken, ids(outstandingPayments)]).toEqual([[7], [1, 3]]);
    expect(reconcile({ ...month, ledger: month.ledger.slice(1) }).broken).toEqual([7]);
  });
  it('without anything is its opening balances', () => expect(reconcile(input({})).difference).toBe(0));
});

it('the difference is that of the opening balances on every day, whatever is cleared', () => {
  const lineOf = fc.record({
    day: fc.integer({ min: 1, max: 28 }),
    amount: fc.integer({ min: -1000, max: 1000 }),
    pair: fc.integer({ min: 0, max: 5 }),
  });
  fc.assert(
    fc.property(
      fc.array(lineOf, { maxLength: 12 }),
      fc.array(lineOf, { maxLength: 12 }),
      fc.integer({ min: 1, max: 31 }),
      fc.integer({ min: -500, max: 500 }),
      (ofBank, ofLedger, day, apart) => {
        const banks = ofBank.map(({ day: of, amount }, id) => bank(id, on(10, of), amount));
        const ledger = ofLedger.map(({ day: of, amount }, id) => cash(id, on(10, of), amount));
        // lines of one pair number are one clearing; those that do not add up are broken
        const clearings = [0, 1, 2, 3, 4, 5].map((pair) => ({
          id: pair,
          bank: ofBank.flatMap((line, id) => (line.pair === pair ? [id] : [])),
          ledger: ofLedger.flatMap((line, id) => (line.pair === pair ? [id] : [])),
        }));
        const held = clearings.filter((each) => each.bank.length + each.ledger.length > 0);
        const { difference, adjustedBank, adjustedLedger } = reconcile(
          input({ bank: banks, ledger, clearings: held, asOf: on(10, day), ledgerOpening: 100_000 + apart }),
        );
        expect(difference).toBe(0 - apart);
        expect(adjustedBank - adjustedLedger).toBe(difference);
      },
    ),
  );
});
