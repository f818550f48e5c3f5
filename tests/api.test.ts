import {
  accountListSchema,
  type BudgetDto,
  type BudgetGridDto,
  budgetGridSchema,
  budgetHistorySchema,
  budgetListSchema,
  budgetSchema,
  companyListSchema,
  companySchema,
  type DrillDownDto,
  drillDownSchema,
  entryLinesSchema,
  entrySchema,
  entryTemplatesSchema,
  type GridDto,
  type ImportDto,
  importSchema,
  ledgerPeriodsSchema,
  nonrecurringListSchema,
  type PackedBudgetGrid,
  packedGridSchema,
  type Problem,
  problemSchema,
  reportSchema,
  stripSchema,
  unfinishedSchema,
  type WorksheetAnswerDto,
  worksheetAnswerSchema,
  worksheetSchema,
} from '@wise-margin/contract';
import { unpackBudgetGrid } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { z } from 'zod';

import { filterText } from './support/filter-text.ts';
import { PICTURE, startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';
import { ACCOUNTS, HEADER, NEW_COMPANY, row } from './support/small-ledger.ts';

let server: TestServer;
let budget: BudgetDto;
const at = '/companies/1';
const ledger = () => {
  const rows = [HEADER];
  for (let month = 1; month <= 12; month += 1) {
    for (const [year, scale] of [
      ['2025', 100],
      ['2026', 110],
    ] as const) {
      if (year === '2026' && month > 6) continue;
      const date = `${year}-${String(month).padStart(2, '0')}-10`;
      const sale = `${(scale * month).toFixed(2)}`;
      const name = `${year}-${month}`;
      rows.push(row(`S${name}`, date, '1000', sale, ''), row(`S${name}`, date, '4000', '', sale, 'Sale', month % 2 ? 'North' : 'South'));
      rows.push(row(`W${name}`, date, '6000', '40.00', '', 'Pay', 'North'), row(`W${name}`, date, '1000', '', '40.00', 'Pay'));
    }
  }
  return `${rows.join('\n')}\n`;
};
beforeAll(async () => {
  server = await startTestServer();
  const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: ledger() });
  await server.send('POST', `/imports/${made.id}/post`, {});
  const created = await server.send('POST', `${at}/budgets`, {
    name: 'Plan',
    year: 2026,
    from: 2025,
    change: '10%',
    changeByClass: { operatingExpenses: '-5' },
    roundTo: 100,
  });
  expect(created.status).toBe(201);
  budget = created.body as BudgetDto;
});
afterAll(() => server.close());
const cell = (grid: GridDto, line: string, column: string) =>
  grid.cells[grid.lines.findIndex(({ key }) => key === line)]![grid.columns.findIndex(({ key }) => key === column)]!;
const grid = async (filter = '') => unpackBudgetGrid(await server.get<PackedBudgetGrid>(`${at}/budgets/${budget.id}${filter}`));
const edit = (edits: object[], filter: Parameters<typeof filterText>[0] = {}) =>
  server.send('POST', `${at}/budgets/${budget.id}/edits`, { edits, filter });
/** The grid after edits that are taken. */
const edited = async (edits: object[], filter: Parameters<typeof filterText>[0] = {}) => {
  const { status, body } = await edit(edits, filter);
  expect([status, worksheetAnswerSchema.parse(body)]).toEqual([200, body]);
  return grid(`?${filterText(filter)}`);
};

