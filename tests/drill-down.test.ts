import {
  type CellDto,
  type DrillDownDto,
  drillDownSchema,
  type EntryLinesDto,
  type GridDto,
  lineTrendsSchema,
} from '@wise-margin/contract';
import { SHIPPED_VIEWS } from '@wise-margin/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { filterText } from './support/filter-text.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const amountOf = (cell: CellDto): number | null => (cell.kind === 'amount' ? cell.value : null);
const MOST_FIGURES = 24;
/** Figures spread over a whole statement, by a step that moves through its columns. */
function sample(grid: GridDto): { line: string; column: string; cell: CellDto }[] {
  const all = grid.lines.flatMap((line, row) =>
    line.kind === 'section' || line.kind === 'spacer'
      ? []
      : grid.columns.map((column, position) => ({ line: line.key, column: column.key, cell: grid.cells[row]![position]! })),
  );
  const shown = all.filter(({ cell }) => cell.kind !== 'blank');
  const step = Math.max(1, Math.floor(shown.length / MOST_FIGURES));
  return shown.filter((_, index) => index % step === 0);
}

describe.each([
  [1, 'Tern Island', '2026-10'],
  [2, 'Gannet Rock', '2026-09'],
])('company %i, %s', (company, _, asOf) => {
  const drillDownOf = (view: string, line: string, column: string) =>
    server.get<DrillDownDto>(
      `/companies/${company}/statements/${view}/drill-down?asOf=${asOf}&line=${encodeURIComponent(line)}&column=${encodeURIComponent(column)}`,
    );

  it.each(SHIPPED_VIEWS.map(({ key }) => key))('every kind of figure of %s leads on to what makes it', async (view) => {
    const grid = await server.statement(`/companies/${company}/statements/${view}?asOf=${asOf}`);
    const figures = sample(grid);
    expect(figures.length).toBeGreaterThan(0);
    for (const { line, column, cell } of figures) {
      const drillDown = drillDownSchema.parse(await drillDownOf(view, line, column));
      expect([line, column, drillDown.cell]).toEqual([line, column, cell]);
      const place = `${line}, ${column}`;
      if (drillDown.accountsSum !== null) {
        expect([place, drillDown.accountsSum]).toEqual([place, amountOf(cell)]);
        expect(drillDown.accounts.reduce((sum, { amount }) => sum + amount, 0)).toBe(drillDown.accountsSum);
      } else if (amountOf(cell) !== 0) expect([place, drillDown.parts.length > 0]).toEqual([place, true]);
      expect(drillDown.sentence.length).toBeGreaterThan(10);
    }
  });

  it.each(['income', 'customers', 'balance', 'cash-flow', 'departments', 'activity'])(
    'the entries behind the accounts of %s add up to them',
    async (view) => {
      const grid = await server.statement(`/companies/${company}/statements/${view}?asOf=${asOf}`);
      let followed = 0;
      for (const { line, column, cell } of sample(grid)) {
        if (followed >= 25 || cell.kind !== 'amount' || cell.value === 0) continue;
        const { accounts } = await drillDownOf(view, line, column);
        const account = accounts.find(({ entries }) => entries !== null);
        if (!account) continue;
        const { from, to, filter, opening } = account.entries!;
        const entries = await server.get<EntryLinesDto>(
          `/companies/${company}/accounts/${account.number}/entries?from=${from}&to=${to}&opening=${opening}&${filterText(filter)}`,
        );
        // a line may show a contra account against its own natural sign
        expect([line, column, account.number, Math.abs(entries.sum)]).toEqual([line, column, account.number, Math.abs(account.amount)]);
        expect(entries.figure).toBe(entries.sum);
        followed += 1;
      }
      expect(followed).toBeGreaterThan(1);
    },
  );
});

describe('a line by month', () => {
  const at = '/companies/1/statements';
  const trendOf = async (view: string, line: string) =>
    lineTrendsSchema.parse(await server.get(`${at}/${view}/line-trends?asOf=2026-10&lines=${line}`))[0]!;
  it('has the figures of the statement by month, with budget and prior year, and blanks where nothing is posted', async () => {
    const trend = await trendOf('income', 'revenue');
    const months = await server.statement(`${at}/income-months?asOf=2026-10`);
    const row = months.cells[months.lines.findIndex(({ key }) => key === 'revenue')]!;
    const values = (key: string) =>
      trend.months.map(({ period }) => {
        const cell = row[months.columns.findIndex((column) => column.key === `months.${period}.${key}`)]!;
        return cell.kind === 'amount' ? cell.value : null;
      });
    expect([trend.kind, trend.months.length, trend.actual, trend.budget]).toEqual(['amount', 12, values('actual'), values('budget')]);
    expect(trend.actual.slice(7)).toEqual([null, null, null, null, null]);
    const before = await server.statement(`${at}/income-months?asOf=2025-10`);
    const first =
      before.cells[before.lines.findIndex(({ key }) => key === 'revenue')]![
        before.columns.findIndex(({ key }) => key === 'months.2025-04.actual')
      ]!;
    expect(trend.prior[0]).toBe(first.kind === 'amount' ? first.value : NaN);
    expect([trend.index!.base, trend.index!.actual[0]]).toEqual(['2026-04', 100]);
    expect(trend.index!.prior[3]).toBeCloseTo((trend.prior[3]! / trend.actual[0]!) * 100, 9);
  });
  it('says what a ratio is, and what is no line', async () => {
    expect(await trendOf('ratios', 'operating_margin')).toMatchObject({ kind: 'percent' });
    expect(await trendOf('ratios', 'receivable_days')).toMatchObject({ kind: 'days' });
    const all = lineTrendsSchema.parse(await server.get(`${at}/income/line-trends?asOf=2026-10`));
    expect(all.map(({ line }) => line.key)).toEqual(expect.arrayContaining(['revenue', 'gross_margin', 'net_income']));
    expect((await server.send('GET', `${at}/income/line-trends?asOf=2026-10&lines=nothing`)).status).toBe(404);
  });
});

describe('filters by customer', () => {
  it('leave what the customer bought, in every figure and its entries', async () => {
    const customers = await server.statement('/companies/1/statements/customers?asOf=2026-10');
    const row = customers.lines.findIndex(({ name }) => name === 'Fennel Point Marine');
    const column = customers.columns.findIndex(({ key }) => key === 'ytd.actual');
    const filter = filterText({ party: ['Fennel Point Marine'] });
    const income = await server.statement(`/companies/1/statements/income?asOf=2026-10&${filter}`);
    const revenue =
      income.cells[income.lines.findIndex(({ key }) => key === 'revenue')]![income.columns.findIndex(({ key }) => key === 'ytd.actual')]!;
    expect(revenue).toEqual(customers.cells[row]![column]);
    expect(income.columns.find(({ key }) => key === 'ytd.actual')!.words).toBe('Actual, Apr to Oct 2026, party Fennel Point Marine');
  });
  it('name near matches, and say how many more there are', async () => {
    const tell = async (name: string) =>
      (
        (await server.send('GET', `/companies/1/statements/income?asOf=2026-10&${filterText({ party: [name] })}`)).body as {
          detail: string;
        }
      ).detail;
    expect(await tell('fennel point marin')).toBe('No line has the party "fennel point marin". Did you mean "Fennel Point Marine"?');
    expect(await tell('zzzz')).toMatch(/^No line has the party "zzzz"\. There are: .* and \d+ more\.$/);
  });
});
