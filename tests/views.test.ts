import {
  columnSetSchema,
  type ImportDto,
  lineSetSchema,
  packedGridSchema,
  type PreviewDto,
  previewSchema,
  type Problem,
  statisticsSchema,
  type ViewDto,
  viewListSchema,
  viewSchema,
} from '@wise-margin/contract';
import {
  BALANCE_LINES,
  type Column,
  type ColumnSet,
  INCOME_LINES,
  type LineSet,
  REVIEW_COLUMNS,
  SHIPPED_VIEWS,
  TREND_COLUMNS,
} from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { filterText } from './support/filter-text.ts';
import { startTestServer, type TestServer } from './support/server.ts';
import { ACCOUNTS, GOOD_LEDGER, NEW_COMPANY } from './support/small-ledger.ts';

let server: TestServer;
let at: string;
beforeAll(async () => {
  server = await startTestServer();
  const made = await server.upload(NEW_COMPANY, { accounts: ACCOUNTS, ledger: GOOD_LEDGER });
  const { companyId } = (await server.send('POST', `/imports/${made.id}/post`)).body as ImportDto;
  at = `/companies/${companyId}`;
});
afterAll(() => server.close());

const draft = { lineSet: INCOME_LINES, columnSet: TREND_COLUMNS };
const create = (body: object) => server.send('POST', `${at}/views`, { ...draft, ...body });
const preview = async (lineSet: LineSet, columnSet: ColumnSet) => {
  const answer = await server.send('POST', `${at}/statement-preview`, { lineSet, columnSet, asOf: '2026-02' });
  expect(answer.status).toBe(200);
  const body = previewSchema.parse(answer.body) as PreviewDto;
  return { grid: unpackGrid(body.grid), coverage: body.coverage! };
};

describe('what the contract takes', () => {
  it.each(SHIPPED_VIEWS.map(({ key, lineSet, columnSet }) => ({ key, lineSet, columnSet })))(
    'the lines and columns of $key, as they are',
    ({ lineSet, columnSet }) => {
      expect(lineSetSchema.parse(JSON.parse(JSON.stringify(lineSet)))).toEqual(lineSet);
      expect(columnSetSchema.parse(JSON.parse(JSON.stringify(columnSet)))).toEqual(columnSet);
    },
  );
  it('every shipped view of a company, parsed by its schema', async () => {
    for (const { key } of SHIPPED_VIEWS) packedGridSchema.parse(await server.get(`${at}/statements/${key}?asOf=2026-02`));
  });
});

describe('a preview', () => {
  it('holds the parts of the lines that are open, and tells which others have some', async () => {
    const ask = async (open?: string[]) => {
      const { body } = await server.send('POST', `${at}/statement-preview`, { ...draft, asOf: '2026-02', withCoverage: false, open });
      const { grid, coverage } = previewSchema.parse(body);
      expect(coverage).toBeNull();
      return grid.lines.map(({ key, opens }) => [key, opens] as const);
    };
    const all = await ask();
    const parts = all.filter(([key]) => /\.\d{4}$/.test(key)).map(([key]) => key);
    expect(parts).toContain('revenue_lines.sales.4000');
    const closed = await ask([]);
    expect(closed.map(([key]) => key)).toEqual(all.map(([key]) => key).filter((key) => !parts.includes(key)));
    expect(closed.find(([key]) => key === 'revenue_lines.sales')).toEqual(['revenue_lines.sales', true]);
    expect((await ask(['revenue_lines.sales'])).map(([key]) => key)).toContain('revenue_lines.sales.4000');
  });
});

