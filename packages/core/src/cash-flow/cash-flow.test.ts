import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import type { Account } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import { account as smallAccount } from '../chart/small-account.ts';
import { minor } from '../money/minor.ts';
import { cashFlowRoleOf } from './account-role.ts';
import { accruedAccounts } from './accrued-accounts.ts';
import { classifyEntries, type LedgerLine } from './cash-flow-history.ts';

const account = (name: string, of: AccountClass, cashflow: string | null = null): Account => smallAccount(name, of, { name, cashflow });
const accounts = [
  account('cash', 'cash'),
  account('receivable', 'receivables'),
  account('inventory', 'inventory'),
  account('prepaid', 'otherCurrentAssets'),
  account('equipment', 'fixedAssets'),
  account('accumulated', 'accumulatedDepreciation', 'operating'),
  account('payable', 'payables'),
  account('interest due', 'otherCurrentLiabilities'),
  account('loan', 'longTermDebt'),
  account('capital', 'capital'),
  account('retained', 'retainedEarnings'),
  account('dividends', 'dividends'),
  account('revenue', 'revenue'),
  account('wages', 'operatingExpenses'),
  account('depreciation', 'depreciation'),
  account('gain', 'otherIncome', 'Investing'),
  account('interest', 'interestExpense'),
];
const chart = { accounts };
const positionOf = (name: string) => accounts.findIndex((each) => each.name === name);
type Row = readonly [name: string, amount: number, party?: string, document?: string];
const entry = (...rows: readonly Row[]): LedgerLine[] =>
  rows.map(([name, amount, party = '', document = '']) => ({ account: positionOf(name), amount: minor(amount), party, document }));
const movementsOf = (...entries: LedgerLine[][]) =>
  classifyEntries(chart, entries).map(({ account: at, part, amount }) => [part, accounts[at]!.name, amount]);

describe('the parts of the statement of cash flows that an entry gives', () => {
  it.each<[string, LedgerLine[], unknown[]]>([
    [
      'a sale at a gain: the proceeds are investing, the gain leaves operating activities',
      entry(['cash', 4200], ['accumulated', 9000], ['equipment', -12_000], ['gain', -1200]),
      [
        ['disposal', 'gain', 1200],
        ['investingIn', 'equipment', -4200],
      ],
    ],
    ['depreciation', entry(['depreciation', 500], ['accumulated', -500]), [['depreciation', 'depreciation', -500]]],
    [
      'depreciation of the workshop, charged to inventory',
      entry(['inventory', 300], ['accumulated', -300]),
      [['depreciation', 'inventory', -300]],
    ],
    [
      'amortization of a prepaid cost',
      entry(['depreciation', 40], ['prepaid', -40]),
      [
        ['depreciation', 'depreciation', -40],
        ['operatingChange', 'prepaid', 40],
      ],
    ],
    ['a purchase for cash', entry(['equipment', 900], ['cash', -900]), [['investingOut', 'equipment', 900]]],
    [
      'a purchase part in cash, part by a loan',
      entry(['equipment', 100], ['cash', -20], ['loan', -80]),
      [
        ['investingOut', 'equipment', 20],
        ['noncashDebtOrEquity', 'equipment', 80],
      ],
    ],
    [
      'a purchase on credit',
      entry(['equipment', 100], ['payable', -100]),
      [
        ['operatingChange', 'payable', 100],
        ['noncashCredit', 'equipment', 100],
      ],
    ],
    [
      'a trade-in: new for old and cash',
      entry(['equipment', 150], ['accumulated', 90], ['equipment', -120], ['gain', -10], ['cash', -110]),
      [
        ['disposal', 'gain', 10],
        ['investingOut', 'equipment', 110],
        ['noncashExchange', 'equipment', 40],
      ],
    ],
    ['a write-off to an expense', entry(['wages', 70], ['equipment', -70]), [['otherNoncash', 'wages', -70]]],
    ['own labor capitalized', entry(['equipment', 60], ['wages', -60]), [['investingOut', 'equipment', 60]]],
    [
      'a loan payment: principal is financing, interest operating',
      entry(['loan', 90], ['interest', 10], ['cash', -100]),
      [['financingOut', 'loan', 90]],
    ],
    ['interest added to a loan', entry(['interest', 15], ['loan', -15]), [['otherNoncash', 'interest', -15]]],
    ['dividends paid', entry(['dividends', 29], ['cash', -29]), [['financingOut', 'dividends', 29]]],
    ['reclassified within a section: nothing', entry(['loan', 500], ['loan', -500]), []],
  ])('%s', (_, lines, expected) => expect(movementsOf(lines)).toEqual(expected));

  it('a bill for an asset is an investing payment when it is paid, by party and document', () => {
    const bill = entry(['equipment', 100], ['payable', -100, 'Forge', 'B-1']);
    const other = entry(['payable', 30, 'Forge', 'B-2'], ['cash', -30]);
    const first = entry(['payable', 60, 'Forge', 'B-1'], ['cash', -60]);
    const second = entry(['payable', 70, 'Forge', 'B-1'], ['cash', -70]);
    expect(movementsOf(bill, other, first, second).slice(2)).toEqual([
      ['operatingChange', 'payable', -60],
      ['investingOut', 'equipment', 60],
      ['operatingChange', 'payable', -40],
      ['investingOut', 'equipment', 40],
    ]);
  });

  it('with income and operating balances explain the change in cash of every balanced entry', () => {
    const lines = fc.array(
      fc.record({ account: fc.integer({ min: 1, max: accounts.length - 1 }), amount: fc.integer({ min: -90_000, max: 90_000 }) }),
      { minLength: 1, maxLength: 7 },
    );
    fc.assert(
      fc.property(lines, fc.boolean(), (rows, balancedByCash) => {
        const sum = rows.reduce((total, { amount }) => total + amount, 0);
        const all = [...rows, { account: positionOf(balancedByCash ? 'cash' : 'payable'), amount: -sum }].map((row): LedgerLine => ({
          ...row,
          amount: minor(row.amount),
          party: '',
          document: '',
        }));
        const inRows = all
          .filter(
            ({ account: at }) =>
              ['operatingAsset', 'operatingLiability', 'income'].includes(cashFlowRoleOf(accounts[at]!)) ||
              accounts[at]!.class === 'depreciation' ||
              accounts[at]!.name === 'gain',
          )
          .reduce((total, { amount }) => total + amount, 0);
        const moved = classifyEntries(chart, [all])
          .filter(({ part }) => !part.startsWith('noncash'))
          .reduce((total, { amount }) => total + amount, 0);
        const cash = all.filter(({ account: at }) => accounts[at]!.class === 'cash').reduce((total, { amount }) => total + amount, 0);
        expect(inRows + moved).toBe(-cash || 0);
      }),
      { numRuns: 400 },
    );
  });
});

describe('balances that hold what is due of one expense', () => {
  it('are those that no other entry without cash touches', () => {
    const entries = [
      entry(['interest', 10], ['interest due', -10]),
      entry(['interest due', 10], ['cash', -10]),
      entry(['interest', 5], ['payable', -5]),
      entry(['wages', 9], ['payable', -9]),
    ];
    expect(accruedAccounts(chart, 'interestExpense', entries).map((at) => accounts[at]!.name)).toEqual(['interest due']);
  });
});
