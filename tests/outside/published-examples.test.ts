import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

import type { CellDto } from '@wise-margin/contract';
import { apportion, INCOME_LINES, minor, periodOfKey } from '@wise-margin/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { importCompany, reader } from '../support/import-company.ts';
import { startTestServer, type TestServer } from '../support/server.ts';

// The values are kept in a copy beside this test, so that the tests stand by themselves.
const checks = (name: string): unknown =>
  JSON.parse(readFileSync(join(fileURLToPath(new URL('.', import.meta.url)), 'values', name), 'utf8'));
type Statement = Record<string, number>;
type Published = {
  departmentStore: {
    incomeStatement: { current: Statement; prior: Statement };
    publishedChange: Record<string, [number, number]>;
    publishedPercentOfNetSales: { current: Statement; prior: Statement };
    balanceSheet: { current: Statement; prior: Statement };
    publishedRatios: Statement;
  };
};
const published = checks('published-examples.json') as Published;

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const percent = (cell: CellDto) => (cell.kind === 'ratio' ? Math.round(cell.value * 1000) / 10 : cell);

// Source: Weygandt, Kimmel, Kieso, Accounting Principles, chapter on financial statement analysis: comparative
// statements of a department store, from memory (values/published-examples.json).
describe('the department store', () => {
  const ACCOUNTS = [
    ['100', 'Cash', 'Cash', ''],
    ['400', 'Sales', 'Revenue', 'Sales'],
    ['410', 'Sales returns and allowances', 'Revenue deductions', 'Returns'],
    ['500', 'Cost of goods sold', 'Cost of sales', 'Goods'],
    ['600', 'Selling expenses', 'Operating expenses', 'Selling'],
    ['610', 'Administrative expenses', 'Operating expenses', 'Administrative'],
    ['700', 'Interest and dividends', 'Other income', 'Interest and dividends'],
    ['710', 'Interest expense', 'Interest expense', 'Interest expense'],
    ['800', 'Income tax', 'Income tax', 'Tax'],
  ];
  const KEYS = [
    'sales',
    'salesReturnsAndAllowances',
    'costOfGoodsSold',
    'sellingExpenses',
    'administrativeExpenses',
    'interestAndDividends',
    'interestExpense',
    'incomeTax',
  ];
  let at: ReturnType<typeof reader>;
  beforeAll(async () => {
    const rows = ['entry,date,account,amount'];
    for (const [year, statement] of [
      ['2025', published.departmentStore.incomeStatement.prior],
      ['2026', published.departmentStore.incomeStatement.current],
    ] as const) {
      KEYS.forEach((key, index) => {
        const isCredit = key === 'sales' || key === 'interestAndDividends';
        const amount = statement[key]! * (isCredit ? -1 : 1);
        rows.push(
          `${year}-${index},${year}-06-30,${ACCOUNTS[index + 1]![0]},${amount}.00`,
          `${year}-${index},${year}-06-30,100,${-amount}.00`,
        );
      });
    }
    const company = await importCompany(
      server,
      'Department store',
      `account,name,class,active,group\n${ACCOUNTS.map(([number, name, of, group]) => `${number},${name},${of},yes,${group}`).join('\n')}\n`,
      `${rows.join('\n')}\n`,
    );
    at = reader(await server.statement(`/companies/${company}/statements/income?asOf=2026-12&shares=yes`));
  });
  const LINES: Record<string, string> = {
    sales: 'revenue_lines.sales',
    netSales: 'revenue',
    costOfGoodsSold: 'cost_of_sales',
    grossProfit: 'gross_profit',
    sellingExpenses: 'operating_lines.selling',
    administrativeExpenses: 'operating_lines.administrative',
    totalOperatingExpenses: 'operating_expenses',
    incomeFromOperations: 'operating_income',
    netIncome: 'net_income',
  };
  it.each(Object.entries(published.departmentStore.publishedChange).filter(([key]) => key in LINES))(
    'change of %s',
    (key, [amount, change]) => {
      expect(at(LINES[key]!, 'ytd.prior_difference')).toMatchObject({ kind: 'amount', value: amount * 100 });
      expect(percent(at(LINES[key]!, 'ytd.prior_percent'))).toBe(change);
    },
  );
  it.each(Object.entries(published.departmentStore.publishedPercentOfNetSales.current).filter(([key]) => key in LINES))(
    '%s in percent of net sales',
    (key, share) => expect(percent(at(LINES[key]!, 'ytd.actual_share'))).toBe(share),
  );
  it('returns are 4.7 percent of net sales, shown as a deduction', () =>
    expect(percent(at('revenue_lines.returns', 'ytd.actual_share'))).toBe(
      -published.departmentStore.publishedPercentOfNetSales.current.salesReturnsAndAllowances!,
    ));
  it('an as-of month a year earlier gives the prior percentages', async () => {
    const grid = reader(await server.statement(`/companies/1/statements/income?asOf=2025-12&shares=yes`));
    for (const [key, share] of Object.entries(published.departmentStore.publishedPercentOfNetSales.prior))
      expect(percent(grid(LINES[key]!, 'ytd.actual_share'))).toBe(share);
  });
});