describe('saved views', () => {
  let view: ViewDto;
  it('are saved, listed and opened by their address', async () => {
    const made = await create({ name: 'My trend', folder: 'Monthly' });
    expect(made.status).toBe(201);
    view = viewSchema.parse(made.body) as ViewDto;
    expect(view).toMatchObject({ name: 'My trend', folder: 'Monthly', shared: false, owner: 'Tester', version: 1, isShipped: false });
    const list = viewListSchema.parse(await server.get(`${at}/views`));
    expect(list.find(({ key }) => key === view.key)).toMatchObject({ name: 'My trend', starred: false });
    const grid = await server.statement(`${at}/statements/${view.key}?asOf=2026-02`);
    expect([grid.view.name, grid.columns.length]).toEqual(['My trend', 3]);
  });
  it('do not take a name that is used, nor an empty one', async () => {
    expect((await create({ name: 'my TREND' })).body).toMatchObject({
      detail: 'You have a view named my TREND already. Give this one another name.',
    });
    expect(((await create({ name: ' ' })).body as Problem).errors).toEqual([{ path: 'name', message: 'Enter a view name' }]);
  });
  it('are changed once for each version: who saves second is asked, and nothing is lost', async () => {
    const first = await server.send('PUT', `${at}/views/${view.key}`, { version: 1, columnSet: REVIEW_COLUMNS });
    expect(first).toMatchObject({ status: 200, body: { version: 2 } });
    const second = await server.send('PUT', `${at}/views/${view.key}`, { version: 1, lineSet: BALANCE_LINES });
    expect(second.status).toBe(409);
    expect((second.body as Problem).detail).toContain('was saved at 2026-11-09 08:00 after you opened it');
    expect(await server.get<ViewDto>(`${at}/views/${view.key}`)).toMatchObject({
      version: 2,
      lineSet: { key: 'income' },
      columnSet: { key: 'review' },
    });
  });
  it('are starred, shipped ones too', async () => {
    await server.send('PUT', `${at}/views/balance`, { version: 0, starred: true });
    const stars = async () => viewListSchema.parse(await server.get(`${at}/views`)).flatMap(({ key, starred }) => (starred ? [key] : []));
    expect(await stars()).toEqual(['balance']);
    await server.send('PUT', `${at}/views/balance`, { version: 0, starred: false });
    expect(await stars()).toEqual([]);
  });
  it('leave the shipped ones as they are', async () => {
    expect((await server.send('PUT', `${at}/views/income`, { version: 0, name: 'Mine' })).status).toBe(409);
    expect((await server.send('DELETE', `${at}/views/income`)).status).toBe(409);
  });
  it('of another person are there when shared only', async () => {
    const other = { name: 'Somebody else', now: () => new Date('2026-11-10T08:00:00Z') };
    const company = Number(at.split('/').at(-1));
    const seen = async () => (await server.application.views.list(company, other)).some(({ key }) => key === view.key);
    expect(await seen()).toBe(false);
    await expect(server.application.views.of(company, view.key, other)).rejects.toMatchObject({ status: 404 });
    await server.send('PUT', `${at}/views/${view.key}`, { version: 2, shared: true });
    expect(await seen()).toBe(true);
  });
  it('go for good, and are then not found', async () => {
    expect((await server.send('DELETE', `${at}/views/${view.key}`)).status).toBe(204);
    expect((await server.send('GET', `${at}/views/${view.key}`)).status).toBe(404);
    expect((await server.send('GET', `${at}/statements/${view.key}?asOf=2026-02`)).status).toBe(404);
  });
});