describe('every answer follows the contract', () => {
  it.each<[string, z.ZodType]>([
    ['/companies', companyListSchema],
    [at, companySchema],
    [`${at}/accounts?year=2026`, accountListSchema],
    [`${at}/reports/trial-balance?range=2026-06`, reportSchema],
    [`${at}/reports/account-detail?range=2026-06`, reportSchema],
    [`${at}/reports/journals?range=2026-06&detail=yes`, reportSchema],
    [`${at}/reports/activity?range=2026-06&kind=vendors`, reportSchema],
    [`${at}/reports/aging?asOf=2026-06-30`, reportSchema],
    [`${at}/periods`, ledgerPeriodsSchema],
    [`${at}/periods/unfinished?year=2026&number=6`, unfinishedSchema],
    [`${at}/entry-templates`, entryTemplatesSchema],
    [`${at}/accounts/4000/entries?from=2026-01&to=2026-06`, entryLinesSchema],
    [`${at}/entries/1`, entrySchema],
    ['/imports/1', importSchema],
    [`${at}/imports`, importSchema.array()],
    [`${at}/budgets`, budgetListSchema],
    [`${at}/budgets/1`, budgetGridSchema],
    [`${at}/budgets/1/worksheet`, worksheetSchema],
    [`${at}/budgets/1/changes?since=0`, worksheetAnswerSchema],
    [`${at}/budgets/1/history`, budgetHistorySchema],
    [`${at}/nonrecurring-items`, nonrecurringListSchema],
    [`${at}/statements/income?asOf=2026-06`, packedGridSchema],
    [`${at}/statements/income-months?asOf=2026-06`, packedGridSchema],
    [`${at}/period-strip?asOf=2026-06`, stripSchema],
    [`${at}/statements/income/drill-down?asOf=2026-06&line=revenue&column=month.actual`, drillDownSchema],
  ])('%s', async (path, schema) => {
    const answer = await server.get<unknown>(path);
    expect(schema.parse(answer)).toEqual(answer);
  });
  it('creating a budget too', () => expect(budgetSchema.parse(budget)).toEqual(budget));
  it('the OpenAPI document names every path, and every path answers', async () => {
    const document = await server.get<{ openapi: string; paths: Record<string, { get?: unknown }> }>('/openapi.json');
    expect(document.openapi).toBe('3.1.0');
    expect(Object.keys(document.paths)).toEqual(
      expect.arrayContaining(['/api/health', '/api/openapi.json', '/api/imports/{import}/reverse']),
    );
    await server.sendFile('PUT', `${at}/logo`, 'logo', PICTURE);
    const issued = await server.send('POST', `${at}/packs/lender-pack/months/2026-06/issues`, {});
    const packIssue = String((issued.body as { id: number }).id);
    const mail = { key: 'one mail', to: ['ann@company.com'], subject: 'Pack', text: '', formats: ['pdf'] };
    const mailed = await server.send('POST', `${at}/pack-issues/${packIssue}/mail`, mail);
    const second = await loadSmallCompany(server, { name: 'Second' });
    const members = [1, second].map((company) => ({ company, intercompany: [] }));
    const group = await server.send('POST', '/company-groups', { name: 'Both', currency: 'USD', lead: 1, members });
    const run = await server.send('POST', '/company-runs', { key: 'the only run', pack: 'lender-pack', month: '2026-06', companies: [1] });
    await server.application.companyRuns.settled((run.body as { id: number }).id);
    const share = { expires: new Date(Date.now() + 86_400_000).toISOString().slice(0, 10), drillDown: true };
    const shared = await server.send('POST', `${at}/pack-issues/${packIssue}/shares`, share);
    const parts = {
      companyGroup: String((group.body as { id: number }).id),
      companyRun: String((run.body as { id: number }).id),
      token: (shared.body as { link: string }).link.split('/').at(-1)!,
      from: 'EUR',
      to: 'USD',
      pack: 'lender-pack',
      month: '2026-06',
      packIssue,
      mailMessage: String((mailed.body as { messages: { id: number }[] }).messages[0]!.id),
      company: '1',
      dimension: 'department',
      number: '4000',
      entry: '1',
      import: '1',
      budget: '1',
      view: 'income',
      name: 'ledger',
    } as Record<string, string>;
    for (const [path, operations] of Object.entries(document.paths)) {
      if (!operations.get) continue;
      const response = await fetch(server.base.replace(/\/api$/, '') + path.replaceAll(/\{(\w+)\}/g, (_, name: string) => parts[name]!));
      const type = response.headers.get('content-type') ?? '';
      // a path that needs a query says so as problem details of its own, never as "nothing here"
      expect([path, response.status === 404]).toEqual([path, false]);
      expect([path, /json|csv|image|pdf|zip|spreadsheet|wordprocessing|html|rfc822|event-stream/.test(type)]).toEqual([path, true]);
    }
  });
});

