import type { BenchmarkDto, DrillDownDto, EntryLinesDto, GridDto, ViewDto, ViewListDto } from '@wise-margin/contract';
import { INCOME_LINES, REVIEW_COLUMNS } from '@wise-margin/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { filterText } from './support/filter-text.ts';
import { PICTURE, type TestServer } from './support/server.ts';

let server: TestServer;
let company: string;
beforeAll(async () => {
  server = await demoServer();
  company = '/companies/1';
});
afterAll(() => server.close());

const statement = (view: string, query = '') => server.statement(`${company}/statements/${view}?asOf=2026-10${query}`);
const filter = (values: Parameters<typeof filterText>[0]) => `&${filterText(values)}`;
const cellAt = (grid: GridDto, line: string, column: string) =>
  grid.cells[grid.lines.findIndex(({ key }) => key === line)]![grid.columns.findIndex(({ key }) => key === column)]!;
const amountAt = (grid: GridDto, line: string, column: string): number => {
  const cell = cellAt(grid, line, column);
  return cell.kind === 'amount' ? cell.value : NaN;
};
/** What the ledger's own lines add up to: debit positive. */
async function ledgerSum(condition: string): Promise<number> {
  const [row] = await server.application.database.select<{ sum: number }>(
    `SELECT coalesce(sum(l.amount), 0) AS sum FROM lines l JOIN entries e ON e.id = l.entry_id JOIN accounts a ON a.id = l.account_id WHERE ${condition}`,
  );
  return row!.sum;
}
const INCOME = "a.class IN ('revenue', 'revenueDeductions') AND l.period_code BETWEEN 202701 AND 202707";

describe('what a statement keeps to', () => {
  it('a source journal: its entries only, to the cent, and the drill-down ends on them', async () => {
    const query = filter({ source: ['sales'] });
    const grid = await statement('income', query);
    expect(amountAt(grid, 'revenue', 'ytd.actual')).toBe(-(await ledgerSum(`${INCOME} AND e.source = 'sales' AND e.state = 'posted'`)));
    const drillDown = await server.get<DrillDownDto>(
      `${company}/statements/income/drill-down?asOf=2026-10&line=revenue&column=ytd.actual${query}`,
    );
    const [first] = drillDown.accounts;
    const { from, to, filter: slice } = first!.entries!;
    const lines = await server.get<EntryLinesDto>(`${company}/accounts/${first!.number}/entries?from=${from}&to=${to}${filter(slice)}`);
    expect([lines.sum, lines.figure]).toEqual([first!.amount, first!.amount]);
    expect(new Set(lines.lines.map(({ source }) => source))).toEqual(new Set(['sales']));
  });
  it('the budget is left blank where it does not have the dimension filtered', async () =>
    expect(cellAt(await statement('income', filter({ source: ['sales'] })), 'revenue', 'ytd.budget')).toMatchObject({
      kind: 'blank',
      reason: 'noBudgetByDimension',
    }));
  it('journals add up to the whole', async () => {
    const values = (await server.get<{ values: string[] }>(`${company}/dimensions/source`)).values;
    const each = await Promise.all(
      values.map(async (value) => amountAt(await statement('income', filter({ source: [value] })), 'net_income', 'ytd.actual')),
    );
    expect(each.reduce((sum, value) => sum + value, 0)).toBe(amountAt(await statement('income'), 'net_income', 'ytd.actual'));
  });
  it('entries in draft are counted when asked for, and shown as such', async () => {
    const [without, withDrafts] = [await statement('income'), await statement('income', '&drafts=yes')];
    const drafts = await ledgerSum(
      "a.class NOT IN ('cash') AND e.state = 'draft' AND l.period_code BETWEEN 202701 AND 202707 AND a.number >= '4000'",
    );
    expect(drafts).not.toBe(0);
    expect(amountAt(withDrafts, 'net_income', 'ytd.actual')).toBe(amountAt(without, 'net_income', 'ytd.actual') - drafts);
    expect([without.drafts, withDrafts.drafts]).toEqual([false, true]);
    const drillDown = await server.get<DrillDownDto>(
      `${company}/statements/income/drill-down?asOf=2026-10&line=net_income&column=ytd.actual&drafts=yes`,
    );
    expect(drillDown.accounts.concat().every(({ entries }) => entries === null || entries.drafts)).toBe(true);
  });
  it('accounts typed as numbers and ranges', async () => {
    const grid = await statement('income', `&accounts=${encodeURIComponent('4000-4099, 4210')}`);
    const numbers = grid.lines.flatMap(({ account }) => account ?? []);
    expect(numbers.every((number) => number === '4210' || (number >= '4000' && number <= '4099'))).toBe(true);
    expect(amountAt(grid, 'revenue', 'ytd.actual')).toBe(
      -(await ledgerSum(`${INCOME} AND e.state = 'posted' AND (a.number = '4210' OR a.number BETWEEN '4000' AND '4099')`)),
    );
  });
  it.each([
    ['40l0', 'No account is 40l0'],
    ['99000-99999', 'No account is 99000-99999'],
    ['4000-4100; "x"', 'is not an account or a range'],
  ])('accounts %s that match nothing are refused, with what is near', async (accounts, words) => {
    const { status, body } = await server.send('GET', `${company}/statements/income?asOf=2026-10&accounts=${encodeURIComponent(accounts)}`);
    expect([status, (body as { detail: string }).detail]).toEqual([422, expect.stringContaining(words)]);
  });
});

