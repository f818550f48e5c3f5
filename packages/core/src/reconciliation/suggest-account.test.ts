import { describe, expect, it } from 'vitest';

import { isoDate } from '../calendar/iso-date.ts';
import { account } from '../chart/small-account.ts';
import { differenceAccount, isWatchedAccount } from '../chart/watched-account.ts';
import { minor } from '../money/minor.ts';
import { suggestAccount } from './suggest-account.ts';

const chart = {
  accounts: [
    account('1010', 'cash', { name: 'Bank fees refundable' }),
    account('6640', 'operatingExpenses', { name: 'Card and bank fees' }),
    account('7010', 'otherIncome', { name: 'Interest income' }),
    account('7510', 'interestExpense', { name: 'Interest expense' }),
  ],
};
const suggested = (text: string, amount: number, earlier: readonly { text: string; account: string }[] = []) =>
  suggestAccount({ id: 1, date: isoDate(2026, 10, 30), amount: minor(amount), text, reference: '', party: '' }, { chart, earlier });

describe('the account of a line that the ledger lacks', () => {
  it.each([
    ['ACCOUNT ANALYSIS FEE', -4850, '6640'],
    ['Monthly service charge', -500, '6640'],
    ['FEE REVERSED', 4850, null],
    ['INTEREST EARNED', 100, '7010'],
    ['INTEREST', -100, '7510'],
    ['COFFEE SHOP', -100, null],
    ['DEPOSIT', 100, null],
    ['', -1, null],
  ])('%s of %d is %s', (text, amount, number) => expect(suggested(text, amount)).toBe(number));
  it('is the one that a line with the same first words went to last, whatever figures follow them', () =>
    expect(
      suggested('WIRE FEE 0991', -1500, [
        { text: 'WIRE FEE 0817', account: '6650' },
        { text: 'WIRE FEE 0711', account: '6640' },
      ]),
    ).toBe('6650'));
  it('is none that is inactive, or is on the balance sheet', () => {
    const closed = { accounts: chart.accounts.map((each) => ({ ...each, active: false })) };
    const line = { id: 1, date: isoDate(2026, 10, 30), amount: minor(-1), text: 'FEE', reference: '', party: '' };
    expect(suggestAccount(line, { chart: closed, earlier: [] })).toBeNull();
    expect(suggestAccount(line, { chart: { accounts: chart.accounts.slice(0, 1) }, earlier: [] })).toBeNull();
  });
});

describe('watched accounts', () => {
  it.each([
    ['Reconciliation differences', true],
    ['Suspense', true],
    ['Unallocated receipts', true],
    ['Clearing differences', true],
    ['Card clearing', false],
    ['Differences in exchange', false],
  ])('%s: %s', (name, is) => expect(isWatchedAccount({ name })).toBe(is));
  it('the one for forced differences is named for them, else the first; none without any, or where it is inactive', () => {
    const suspense = account('1990', 'otherCurrentAssets', { name: 'Suspense' });
    const differences = account('6790', 'operatingExpenses', { name: 'Reconciliation differences' });
    expect(differenceAccount({ accounts: [suspense, differences] })).toBe('6790');
    expect(differenceAccount({ accounts: [suspense] })).toBe('1990');
    expect(differenceAccount({ accounts: [{ ...differences, active: false }] })).toBeNull();
    expect(differenceAccount(chart)).toBeNull();
  });
});