describe('wrong requests are answered by field', () => {
  const refusal = async (method: string, path: string, body?: unknown) => {
    const { status, body: problem } = await server.send(method, path, body);
    expect(problemSchema.parse(problem).status).toBe(status);
    return problem as Problem;
  };
  it.each([
    ['GET', '/companies/99', undefined, 404, 'company 99'],
    ['GET', '/companies/one', undefined, 404, 'company'],
    ['GET', `${at}/statements/income?asOf=2026-13`, undefined, 422, 'YYYY-MM'],
    ['GET', `${at}/statements/income?asOf=2040-01`, undefined, 422, 'outside the fiscal years'],
    ['GET', `${at}/statements/income?asOf=2026-06&filter.department=Nord`, undefined, 422, 'There are: North, South'],
    ['GET', `${at}/statements/income?asOf=2026-06&filter.region=X`, undefined, 422, 'no dimension "region"'],
    ['GET', `${at}/statements/income?asOf=2026-06&filter=nonsense`, undefined, 422, 'filter.department=Tours'],
    ['GET', `${at}/statements/income/drill-down?asOf=2026-06&line=no&column=no`, undefined, 404, 'figure at'],
    ['GET', `${at}/accounts/1234/entries?from=2026-01&to=2026-02`, undefined, 404, 'account 1234'],
    ['POST', `${at}/budgets`, { name: '', year: 2026, from: 2025 }, 422, 'name'],
    ['POST', `${at}/budgets`, { name: 'Plan', year: 2026, from: 2025 }, 422, 'has a budget named Plan already'],
    ['POST', `${at}/budgets`, { name: 'X', year: 2026, from: 2019 }, 422, 'no actuals in FY2019'],
    ['POST', `${at}/budgets`, { name: 'X', year: 2035, from: 2025 }, 422, 'follow one another'],
    ['POST', `${at}/budgets`, { name: 'X', year: 2026, from: 2025, change: 'much' }, 422, 'percentage such as'],
    ['GET', '/nothing', undefined, 404, 'nothing at GET'],
  ])('%s %s', async (method, path, body, status, words) => {
    const problem = await refusal(method, path, body);
    expect(problem.status).toBe(status);
    expect(problem.detail).toContain(words);
  });
  it('a body that is no JSON, a foreign origin, a foreign host', async () => {
    const post = (headers: Record<string, string>, body: string) => fetch(`${server.base}${at}/budgets`, { method: 'POST', headers, body });
    expect((await post({ 'content-type': 'application/json' }, '{')).status).toBe(400);
    expect((await post({ 'content-type': 'application/json', origin: 'http://elsewhere.example' }, '{}')).status).toBe(403);
    const { request } = await import('node:http');
    const status = await new Promise((resolve) =>
      request(`${server.base}/health`, { headers: { host: 'elsewhere.example' } }, (response) => resolve(response.statusCode)).end(),
    );
    expect(status).toBe(421);
  });
  it('sends hardened headers', async () => {
    const { headers } = await fetch(`${server.base}/health`);
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('a budget from last year', () => {
  it('changes each class by its percentage, by month, rounded', async () => {
    const { grid: shown, rows } = await grid();
    expect(cell(shown, 'revenue', 'months.2026-03.budget')).toEqual({ kind: 'amount', value: 33000 });
    expect(cell(shown, 'revenue', 'year.budget')).toEqual({ kind: 'amount', value: 7800 * 110 });
    expect(cell(shown, 'operating_expenses', 'months.2026-03.budget')).toEqual({ kind: 'amount', value: 3800 });
    expect(cell(shown, 'revenue', 'year.prior')).toEqual({ kind: 'amount', value: 780000 });
    expect(cell(shown, 'revenue', 'year.percent')).toMatchObject({ value: 0.1 });
    expect(rows.find(({ account }) => account === '4000')!.lines.map(({ basis, dimensions }) => [dimensions.department, basis])).toEqual([
      ['North', 'Same months of FY2025, plus 10%, rounded to 1'],
      ['South', 'Same months of FY2025, plus 10%, rounded to 1'],
    ]);
  });
  it('slices add up to the whole', async () => {
    const filter = (department: string) => `?${filterText({ department: [department] })}`;
    const [all, north, south] = [await grid(), await grid(filter('North')), await grid(filter('South'))];
    const value = (each: BudgetGridDto) => {
      const found = cell(each.grid, 'net_income', 'year.budget');
      return found.kind === 'amount' ? found.value : NaN;
    };
    expect(value(north) + value(south)).toBe(value(all));
  });
  it('takes a month, holds it, and follows with the year; it stays after the books are read again', async () => {
    const after = await edited([{ kind: 'month', account: '4000', month: 2, text: '500' }]);
    expect(cell(after.grid, 'revenue', 'months.2026-03.budget')).toEqual({ kind: 'amount', value: 50000 });
    expect(after.rows.find(({ account }) => account === '4000')!.held[2]).toBe(true);
    server.application.budgetStore.forget();
    expect((await grid()).grid.cells).toEqual(after.grid.cells);
  });
  it('takes a year and leaves the held month', async () => {
    const after = await edited([{ kind: 'year', account: '4000', text: '12k', spread: 'even' }]);
    expect(cell(after.grid, 'revenue', 'year.budget')).toEqual({ kind: 'amount', value: 1200000 });
    expect(cell(after.grid, 'revenue', 'months.2026-03.budget')).toEqual({ kind: 'amount', value: 50000 });
  });
  it('releases a month to its basis', async () => {
    const after = await edited([{ kind: 'release', account: '4000', months: [2] }]);
    expect(after.rows.find(({ account }) => account === '4000')!.held).toEqual(new Array(12).fill(false));
    expect(cell(after.grid, 'revenue', 'year.budget')).toEqual({ kind: 'amount', value: 1200000 });
  });
  it('makes a line for an account that had none', async () => {
    const after = await edited([{ kind: 'month', account: '5000', month: 0, text: '75.50' }], { department: ['South'] });
    expect(cell(after.grid, 'cost_of_sales', 'months.2026-01.budget')).toEqual({ kind: 'amount', value: 7550 });
    expect((await grid()).rows.find(({ account }) => account === '5000')!.lines.map(({ dimensions }) => dimensions)).toEqual([
      { department: 'South' },
    ]);
  });
  it('refuses a bad edit by account and text, and takes the good ones beside it', async () => {
    const before = await grid();
    const bad = { kind: 'month', account: '6000', month: 0, text: 'lots' };
    const alone = await edit([bad]);
    expect([alone.status, (alone.body as Problem).detail]).toEqual([422, expect.stringContaining('6000 Wages: "lots" is not an amount')]);
    expect((await grid()).grid.cells).toEqual(before.grid.cells);
    const { body } = await edit([{ kind: 'month', account: '4000', month: 0, text: '1' }, bad]);
    expect((body as WorksheetAnswerDto).refusals).toEqual([
      { edit: 1, account: '6000', text: 'lots', message: expect.stringContaining('is not an amount') as unknown },
    ]);
    expect(cell((await grid()).grid, 'revenue', 'months.2026-01.budget')).toEqual({ kind: 'amount', value: 100 });
  });
  it('stands in the statement once approved, and is locked', async () => {
    const blankBefore = await server.statement(`${at}/statements/income?asOf=2026-06`);
    expect(cell(blankBefore, 'revenue', 'month.budget')).toEqual({ kind: 'blank', reason: 'noBudget' });
    await server.send('POST', `${at}/budgets/${budget.id}/state`, { state: 'approved', anyway: true });
    const statement = await server.statement(`${at}/statements/income?asOf=2026-06`);
    expect(cell(statement, 'revenue', 'ytd.budget').kind).toBe('amount');
    expect((await edit([{ kind: 'month', account: '4000', month: 0, text: '1' }])).status).toBe(409);
    const back = await server.send('POST', `${at}/budgets/${budget.id}/state`, { state: 'draft' });
    expect([back.status, (back.body as Problem).detail]).toEqual([409, expect.stringContaining('Create a new version')]);
  });
  it('every change is on record and the record cannot be changed', async () => {
    const { database } = server.application;
    const events = await database.select<{ action: string; actor: string }>('SELECT action, actor FROM audit_events ORDER BY id');
    expect(events.map(({ action }) => action)).toEqual(
      expect.arrayContaining(['import.post', 'budget.create', 'budget.edit', 'budget.approved']),
    );
    expect(new Set(events.map(({ actor }) => actor))).toEqual(new Set(['Tester']));
    await expect(
      database.write((transaction) => database.run('UPDATE audit_events SET actor = $1', ['Nobody'], transaction)),
    ).rejects.toThrow();
    await expect(database.write((transaction) => database.run('DELETE FROM audit_events', [], transaction))).rejects.toThrow();
    expect(await database.select('SELECT action, actor FROM audit_events ORDER BY id')).toEqual(events);
  });
});

describe('the drill-down', () => {
  const drillDown = (line: string, column: string, more = '') =>
    server.get<DrillDownDto>(`${at}/statements/income/drill-down?asOf=2026-06&budget=${budget.id}&line=${line}&column=${column}${more}`);
  it('leads from an amount to its accounts, their entries and an entry, each adding up to the figure', async () => {
    const figure = await drillDown('revenue', 'ytd.actual');
    expect(figure.accountsSum).toBe(figure.cell.kind === 'amount' ? figure.cell.value : NaN);
    const [account] = figure.accounts;
    const { from, to } = account!.entries!;
    const entries = await server.get<{ sum: number; figure: number; count: number; lines: { entryId: number; amount: number }[] }>(
      `${at}/accounts/${account!.number}/entries?from=${from}&to=${to}`,
    );
    expect([entries.sum, entries.figure, entries.count]).toEqual([account!.amount, account!.amount, 6]);
    const entry = await server.get<{ debits: number; credits: number }>(`${at}/entries/${entries.lines[0]!.entryId}`);
    expect(entry.debits).toBe(entry.credits);
  });
  it('pages through entries without losing any', async () => {
    const page = (after: number) =>
      server.get<{ next: number | null; lines: { lineId: number }[] }>(
        `${at}/accounts/1000/entries?from=2025-01&to=2026-06&limit=10&after=${after}`,
      );
    const seen = new Set<number>();
    for (let after: number | null = 0; after !== null;) {
      const { next, lines } = await page(after);
      lines.forEach(({ lineId }) => seen.add(lineId));
      after = next;
    }
    expect(seen.size).toBe(36);
  });
  it('leads from differences, percentages, shares and formulas to the figures they were made of', async () => {
    for (const column of ['month.budget_difference', 'month.budget_percent', 'ytd.prior_percent'])
      expect((await drillDown('revenue', column)).parts).toHaveLength(2);
    expect((await drillDown('gross_margin', 'month.actual')).parts.map(({ line }) => line)).toEqual(['gross_profit', 'revenue']);
    expect((await drillDown('operating_expenses', 'month.actual_share')).parts.map(({ line, role }) => [line, role])).toEqual([
      ['operating_expenses', ''],
      ['revenue', 'of'],
    ]);
  });
  it('leads from a budget figure to the bases of its lines', async () => {
    const [account] = (await drillDown('operating_expenses', 'month.budget')).accounts;
    expect(account).toMatchObject({
      number: '6000',
      entries: null,
      budgetId: budget.id,
      basis: [expect.stringContaining('Same months of FY2025, minus 5%')],
    });
  });
  it('keeps the filter of the statement', async () => {
    const { accounts } = await drillDown('revenue', 'ytd.actual', '&filter.department=North');
    expect(accounts[0]).toMatchObject({ amount: (1 + 3 + 5) * 11000, entries: { filter: { department: ['North'] } } });
  });
});

describe('CSV export', () => {
  it('has exact amounts, marks, reasons and the lines shown', async () => {
    const text = await (
      await fetch(`${server.base}${at}/statements/income/export.csv?asOf=2026-06&budget=${budget.id}&zero=show&open=cost_lines.goods`)
    ).text();
    const lines = text.trim().split('\r\n');
    expect(lines[0]).toContain('Test Company');
    expect(lines.find((line) => line.startsWith('revenue,'))).toMatch(/^revenue,,"Revenue, net",660\.00,1000\.00,/);
    expect(lines.filter((line) => /^(revenue|cost_of_sales|gross_margin),/.test(line))).toHaveLength(3);
    expect(lines.some((line) => line.startsWith('cost_lines.goods.5000,5000,'))).toBe(true);
    expect(lines.some((line) => line.startsWith('revenue_lines.sales.4000,'))).toBe(false);
    const hidden = await (await fetch(`${server.base}${at}/statements/income/export.csv?asOf=2025-06&open=all`)).text();
    expect(hidden).toContain('revenue_lines.sales.4000,4000,');
    expect(hidden).not.toContain('revenue_lines.sales.4100,');
  });
});

describe('fiscal years', () => {
  it('open in a row, and make room for entries dated in them', async () => {
    expect((await server.send('POST', `${at}/fiscal-years`, { year: 2029 })).status).toBe(422);
    expect((await server.send('POST', `${at}/fiscal-years`, { year: 2027 })).status).toBe(201);
    const made = await server.upload(
      { company: '1' },
      { ledger: `${HEADER}\n${row('F1', '2027-01-05', '1000', '1.00', '')}\n${row('F1', '2027-01-05', '4000', '', '1.00')}\n` },
    );
    expect(made.state).toBe('ready');
    await server.send('POST', `/imports/${made.id}/post`, {});
    expect((await server.get<ImportDto>(`/imports/${made.id}`)).state).toBe('posted');
    expect(await server.get(at)).toMatchObject({ lastPosted: '2027-01', years: [2025, 2026, 2027] });
  });
});
