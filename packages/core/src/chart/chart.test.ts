import { describe, expect, it } from 'vitest';

import { isBalanceAccount, isIncomeAccount, polarityOf, signOf } from './account.ts';
import { ACCOUNT_CLASS_KEYS, ACCOUNT_CLASSES, classOf, findClass } from './account-class.ts';
import { accountListText, parseAccountList } from './account-list.ts';
import { absentFrom, selectAccounts, selects } from './selection.ts';
import { account } from './small-account.ts';

const chart = {
  accounts: [
    account('4100', 'revenue', { group: 'Tours' }),
    account('900', 'revenue'),
    account('4010', 'revenue', { group: 'Kayaks' }),
    account('6010', 'operatingExpenses'),
    account('10100', 'cash'),
    account('4-10', 'revenueDeductions', { group: 'Kayaks' }),
  ],
};
const numbers = (selection: Parameters<typeof selectAccounts>[1]) =>
  selectAccounts(chart, selection).map((index) => chart.accounts[index]!.number);

describe('classes', () => {
  it('are found by key or words, in any case and spacing', () => {
    for (const key of ACCOUNT_CLASS_KEYS) {
      expect(findClass(key)).toBe(key);
      expect(findClass(ACCOUNT_CLASSES[key].name.toUpperCase())).toBe(key);
      expect(findClass(` ${ACCOUNT_CLASSES[key].name.replaceAll(' ', '-')} `)).toBe(key);
    }
    expect(findClass('goodwill')).toBeNull();
    expect(findClass('')).toBeNull();
  });
  it('have words of their own', () =>
    expect(new Set(ACCOUNT_CLASS_KEYS.map((key) => classOf(key).name)).size).toBe(ACCOUNT_CLASS_KEYS.length));
  it('give sign, statement and polarity; an account may override the polarity', () => {
    expect([
      signOf(account('1', 'revenue')),
      signOf(account('1', 'operatingExpenses')),
      signOf(account('1', 'accumulatedDepreciation')),
    ]).toEqual([-1, 1, 1]);
    expect([
      isIncomeAccount(account('1', 'incomeTax')),
      isBalanceAccount(account('1', 'capital')),
      isIncomeAccount(account('1', 'statistic')),
    ]).toEqual([true, true, false]);
    expect(polarityOf(account('1', 'operatingExpenses'))).toBe('lowerIsBetter');
    expect(polarityOf(account('1', 'operatingExpenses', { polarity: 'neutral' }))).toBe('neutral');
  });
});

describe('selections', () => {
  it('take classes, groups, ranges and single accounts, in order of number', () => {
    expect(numbers({ classes: ['revenue'] })).toEqual(['900', '4010', '4100']);
    expect(numbers({ groups: ['Kayaks'] })).toEqual(['4-10', '4010']);
    expect(numbers({ ranges: [{ from: '4000', to: '6010' }] })).toEqual(['4010', '4100', '6010']);
    expect(numbers({ accounts: ['10100', '900'] })).toEqual(['900', '10100']);
  });
  it('leave exceptions out, also from ranges', () => {
    expect(numbers({ classes: ['revenue'], except: { groups: ['Tours'] } })).toEqual(['900', '4010']);
    expect(numbers({ ranges: [{ from: '1', to: '99999' }], except: { ranges: [{ from: '4000', to: '4999' }] } })).toEqual([
      '4-10',
      '900',
      '6010',
      '10100',
    ]);
  });
  it('take nothing when they name nothing', () => expect(chart.accounts.some((each) => selects({}, each))).toBe(false));
});

describe('lists of accounts as people type them', () => {
  it.each([
    ['4000-4999, 6100', { ranges: [{ from: '4000', to: '4999' }], accounts: ['6100'] }],
    [' 6100 ;6200 – 6299 ', { ranges: [{ from: '6200', to: '6299' }], accounts: ['6100'] }],
    ['', {}],
  ])('%s', (text, list) => expect(parseAccountList(text)).toEqual({ ok: true, list }));
  it('names the part that is none', () => expect(parseAccountList('4000, 5000-')).toEqual({ ok: false, part: '5000-' }));
  it('are written as they are read', () => {
    const text = '4000-4999, 6100, A.1';
    const parsed = parseAccountList(text);
    expect(parsed.ok && accountListText(parsed.list)).toBe(text);
  });
});

describe('what a chart does not hold', () => {
  it('is reported as it was entered', () => {
    const selection = {
      accounts: ['4100', '99123'],
      ranges: [
        { from: '4000', to: '4999' },
        { from: '8000', to: '8999' },
      ],
      groups: ['Tours', 'Rafts'],
    };
    expect(absentFrom(chart, selection)).toEqual(['99123', '8000-8999', 'Rafts']);
  });
  it('is nothing for classes and for exceptions', () => {
    expect(absentFrom(chart, { classes: ['incomeTax'], except: { accounts: ['99123'] } })).toEqual([]);
  });
});