describe('a statement that is not saved', () => {
  const column = (more: object): Column =>
    ({ kind: 'amount', key: 'x', heading: 'X', scenario: 'actual', span: { kind: 'month' }, ...more }) as Column;
  const columns = (...own: Column[]): ColumnSet => ({
    key: 'c',
    name: 'C',
    blocks: [{ key: 'b', heading: '{span}', span: { kind: 'month' }, columns: own }],
  });
  const formula = (expression: string): LineSet => ({
    ...INCOME_LINES,
    lines: [...INCOME_LINES.lines, { kind: 'formula', key: 'extra', name: 'Extra', expression, result: 'amount' }],
  });
  const figure = (grid: Awaited<ReturnType<typeof preview>>['grid'], line: string) =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]![0];

  it('shows the rest beside what is faulty, and says where, what and how to mend it', async () => {
    const { grid } = await preview(formula('revenue / nothing_there'), columns(column({})));
    expect(grid.issues.filter(({ place }) => place !== 'Actual')).toEqual([
      { place: 'Line Extra', message: 'There is no line "nothing_there"', fix: 'Use the formula name of a line in this view' },
    ]);
    expect(figure(grid, 'operating_expenses')).toEqual({ kind: 'amount', value: 9999 });
    expect(figure(grid, 'extra')).toMatchObject({ kind: 'notMeaningful' });
  });
  it('answers a formula of 10,000 characters', async () => {
    const { grid } = await preview(formula(`1${'+1'.repeat(5000)}`), columns(column({})));
    expect(grid.issues[0]).toMatchObject({ place: 'Line Extra', message: 'The formula is longer than 2,000 characters' });
  });
  it('answers a column of a budget that is gone, and one of a column that is', async () => {
    const { grid } = await preview(
      INCOME_LINES,
      columns(column({ scenario: 'budget:99' }), { kind: 'difference', key: 'd', heading: '', compared: 'x', base: 'gone' }),
    );
    expect(grid.columns[0]!.words).toContain('Budget 99, which is no longer there');
    expect(figure(grid, 'revenue')).toEqual({ kind: 'blank', reason: 'noBudget' });
    expect(grid.issues).toMatchObject([
      { place: 'Column d (February 2026)', message: 'There is no column "gone"' },
      { place: 'Column X (February 2026)', message: 'Budget 99 is no longer there' },
    ]);
  });
  it('answers lines of another company with what its chart does not hold', async () => {
    const selection = { accounts: ['99123'], ranges: [{ from: '80000', to: '80999' }], groups: ['Rafts'] };
    const { grid } = await preview(
      { ...INCOME_LINES, lines: [...INCOME_LINES.lines, { kind: 'accounts', key: 'extra', name: 'Extra', selection, sign: 'debit' }] },
      columns(column({})),
    );
    expect(grid.issues.filter(({ place }) => place !== 'Actual')).toMatchObject([
      { place: 'Line Extra', message: 'The chart of accounts has no 99123, 80000-80999, Rafts' },
    ]);
  });
  it('answers a repeat of 480 columns with the latest 240', async () => {
    const { grid } = await preview(INCOME_LINES, {
      key: 'c',
      name: 'C',
      blocks: [
        {
          key: 'b',
          heading: '{span}',
          span: { kind: 'month' },
          columns: Array.from({ length: 40 }, (_, index) => column({ key: `x${index}` })),
          repeat: { over: 'months', within: { kind: 'fullYear' } },
        },
      ],
    });
    expect(grid.columns).toHaveLength(240);
    expect(grid.issues[0]).toMatchObject({ message: 'The oldest 6 months are not shown; 240 columns is the limit' });
  });
  it('takes lines of a company whose accounts are not there', async () => {
    const lines: LineSet = {
      key: 'other',
      name: 'Other',
      percentBase: 'a',
      lines: [{ kind: 'accounts', key: 'a', name: 'A', selection: { accounts: ['99999'] }, sign: 'credit' }],
    };
    const { grid, coverage } = await preview(lines, columns(column({})));
    expect(figure(grid, 'a')).toEqual({ kind: 'amount', value: 0 });
    expect(coverage.inNone).toEqual([]);
  });
  it('tells which accounts stand in no line, in two, and whether the bottom is net income', async () => {
    const whole = await preview(INCOME_LINES, columns(column({})));
    expect(whole.coverage).toEqual({
      held: 2,
      inNone: [],
      inSeveral: [],
      netIncome: { line: 'Net income', shown: 15011, ledger: 15011, agrees: true },
    });
    const part: LineSet = {
      key: 'part',
      name: 'Part',
      percentBase: 'a',
      lines: [
        { kind: 'accounts', key: 'a', name: 'A', selection: { accounts: ['4000'] }, sign: 'credit' },
        { kind: 'accounts', key: 'b', name: 'B', selection: { ranges: [{ from: '4000', to: '4999' }] }, sign: 'credit' },
      ],
    };
    const { coverage } = await preview(part, columns(column({})));
    expect(coverage.inNone.map(({ number }) => number)).toEqual(['6000']);
    expect(coverage.inSeveral).toEqual([{ number: '4000', name: 'Sales', lines: ['A', 'B'] }]);
    // it ends in revenue, which is not net income
    expect(coverage.netIncome).toBeNull();
    const doubled: LineSet = {
      key: 'doubled',
      name: 'Doubled',
      lines: [
        { kind: 'accounts', key: 'a', name: 'A', selection: { classes: ['revenue'] }, sign: 'credit' },
        { kind: 'accounts', key: 'b', name: 'B', selection: { classes: ['operatingExpenses'] }, sign: 'debit' },
        { kind: 'formula', key: 'c', name: 'Net income', expression: 'a + a - b', result: 'amount' },
      ],
    };
    const wrong = await preview(doubled, columns(column({})));
    expect(wrong.coverage.netIncome).toMatchObject({ line: 'Net income', agrees: false, ledger: 15011 });
    expect((await preview({ key: 'empty', name: 'Empty', lines: [] }, columns(column({})))).coverage).toBeNull();
  });
  it('refuses what is no statement, by its place', async () => {
    const { status, body } = await server.send('POST', `${at}/statement-preview`, {
      lineSet: { ...INCOME_LINES, percentBase: 'Not a key' },
      columnSet: TREND_COLUMNS,
      asOf: '2026-02',
    });
    expect(status).toBe(422);
    expect((body as Problem).errors).toEqual([
      { path: 'lineSet.percentBase', message: 'Use lowercase letters, digits and _, starting with a letter' },
    ]);
  });
  it('offers what was probably meant by a filter that matches nothing', async () => {
    const answer = await server.send('GET', `${at}/statements/income?asOf=2026-02&filter.department=nroth`);
    expect((answer.body as Problem).detail).toBe('No line has the department "nroth". Did you mean "North"?');
  });
});