// Source: Weygandt, Kimmel, Kieso, as above; the balance sheets are posted as two year ends whose changes balance, dividends among them.
describe('the ratios of the department store', () => {
  const { incomeStatement, balanceSheet, publishedRatios, publishedChange } = published.departmentStore;
  const ACCOUNTS = [
    ['100', 'Current assets', 'Other current assets'],
    ['150', 'Plant', 'Fixed assets'],
    ['180', 'Intangible assets', 'Other assets'],
    ['200', 'Current liabilities', 'Other current liabilities'],
    ['250', 'Long-term liabilities', 'Long-term debt'],
    ['300', 'Common stock', 'Capital'],
    ['320', 'Retained earnings', 'Retained earnings'],
    ['400', 'Net sales', 'Revenue'],
    ['500', 'Cost of goods sold', 'Cost of sales'],
    ['600', 'Operating expenses', 'Operating expenses'],
    ['700', 'Interest and dividends', 'Other income'],
    ['710', 'Interest expense', 'Interest expense'],
    ['800', 'Income tax', 'Income tax'],
  ];
  let company: number;
  let ratios: ReturnType<typeof reader>;
  beforeAll(async () => {
    const rows = ['entry,date,account,amount'];
    let before: Statement = {};
    for (const [year, balances, income] of [
      ['2025', balanceSheet.prior, incomeStatement.prior],
      ['2026', balanceSheet.current, incomeStatement.current],
    ] as const) {
      const change = (key: string) => balances[key]! - (before[key] ?? 0);
      const amounts: Record<string, number> = {
        '100': change('currentAssets'),
        '150': change('plantAssetsNet'),
        '180': change('intangibleAssets'),
        '200': -change('currentLiabilities'),
        '250': -change('longTermLiabilities'),
        '300': -change('commonStock'),
        // what retained earnings changed by beside the year's result: what they began with, and the dividends
        '320': income['netIncome']! - change('retainedEarnings'),
        '400': -income['netSales']!,
        '500': income['costOfGoodsSold']!,
        '600': income['totalOperatingExpenses']!,
        '700': -income['interestAndDividends']!,
        '710': income['interestExpense']!,
        '800': income['incomeTax']!,
      };
      for (const [account, amount] of Object.entries(amounts)) rows.push(`Y${year},${year}-12-31,${account},${amount}.00`);
      before = balances;
    }
    company = await importCompany(
      server,
      'Department store, both statements',
      `account,name,class,active\n${ACCOUNTS.map(([number, name, of]) => `${number},${name},${of},yes`).join('\n')}\n`,
      `${rows.join('\n')}\n`,
    );
    ratios = reader(await server.statement(`/companies/${company}/statements/ratios?asOf=2026-12`));
  });
  const rounded = (line: string, decimals: number, scale = 1): number => {
    const cell = ratios(line, 'ytd.actual');
    return cell.kind === 'ratio' ? Math.round(cell.value * scale * 10 ** decimals) / 10 ** decimals : NaN;
  };
  it.each([
    ['current_ratio', 2, 1, 'currentRatio'],
    ['net_margin', 1, 100, 'profitMarginPercent'],
    ['interest_coverage', 0, 1, 'timesInterestEarned'],
    ['debt_to_assets', 1, 100, 'debtToAssetsPercent'],
    ['asset_turnover', 1, 1, 'assetTurnover'],
    ['return_on_assets', 1, 100, 'returnOnAssetsPercent'],
    ['return_on_equity', 1, 100, 'returnOnEquityPercent'],
  ] as const)('%s', (line, decimals, scale, key) => expect(rounded(line, decimals, scale)).toBe(publishedRatios[key]));
  it('and the changes of the balance sheet', async () => {
    const balance = reader(await server.statement(`/companies/${company}/statements/balance?asOf=2026-12`));
    for (const [key, line] of [
      ['totalAssets', 'total_assets'],
      ['plantAssetsNet', 'fixed_assets'],
    ] as const) {
      const [amount, change] = publishedChange[key]!;
      expect(balance(line, 'year_end.difference')).toMatchObject({ value: amount * 100 });
      expect(percent(balance(line, 'year_end.percent'))).toBe(change);
    }
    const stands = (line: string) => balance(line, 'now.balance');
    const result = stands('result_of_the_year');
    const retained = stands('retained_earnings');
    expect((result.kind === 'amount' ? result.value : NaN) + (retained.kind === 'amount' ? retained.value : NaN)).toBe(
      balanceSheet.current['retainedEarnings']! * 100,
    );
  });
});

