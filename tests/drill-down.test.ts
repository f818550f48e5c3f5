import {
  type CellDto,
  type DrillDownDto,
  drillDownSchema,
  type EntryLinesDto,
  type EntryListDto,
  figureGroupsSchema,
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

describe('a figure laid out', () => {
  const at = '/companies/1/statements';
  const groupsOf = async (view: string, { line, column, by }: { line: string; column: string; by: string }) =>
    figureGroupsSchema.parse(
      await server.get(
        `${at}/${view}/drill-down/groups?asOf=2026-10&line=${encodeURIComponent(line)}&column=${encodeURIComponent(column)}&by=${by}`,
      ),
    );
  it.each(['income', 'balance', 'cash-flow', 'outlook', 'departments'])('%s: every way adds up to the figure', async (view) => {
    const grid = await server.statement(`${at}/${view}?asOf=2026-10`);
    let followed = 0;
    for (const { line, column, cell } of sample(grid)) {
      if (cell.kind !== 'amount' || cell.value === 0 || followed > 8) continue;
      const drillDown = await server.get<DrillDownDto>(
        `${at}/${view}/drill-down?asOf=2026-10&line=${line}&column=${encodeURIComponent(column)}`,
      );
      const isBudget = drillDown.column.words.includes('Budget') || drillDown.column.words.includes('rojection');
      for (const by of drillDown.groups) {
        // budgets have no customers, journals or projects
        if (isBudget && !['part', 'account', 'month', 'department'].includes(by)) continue;
        const groups = await groupsOf(view, { line, column, by });
        expect([line, column, by, groups.figure, groups.sum]).toEqual([line, column, by, cell.value, groups.sum]);
        expect(groups.rows.reduce((sum, { amount }) => sum + amount, 0)).toBe(groups.sum);
        if (!isBudget) expect([line, column, by, groups.sum]).toEqual([line, column, by, cell.value]);
        followed += 1;
      }
    }
    expect(followed).toBeGreaterThan(3);
  });
  it('a difference has both sides, the largest part first', async () => {
    const grid = await server.statement(`${at}/income?asOf=2026-10`);
    const column = grid.columns.find(({ kind }) => kind === 'difference')!.key;
    const { sides, rows, figure, sum } = await groupsOf('income', { line: 'gross_profit', column, by: 'department' });
    const cell =
      grid.cells[grid.lines.findIndex(({ key }) => key === 'gross_profit')]![grid.columns.findIndex(({ key }) => key === column)]!;
    expect(cell.kind === 'amount' ? cell.value : null).toBe(figure);
    expect(sides).not.toBeNull();
    for (const row of rows) expect(row.compared! - row.base!).toBe(row.amount);
    const sizes = rows.map(({ amount }) => Math.abs(amount));
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    expect(sum).toBe(figure);
  });
  it('a projection is what was posted and what is still budget', async () => {
    const figure = { line: 'revenue', column: 'year.projection' };
    const { rows, sum } = await groupsOf('outlook', { ...figure, by: 'part' });
    expect(rows.map(({ name }) => name).sort()).toEqual(['Actual', 'Budget for the months to come']);
    const months = await groupsOf('outlook', { ...figure, by: 'month' });
    const actual = months.rows.filter(({ name }) => name.endsWith(', actual')).reduce((total, { amount }) => total + amount, 0);
    expect([rows.find(({ name }) => name === 'Actual')!.amount, sum]).toEqual([actual, months.sum]);
  });
  it('a closing balance is what stood before and the month’s movement', async () => {
    const grid = await server.statement(`${at}/balance?asOf=2026-10`);
    const column = grid.columns[0]!.key;
    const { rows } = await groupsOf('balance', { line: grid.lines.find(({ name }) => name === 'Cash')!.key, column, by: 'month' });
    expect(rows.map(({ name }) => name)).toEqual(['Opening balance', 'Oct 2026']);
  });
  it('a part leads to its entries, which add up to it', async () => {
    const { rows } = await groupsOf('income', { line: 'revenue', column: 'ytd.actual', by: 'party' });
    const { entries, amount } = rows[0]!;
    const list = await server.get<EntryListDto>(
      `/companies/1/entries?accounts=${encodeURIComponent(entries!.accounts)}&from=${entries!.from}&to=${entries!.to}&state=posted&${filterText(entries!.filter)}`,
    );
    expect(list.totals.credits - list.totals.debits).toBe(amount);
  });
  it('of a ratio is refused with what to do', async () => {
    const { status, body } = await server.send(
      'GET',
      `${at}/income/drill-down/groups?asOf=2026-10&line=gross_margin&column=month.actual&by=account`,
    );
    expect([status, (body as { detail: string }).detail]).toEqual([422, expect.stringContaining('Open one of its parts')]);
    expect(
      await server.send('GET', `${at}/income/drill-down/groups?asOf=2026-10&line=revenue&column=month.actual&by=region`),
    ).toMatchObject({ status: 422 });
  });
});

describe('a budgeted figure', () => {
  it('says its basis, notes, and who changed it last', async () => {
    const made = await server.send('POST', '/companies/1/budgets', { name: 'To drill into', year: 2027, from: 2026, change: '3%' });
    const { id } = made.body as { id: number };
    const path = `/companies/1/statements/income/drill-down?asOf=2026-10&line=operating_expenses&column=ytd.budget&budget=${id}`;
    const rent = (drillDown: DrillDownDto) => drillDown.accounts.find(({ number }) => number === '6110')!.basis;
    const before = rent(await server.get<DrillDownDto>(path));
    expect(before.join(' ')).toContain('ame months of FY2026, plus 3%');
    expect(before.join(' ')).not.toContain('Last changed');
    const edits = [
      { kind: 'month', account: '6110', month: 0, text: '17,000' },
      { kind: 'note', account: '6110', month: null, text: 'The landlord asked for more' },
    ];
    const saved = await server.send('POST', `/companies/1/budgets/${id}/edits`, { edits, filter: {} });
    expect(saved.status).toBe(200);
    const after = rent(await server.get<DrillDownDto>(path));
    expect(after).toContain('Note: The landlord asked for more');
    expect(after.at(-1)).toMatch(/^Last changed .+ by Tester$/);
  });
});

describe('entries of an account in place', () => {
  const at = '/companies/1/accounts/6120/entries?from=2026-04&to=2026-10';
  it('have a running balance that ends on the figure', async () => {
    const { lines, figure } = await server.get<EntryLinesDto>(at);
    let balance = 0;
    for (const line of lines) expect(line.balance).toBe((balance += line.amount));
    expect(balance).toBe(figure);
  });
  it('are found, sorted by size, and exported as listed', async () => {
    const found = await server.get<EntryLinesDto>(`${at}&find=EL-2607B&sort=amount`);
    expect(found.lines.map(({ document, balance }) => [document, balance])).toEqual([['EL-2607B', null]]);
    const sizes = (await server.get<EntryLinesDto>(`${at}&sort=amount`)).lines.map(({ amount }) => Math.abs(amount));
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    const file = await (await fetch(`${server.base}${at.replace('?', '/export.csv?')}&find=EL-2607B`)).text();
    expect(
      file
        .trim()
        .split('\n')
        .map((line) => line.split(',').slice(1, 5)),
    ).toEqual([
      ['date', 'account', 'amount', 'balance'],
      ['2026-07-29', '6120', '22143.00', ''],
    ]);
  });
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