describe('statistics', () => {
  const send = async (text: string, fingerprint?: string): Promise<{ status: number; body: unknown }> => {
    const form = new FormData();
    form.set('statistics', new Blob([text]), 'statistics.csv');
    if (fingerprint !== undefined) form.set('fingerprint', fingerprint);
    const response = await fetch(`${server.base}${at}/statistics`, { method: 'POST', body: form });
    return { status: response.status, body: await response.json() };
  };
  /** Previewed, then imported. */
  const bring = async (text: string): Promise<{ status: number; body: unknown }> => {
    const looked = await send(text);
    if (looked.status !== 200) return looked;
    return send(text, (looked.body as { preview: { fingerprint: string } }).preview.fingerprint);
  };
  const heads = async (filter: Parameters<typeof filterText>[0] = {}) => {
    const grid = await server.statement(`${at}/statements/ratios?asOf=2026-02&${filterText(filter)}`);
    return grid.cells[grid.lines.findIndex(({ key }) => key === 'revenue_per_head')]![
      grid.columns.findIndex(({ key }) => key === 'ytd.actual')
    ];
  };
  it('refuse a bad file whole, by row, column, text, reason and fix', async () => {
    const { status, body } = await bring('series,period,value\nheadcount,2026-01,5\nheadcount,2026-02,five\nheadcount,2031-01,5\n');
    expect(status).toBe(422);
    expect((body as Problem).errors).toEqual([
      {
        path: 'row 3',
        message:
          'Row 3, column value, "five": This is not a plain number below 9 quadrillion. Write digits with at most a decimal point, such as 1250 or 12.5.',
      },
      {
        path: 'row 4',
        message:
          'Row 4, column period, "2031-01": The period lies in no fiscal year that is open. Open the year first, or correct the period.',
      },
    ]);
    expect(statisticsSchema.parse(await server.get(`${at}/statistics`)).series).toEqual([]);
    expect((await bring('a,"b\n')).status).toBe(422);
    expect(await heads()).toMatchObject({ kind: 'notMeaningful' });
  });
  it('are taken in, replaced, filtered, and serve figures per head', async () => {
    expect(
      (await bring('series,period,value,department\nheadcount,2026-01,4,North\nheadcount,2026-01,9,South\nheadcount,2026-02,6,North\n'))
        .status,
    ).toBe(200);
    const { body } = await bring('series,period,value,department\nheadcount,2026-01,2,South\n');
    expect(statisticsSchema.parse((body as { statistics: unknown }).statistics)).toEqual({
      periods: ['2026-01', '2026-02'],
      series: [{ name: 'headcount', aggregation: 'average', values: [6, 6] }],
    });
    // revenue of 250.10 over an average of 6 heads; of North alone over 5
    expect(await heads()).toEqual({ kind: 'amount', value: 4168 });
    expect(await heads({ department: ['North'] })).toEqual({ kind: 'amount', value: 5002 });
  });
  it('go over months as their name proposes, until a person chooses otherwise', async () => {
    const aggregations = async () => (await server.get<{ aggregations: Record<string, string> }>(at)).aggregations;
    expect(await aggregations()).toEqual({ headcount: 'average' });
    await server.accept('PUT', `${at}/statistics/aggregation`, { series: 'headcount', aggregation: 'last' });
    expect(await aggregations()).toEqual({ headcount: 'last' });
    expect((await server.send('PUT', `${at}/statistics/aggregation`, { series: 'nothing', aggregation: 'sum' })).status).toBe(404);
  });
});
