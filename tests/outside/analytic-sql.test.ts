import type { DuckDBConnection } from '@duckdb/node-api';
import type { CompanyDto, ReportDto, VarianceExplanationDto } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, type AmountColumn, CASH_FLOW, findClass, SHIPPED_VIEWS } from '@wise-margin/core';
import { gannetRockFiles, ternIslandFiles } from '@wise-margin/demo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from '../support/demo-company.ts';
import { filterText } from '../support/filter-text.ts';
import type { TestServer } from '../support/server.ts';
import { loadBoth, rows } from '../support/sql-engine.ts';

let server: TestServer;
beforeAll(async () => {
  // its companies are these files, imported
  server = await demoServer();
});
afterAll(() => server.close());

const isIncome = (className: string) => ACCOUNT_CLASSES[findClass(className)!].statement === 'income';

describe.each([
  ['Tern Island', ternIslandFiles(), 4],
  ['Gannet Rock', gannetRockFiles(), 1],
] as const)('%s', (name, files, startMonth) => {
  let company: CompanyDto;
  let sql: DuckDBConnection;
  beforeAll(async () => {
    ({ company, sql } = await loadBoth(server, { name, files, startMonth }));
  });
  const posted = () => company.periods.filter(({ key }) => key <= company.lastPosted!);
  const classesOf = async () => {
    const result = await sql.runAndReadAll('SELECT account, class FROM accounts');
    return new Map(result.getRows().map(([account, of]) => [String(account), String(of)]));
  };

  it('agrees on the whole trial balance of every month, to the cent', async () => {
    const classes = await classesOf();
    let compared = 0;
    for (const { key, year } of posted()) {
      const toDate = await rows(sql, `SELECT account, sum(net) FROM ledger WHERE month <= '${key}' GROUP BY account`);
      const inYear = await rows(
        sql,
        `SELECT account, sum(net) FROM ledger WHERE month <= '${key}' AND fiscal_year = ${year} AND coalesce(kind, '') <> 'closing' GROUP BY account`,
      );
      const inMonth = await rows(
        sql,
        `SELECT account, sum(net) FROM ledger WHERE month = '${key}' AND coalesce(kind, '') <> 'closing' GROUP BY account`,
      );
      const balance = await server.get<ReportDto>(`/companies/${company.id}/reports/trial-balance?limit=2000&range=${key}`);
      expect(balance.sides!.debits).toBe(balance.sides!.credits);
      const ours = new Map(balance.rows.map(({ cells }) => [cells[0], cells.map(Number)]));
      const differing: unknown[] = [];
      for (const [account, of] of classes) {
        const row = ours.get(account);
        const closing = (row?.[6] ?? 0) - (row?.[7] ?? 0);
        const wanted = (isIncome(of) ? inYear : toDate).get(account) ?? 0;
        if (closing !== wanted) differing.push({ account, closing, wanted });
        const [change, moved] = [row?.[5] ?? 0, inMonth.get(account) ?? 0];
        if (isIncome(of) && change !== moved) differing.push({ account, change, moved });
        compared += 1;
      }
      expect([key, differing]).toEqual([key, []]);
    }
    expect(compared).toBeGreaterThan(700);
  });

  it('agrees on the income statement of every month and slice, to the cent', async () => {
    const dimension = company.dimensions[0]!;
    const classes = await classesOf();
    const ofClass = (...keys: string[]) => [...classes].filter(([, of]) => keys.includes(findClass(of)!)).map(([account]) => account);
    const LINES: Record<string, readonly [1 | -1, readonly string[]]> = {
      revenue: [-1, ofClass('revenue', 'revenueDeductions')],
      cost_of_sales: [1, ofClass('costOfSales')],
      operating_expenses: [1, ofClass('operatingExpenses', 'depreciation')],
      other_items: [-1, ofClass('otherIncome', 'otherExpense', 'interestExpense')],
      income_tax: [1, ofClass('incomeTax')],
    };
    const sums = new Map<string, Map<string, number>>();
    const result = await sql.runAndReadAll(
      `SELECT month, coalesce(${dimension.name}, '') AS slice, account, sum(net) FROM ledger
       WHERE coalesce(kind, '') <> 'closing' GROUP BY GROUPING SETS ((month, slice, account), (month, account))`,
    );
    for (const [month, slice, account, net] of result.getRows()) {
      const of = `${String(month)} ${slice === null ? 'all' : `of ${String(slice)}`}`;
      sums.set(of, (sums.get(of) ?? new Map<string, number>()).set(String(account), Number(net)));
    }
    let compared = 0;
    for (const { key } of posted()) {
      for (const value of [null, ...dimension.values]) {
        const theirs = sums.get(`${key} ${value === null ? 'all' : `of ${value}`}`) ?? new Map<string, number>();
        const filter = value === null ? '' : `&${filterText({ [dimension.name]: [value] })}`;
        const grid = await server.statement(`/companies/${company.id}/statements/income?asOf=${key}${filter}`);
        const column = grid.columns.findIndex((each) => each.key === 'month.actual');
        const cell = (line: string) => grid.cells[grid.lines.findIndex((each) => each.key === line)]![column]!;
        let net = 0;
        for (const [line, [sign, accounts]] of Object.entries(LINES)) {
          const sum = accounts.reduce((total, account) => total + (theirs.get(account) ?? 0), 0);
          net -= sum;
          expect([key, value, line, cell(line)]).toEqual([key, value, line, { kind: 'amount', value: sum === 0 ? 0 : sign * sum }]);
          compared += 1;
        }
        expect([key, value, cell('net_income')]).toEqual([key, value, { kind: 'amount', value: net === 0 ? 0 : net }]);
        const differing: unknown[] = [];
        for (const [position, line] of grid.lines.entries()) {
          if (line.account === null) continue;
          const natural = ACCOUNT_CLASSES[findClass(classes.get(line.account)!)!].natural === 'debit' ? 1 : -1;
          const sign = line.key.startsWith('other_lines') ? -1 : natural;
          const sum = theirs.get(line.account) ?? 0;
          const shown = grid.cells[position]![column]!;
          if (shown.kind !== 'amount' || shown.value !== sign * sum) differing.push({ account: line.account, shown, wanted: sign * sum });
        }
        expect([key, value, differing]).toEqual([key, value, []]);
      }
    }
    expect(compared).toBeGreaterThan(500);
  });

  it('agrees on the parts of differences to the prior year by account, customer or vendor, journal and dimension, to the cent', async () => {
    const classes = await classesOf();
    const LINES: Record<string, readonly [1 | -1, readonly string[]]> = {
      revenue: [-1, ['revenue', 'revenueDeductions']],
      cost_of_sales: [1, ['costOfSales']],
      operating_expenses: [1, ['operatingExpenses', 'depreciation']],
    };
    const LAYOUTS: Record<string, readonly [column: string, none: string]> = {
      account: ['account', ''],
      party: ['party', 'No customer or vendor'],
      source: ['source', 'No journal'],
      ...Object.fromEntries(company.dimensions.map(({ name: dimension }) => [dimension, [dimension, `No ${dimension}`] as const])),
    };
    let compared = 0;
    for (const { key } of posted().slice(-3)) {
      const earlier = `${Number(key.slice(0, 4)) - 1}${key.slice(4)}`;
      for (const [line, [sign, wanted]] of Object.entries(LINES)) {
        const accounts = [...classes].flatMap(([account, of]) => (wanted.includes(findClass(of)!) ? [`'${account}'`] : []));
        const { layouts } = await server.get<VarianceExplanationDto>(
          `/companies/${company.id}/explanation?line=${line}&comparison=priorYear&asOf=${key}`,
        );
        for (const [by, [column, none]] of Object.entries(LAYOUTS)) {
          const theirs = await rows(
            sql,
            `SELECT coalesce(${column}, ''), ${sign} * (coalesce(sum(net) FILTER (month = '${key}'), 0) - coalesce(sum(net) FILTER (month = '${earlier}'), 0))
             FROM ledger WHERE coalesce(kind, '') <> 'closing' AND month IN ('${key}', '${earlier}') AND account IN (${accounts.join(', ')}) GROUP BY 1`,
          );
          const layout = layouts.find((each) => each.by === by)!;
          expect([by, layout.rest.count]).toEqual([by, 0]);
          const ours = new Map(
            layout.parts.map(({ name: part, amount }) => [
              by === 'account' ? part.split(' ')[0]! : part === none ? '' : part.toLowerCase(),
              amount,
            ]),
          );
          const differing = [...theirs].filter(
            ([value, amount]) => (ours.get(by === 'account' ? value : value.toLowerCase()) ?? 0) !== amount,
          );
          expect([key, line, by, differing]).toEqual([key, line, by, []]);
          compared += theirs.size;
        }
      }
    }
    expect(compared).toBeGreaterThan(50);
  });

  it('agrees on every actual amount of every shipped view, to the cent', async () => {
    const result = await sql.runAndReadAll(
      `SELECT account, month, coalesce(kind, '') = 'closing' AS closing, coalesce(party, '') AS party,
         ${company.dimensions.map(({ name: dimension }) => `coalesce(${dimension}, '') AS ${dimension}`).join(', ')}, sum(net) AS net
       FROM ledger GROUP BY ALL`,
    );
    type Sum = { month: string; closing: boolean; net: number; values: Record<string, string> };
    const byAccount = new Map<string, Sum[]>();
    for (const row of result.getRowObjects()) {
      const values: Record<string, string> = { party: String(row['party']) };
      for (const { name: dimension } of company.dimensions) values[dimension] = String(row[dimension]);
      const sums = byAccount.get(String(row['account'])) ?? [];
      byAccount.set(String(row['account']), sums);
      sums.push({ month: String(row['month']), closing: Boolean(row['closing']), net: Number(row['net']), values });
    }
    const classes = await classesOf();
    const asOf = company.lastPosted!;
    let compared = 0;
    for (const { key: view } of SHIPPED_VIEWS) {
      const { grid } = await server.application.statements.evaluated(company.id, view, { asOf, filter: {} });
      const { plan } = grid;
      const keyOf = (period: number) => plan.calendar.periods[period]?.key ?? '0000-00';
      /** the slow and plain way: every sum of the ledger looked at, one by one */
      const plain = (line: (typeof plan.lines)[number], column: AmountColumn): number | null => {
        const { source } = line;
        if ((source.kind !== 'accounts' && source.kind !== 'slice') || !column.resolved.ok) return null;
        // parts of the statement of cash flows are read from entries: the test below
        if (CASH_FLOW in line.filter) return null;
        const { from, to } = column.resolved.span;
        const filters = Object.entries(column.filter);
        const added = source.accounts.map((position) => {
          const account = plan.chart.accounts[position]!;
          const income = isIncome(classes.get(account.number)!);
          const measure = income
            ? (line.measure ?? column.measure) === 'opening'
              ? 'opening'
              : 'change'
            : (line.measure ?? column.measure);
          const start = plan.calendar.periods[from]!;
          const ranges: Record<string, readonly [string, string]> = {
            change: [start.key, keyOf(to)],
            closing: ['0000-00', keyOf(to)],
            opening: [income ? keyOf(from - (start.number - 1)) : '0000-00', keyOf(from - 1)],
          };
          if (line.yearPart !== null) {
            const end = plan.calendar.periods[to]!;
            const first = to - (end.number - 1);
            ranges['closing'] = line.yearPart === 'current' ? [keyOf(first), end.key] : ['0000-00', keyOf(first - 1)];
          }
          const sumOver = (range: string): number =>
            (byAccount.get(account.number) ?? [])
              .filter(
                ({ month, closing, values }) =>
                  month >= ranges[range]![0] &&
                  month <= ranges[range]![1] &&
                  !(income && closing) &&
                  filters.every(([dimension, wanted]) => wanted.includes(values[dimension]!)) &&
                  (source.kind === 'accounts' || values[source.dimension] === source.value),
              )
              .reduce((sum, { net }) => sum + net, 0);
          if (measure !== 'average') return sumOver(measure);
          const mean = (sumOver('opening') + sumOver('closing')) / 2;
          return Math.sign(mean) * Math.floor(Math.abs(mean) + 0.5);
        });
        return line.sign * added.reduce((sum, each) => sum + each, 0);
      };
      for (const column of plan.columns) {
        if (column.kind !== 'amount' || column.scenario !== 'actual') continue;
        for (const line of plan.lines) {
          const cell = grid.cells[line.index]![column.index]!;
          const wanted = cell.kind === 'amount' ? plain(line, column) : null;
          if (wanted === null || cell.kind !== 'amount') continue;
          if (cell.value !== wanted) expect([view, line.key, column.key, cell.value]).toEqual([view, line.key, column.key, wanted]);
          compared += 1;
        }
      }
    }
    expect(compared).toBeGreaterThan(2500);
  });

  it('agrees on the statement of cash flows of every month: cash, net income, depreciation, and cash paid and received for assets', async () => {
    const classes = await classesOf();
    const list = (...keys: string[]) =>
      [...classes].flatMap(([account, of]) => (keys.includes(findClass(of)!) ? [`'${account}'`] : [])).join(', ') || `''`;
    const ordinary = `coalesce(kind, '') <> 'closing'`;
    const byMonth = async (query: string) =>
      new Map((await sql.runAndReadAll(query)).getRows().map(([key, sum]) => [String(key), Number(sum)]));
    const assets = list('fixedAssets', 'otherAssets');
    const capital = list(
      'fixedAssets',
      'otherAssets',
      'accumulatedDepreciation',
      'shortTermDebt',
      'longTermDebt',
      'capital',
      'dividends',
      'retainedEarnings',
    );
    const cash = await byMonth(`SELECT month, sum(net) FROM ledger WHERE account IN (${list('cash')}) GROUP BY 1`);
    const depreciation = await byMonth(
      `SELECT month, sum(net) FROM ledger WHERE account IN (${list('depreciation')}) AND ${ordinary} GROUP BY 1`,
    );
    // entries that hold cash and assets and no other capital account
    const paid = await byMonth(
      `SELECT month, sum(CASE WHEN account IN (${list('cash')}) THEN net ELSE 0 END) FROM ledger WHERE entry IN (
         SELECT entry FROM ledger GROUP BY entry HAVING bool_or(account IN (${assets})) AND bool_or(account IN (${list('cash')}))
           AND NOT bool_or(account IN (${capital}) AND account NOT IN (${assets}, ${list('accumulatedDepreciation')}))) GROUP BY 1`,
    );
    // bills for assets, paid later: payments that name the same party and document
    const bills = await byMonth(
      `SELECT month, -sum(net) FROM ledger WHERE account IN (${list('payables')}) AND net > 0 AND document <> '' AND (party, document) IN (
         SELECT (party, document) FROM ledger WHERE account IN (${assets}) AND document <> '') GROUP BY 1`,
    );
    const [opening] = posted();
    let compared = 0;
    for (const { key } of posted()) {
      const grid = await server.statement(`/companies/${company.id}/statements/cash-flow?asOf=${key}`);
      const column = grid.columns.findIndex((each) => each.key === 'month.actual');
      const value = (line: string) => {
        const cell = grid.cells[grid.lines.findIndex((each) => each.key === line)]![column]!;
        return cell.kind === 'amount' ? cell.value : cell.kind;
      };
      expect([key, value('net_change_in_cash'), value('unexplained')]).toEqual([key, cash.get(key) ?? 0, 0]);
      expect([key, value('depreciation_added_back')]).toEqual([key, depreciation.get(key) ?? 0]);
      // the opening balances are one entry of every account
      if (key !== opening!.key) expect([key, value('investing_cash')]).toEqual([key, (paid.get(key) ?? 0) + (bills.get(key) ?? 0)]);
      compared += 1;
    }
    expect(compared).toBeGreaterThan(30);
  });
});