describe('display choices', () => {
  it('are the view’s, then those of the query; a filter of the view can be taken off', async () => {
    const made = await server.send('POST', `${company}/views`, {
      name: 'Tours in thousands',
      folder: 'Board',
      note: 'For March',
      shared: true,
      lineSet: INCOME_LINES,
      columnSet: REVIEW_COLUMNS,
      display: { unit: 'thousands', foots: true },
      choices: { filter: { department: ['Tours'] }, accounts: '4000-9999' },
    });
    const { key } = made.body as ViewDto;
    const grid = await statement(key);
    expect([grid.display.unit, grid.display.foots, grid.filter, grid.accounts]).toEqual([
      'thousands',
      true,
      { department: ['Tours'] },
      '4000-9999',
    ]);
    const other = await statement(key, `&unit=cents&foots=no&accounts=all${filter({ department: [] })}`);
    expect([other.display.unit, other.display.foots, other.filter, other.accounts]).toEqual(['cents', false, {}, '']);
    expect(amountAt(other, 'revenue', 'month.actual')).toBe(amountAt(await statement('income'), 'revenue', 'month.actual'));

    // a star changes nothing else of it
    await server.send('PUT', `${company}/views/${key}`, { starred: true, version: 0 });
    expect(await server.get<ViewDto>(`${company}/views/${key}`)).toMatchObject({
      starred: true,
      folder: 'Board',
      note: 'For March',
      shared: true,
      version: 1,
      display: { unit: 'thousands', foots: true },
    });
  });
  it('rounded figures foot in every file alike, and the drill-down stays exact', async () => {
    const grid = await statement('income', '&unit=thousands&foots=yes');
    const [parts, total] = [
      grid.lines.flatMap(({ kind, key }, index) => (kind === 'accounts' && key.startsWith('revenue') ? [grid.cells[index]![0]!] : [])),
      amountAt(grid, 'revenue', 'month.actual'),
    ];
    expect(parts.reduce((sum, cell) => sum + (cell.kind === 'amount' ? cell.value : 0), 0)).toBe(total);
    expect(total % 100_000).toBe(0);
    const csv = await (await fetch(`${server.base}${company}/statements/income/export.csv?asOf=2026-10&unit=thousands&foots=yes`)).text();
    expect(csv).toContain(`revenue,,"Revenue, net",${total / 100}.00,`);
    const drillDown = await server.get<DrillDownDto>(
      `${company}/statements/income/drill-down?asOf=2026-10&line=revenue&column=month.actual&unit=thousands&foots=yes`,
    );
    expect(drillDown.cell).toEqual(cellAt(await statement('income'), 'revenue', 'month.actual'));
  });
  it.each(['unit=lakhs', 'negatives=blue', 'decimals=9', 'drafts=maybe', 'form=three'])('%s is refused by its name', async (query) => {
    const { status, body } = await server.send('GET', `${company}/statements/income?asOf=2026-10&${query}`);
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toContain(query.split('=')[0]);
  });
  it('what a person last chose comes with the library, for each view by itself', async () => {
    expect((await server.send('PUT', `${company}/views/balance/choices`, { address: 'unit=thousands' })).status).toBe(204);
    const list = await server.get<ViewListDto>(`${company}/views`);
    expect(list.find(({ key }) => key === 'balance')!.choices).toEqual({ address: 'unit=thousands' });
    expect(list.find(({ key }) => key === 'income')!.choices).toEqual({});
    expect((await server.send('PUT', `${company}/views/view-999/choices`, {})).status).toBe(404);
  });
});