// Source: datasets::JohnsonJohnson of R 4.2.2, its trailing sums and growth computed there (values/quarterly.json).
describe('quarterly figures', () => {
  const { JohnsonJohnson } = checks('quarterly.json') as {
    JohnsonJohnson: {
      yoyPercent: { quarters: string[]; value: number[] };
      trailing4: { quarters: string[]; sum: number[] };
    };
  };
  const trailing = new Map(JohnsonJohnson.trailing4.quarters.map((quarter, index) => [quarter, JohnsonJohnson.trailing4.sum[index]!]));
  const growth = new Map(JohnsonJohnson.yoyPercent.quarters.map((quarter, index) => [quarter, JohnsonJohnson.yoyPercent.value[index]!]));
  it('agree on trailing sums and on growth over the year before', async () => {
    const text = readFileSync(join(fileURLToPath(new URL('.', import.meta.url)), 'values', 'johnsonjohnson.csv'), 'utf8');
    const series = text
      .trim()
      .split('\n')
      .filter((line) => !line.startsWith('#') && !line.startsWith('quarter'))
      .map((line) => line.replaceAll('"', '').split(',') as [string, string])
      .filter(([quarter]) => quarter >= '1969');
    const rows = series.flatMap(([quarter, value]) => {
      const date = `${quarter.slice(0, 4)}-${String(Number(quarter.slice(-1)) * 3).padStart(2, '0')}-15`;
      return [`${quarter},${date},400,-${value}`, `${quarter},${date},100,${value}`];
    });
    const company = await importCompany(
      server,
      'Quarters',
      'account,name,class,active\n100,Cash,Cash,yes\n400,Earnings,Revenue,yes\n',
      `entry,date,account,amount\n${rows.join('\n')}\n`,
    );
    const books = await server.application.booksCache.of(company);
    const yearBefore = { kind: 'quarter', shift: { years: -1 } } as const;
    const { grid } = await server.application.evaluator.evaluate(books, {
      lineSet: INCOME_LINES,
      columnSet: {
        key: 'quarters',
        name: 'Quarters',
        blocks: [
          {
            key: 'q',
            heading: '{span}',
            span: { kind: 'quarter' },
            repeat: { over: 'quarters', last: 44 },
            columns: [
              { kind: 'amount', key: 'actual', heading: '', scenario: 'actual', span: { kind: 'quarter' } },
              { kind: 'amount', key: 'before', heading: '', scenario: 'actual', span: yearBefore },
              { kind: 'percentDifference', key: 'growth', heading: '', compared: 'actual', base: 'before' },
              { kind: 'amount', key: 'trailing', heading: '', scenario: 'actual', span: { kind: 'trailingTwelve' } },
            ],
          },
        ],
      },
      asOf: periodOfKey(books.calendar, '1980-12')!,
      filter: {},
    });
    const line = grid.plan.lineOfKey.get('revenue')!;
    let compared = 0;
    grid.plan.blocks.forEach(({ heading }, block) => {
      const quarter = `${heading.slice(-4)}-${heading.slice(0, 2)}`;
      const cell = (key: string) =>
        grid.cells[line]![grid.plan.columns.find((column) => column.block === block && column.key.endsWith(key))!.index]!;
      expect([quarter, cell('.trailing')]).toEqual([quarter, { kind: 'amount', value: Math.round(trailing.get(quarter)! * 100) }]);
      const wanted = growth.get(quarter);
      if (wanted === undefined) return;
      const found = cell('.growth');
      expect(found.kind === 'ratio' ? found.value * 100 : NaN).toBeCloseTo(wanted, 9);
      compared += 1;
    });
    expect([grid.plan.blocks.length, compared]).toEqual([44, 12]);
  });
});

// Source: largest remainder (Hamilton) rule in exact arithmetic, computed with R 4.2.2 (values/apportion.json).
describe('apportionment', () => {
  type Case = { total: number; weights: number[]; expected: number[] };
  const { cases, handCases } = checks('apportion.json') as { cases: Case[]; handCases: Case[] };
  it.each([...cases, ...handCases])('$total by $weights', ({ total, weights, expected }) =>
    expect(apportion(minor(total), weights)).toEqual(expected),
  );
});