describe('benchmarks', () => {
  const put = (line: string, value: number | null) => server.send('PUT', `${company}/benchmarks`, { line, kind: 'industry', value });
  it('stand in every view that has the line, compared in the line’s own unit', async () => {
    expect((await statement('ratios')).columns.some(({ kind }) => kind === 'benchmark')).toBe(false);
    const changedBy = ['Tern Island'];
    expect((await put('current_ratio', 2.5)).body).toEqual([
      { line: 'current_ratio', kind: 'industry', value: 2.5, scope: 'company', changedBy },
    ]);
    await put('gross_profit', 0.45);
    const ratios = await statement('ratios');
    expect(cellAt(ratios, 'current_ratio', 'month.benchmark')).toEqual({ kind: 'ratio', value: 2.5, unit: 'times' });
    const actual = cellAt(ratios, 'current_ratio', 'month.actual') as { value: number };
    expect((cellAt(ratios, 'current_ratio', 'month.above') as { value: number }).value).toBeCloseTo(actual.value - 2.5, 12);
    const vertical = await statement('vertical');
    expect(cellAt(vertical, 'gross_profit', 'month.above')).toMatchObject({ kind: 'ratio', unit: 'points' });
    expect((await put('current_ratio', null)).body).toEqual([
      { line: 'gross_profit', kind: 'industry', value: 0.45, scope: 'company', changedBy },
    ] satisfies BenchmarkDto[]);
    await put('gross_profit', null);
    expect((await statement('vertical')).columns.some(({ kind }) => kind === 'benchmark')).toBe(false);
  });
});

describe('the logo', () => {
  it('is a PNG or JPEG, saved, shown and removed', async () => {
    expect((await server.sendFile('PUT', `${company}/logo`, 'logo', PICTURE)).body).toMatchObject({
      logo: expect.stringContaining('/logo?version=1'),
    });
    const shown = await fetch(`${server.base}${company}/logo`);
    expect([shown.headers.get('content-type'), new Uint8Array(await shown.arrayBuffer())]).toEqual(['image/png', PICTURE]);
    expect((await server.send('DELETE', `${company}/logo`)).status).toBe(204);
    expect((await fetch(`${server.base}${company}/logo`)).status).toBe(404);
  });
  it.each([
    ['text', new TextEncoder().encode('not a picture'), 'neither a PNG nor a JPEG'],
    ['a picture of 600 kB', Uint8Array.from([...PICTURE, ...new Uint8Array(600_000)]), 'the limit is 500 kB'],
  ])('%s is refused with what to do', async (_, bytes, words) =>
    expect((await server.sendFile('PUT', `${company}/logo`, 'logo', bytes)).body).toMatchObject({ detail: expect.stringContaining(words) }),
  );
});

describe('the measures of the overview', () => {
  const path = `/companies/1/overview-measures`;
  it('are nobody’s until somebody chooses, and each company has its own', async () => {
    expect(await server.get(path)).toEqual({ measures: null });
    expect(await server.send('PUT', path, { measures: ['cash', 'current_ratio'] })).toMatchObject({ status: 200 });
    expect(await server.get(path)).toEqual({ measures: ['cash', 'current_ratio'] });
    expect(await server.get('/companies/2/overview-measures')).toEqual({ measures: null });
    expect(await server.send('PUT', path, { measures: ['luck'] })).toMatchObject({ status: 422 });
    expect(await server.send('PUT', '/companies/99/overview-measures', { measures: [] })).toMatchObject({ status: 404 });
  });
});
