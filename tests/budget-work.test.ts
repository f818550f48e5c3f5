import {
  type BudgetDto,
  type BudgetGridDto,
  type BudgetHistoryDto,
  type CheckListDto,
  checkListSchema,
  type ComparisonDto,
  comparisonSchema,
  type EntryLinesDto,
  type GridDto,
  type NonrecurringItemDto,
  nonrecurringListSchema,
  type PackedBudgetGrid,
  type Problem,
  type WorksheetAnswerDto,
  type WorksheetDto,
  worksheetSchema,
} from '@wise-margin/contract';
import { BUDGET_GRID_COLUMNS, BudgetFigures, INCOME_LINES } from '@wise-margin/core';
import { booksOfWorksheet, unpackBudgetGrid, unpackGrid, unpackLine } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type TestServer } from './support/server.ts';

let server: TestServer;
let company: string;
let at: string;
beforeAll(async () => {
  server = await demoServer();
  company = '/companies/1';
  const made = await server.send('POST', `${company}/budgets`, { name: 'Next year', year: 2028, from: 2027, projected: true, change: '2' });
  expect(made.status).toBe(201);
  at = `${company}/budgets/${(made.body as BudgetDto).id}`;
});
afterAll(() => server.close());

const post = async <Answer>(path: string, body: object) => {
  const { status, body: answer } = await server.send('POST', path, body);
  return { status, answer: answer as Answer, detail: (answer as Problem).detail ?? '' };
};
const edit = (edits: object[], more: object = {}) => post<WorksheetAnswerDto>(`${at}/edits`, { edits, ...more });
const grid = async (budget = at): Promise<BudgetGridDto> => unpackBudgetGrid(await server.get<PackedBudgetGrid>(budget));
const value = (dto: GridDto, line: string, column: string): number => {
  const cell =
    dto.cells[dto.lines.findIndex(({ key, account }) => key === line || account === line)]![
      dto.columns.findIndex(({ key }) => key === column)
    ]!;
  return cell.kind === 'amount' ? cell.value : NaN;
};
const month = (account: string, index: number, text: string) => ({ kind: 'month', account, month: index, text });

describe('a budget from a year that is not over', () => {
  it('takes the months to come from the approved budget', async () => {
    const { grid: dto } = await grid();
    expect(value(dto, 'revenue', 'year.budget')).toBeGreaterThan(0);
    // two percent on FY2027: posted to October, budgeted after
    expect(Math.abs(value(dto, '6110', 'year.budget') - value(dto, '6110', 'year.prior') * 1.02)).toBeLessThan(100);
    expect(value(dto, '6110', 'year.prior_budget')).toBeGreaterThan(0);
  });
  it('sends a browser all it draws on: the same figures come out there', async () => {
    const worksheet = worksheetSchema.parse(await server.get<WorksheetDto>(`${at}/worksheet`)) as WorksheetDto;
    const books = booksOfWorksheet(worksheet);
    const positions = new Map(books.chart.accounts.map(({ number }, position) => [number, position]));
    const figures = new BudgetFigures({
      books,
      head: { year: 2028, fromYear: 2027, dimensions: worksheet.budget.dimensions },
      lines: worksheet.lines.map((line) => unpackLine(line, positions)),
      lineSet: INCOME_LINES,
      columnSet: BUDGET_GRID_COLUMNS,
    }).grid({});
    const { grid: dto } = await grid();
    const there = new Map(figures.plan.lines.map(({ key, index }) => [key, figures.cells[index]!]));
    expect(dto.lines.length).toBeGreaterThan(60);
    dto.lines.forEach(({ key }, index) => expect([key, dto.cells[index]]).toEqual([key, there.get(key)]));
  });
});

describe('undo and redo', () => {
  const mine = { session: 'mine' };
  it('take changes back one by one and make them again, in this session alone, also after the store is read again', async () => {
    const before = value((await grid()).grid, '6110', 'months.2027-04.budget');
    await edit([month('6110', 0, '11000')], mine);
    const second = await edit([month('6110', 1, '12000')], mine);
    expect(second.answer.steps).toEqual({ undo: expect.stringContaining('May of 6110 Rent: 12000') as unknown, redo: null });
    server.application.budgetStore.forget();
    expect((await post<WorksheetAnswerDto>(`${at}/undo`, { session: 'theirs' })).status).toBe(409);
    await post(`${at}/undo`, mine);
    const undone = await post<WorksheetAnswerDto>(`${at}/undo`, mine);
    expect(undone.answer.steps).toEqual({ undo: null, redo: expect.stringContaining('Apr of 6110') as unknown });
    expect(value((await grid()).grid, '6110', 'months.2027-04.budget')).toBe(before);
    const again = await post<WorksheetAnswerDto>(`${at}/redo`, mine);
    expect(again.answer.steps.redo).toContain('May of 6110');
    expect(value((await grid()).grid, '6110', 'months.2027-04.budget')).toBe(1_100_000);
    await edit([month('6110', 2, '1')], mine);
    expect((await post(`${at}/redo`, mine)).detail).toBe('You have no change to redo.');
  });
  it('keep notes too', async () => {
    await edit([{ kind: 'note', account: '6110', month: null, text: 'The landlord wrote in May' }], mine);
    expect((await server.get<WorksheetDto>(`${at}/worksheet`)).notes).toHaveLength(1);
    const { answer } = await post<WorksheetAnswerDto>(`${at}/undo`, mine);
    expect(answer.notes).toEqual([]);
  });
  it('leave a history of who, when, from and to', async () => {
    const { items: history } = await server.get<BudgetHistoryDto>(`${at}/history`);
    expect(history[0]).toMatchObject({ kind: 'undo', actor: 'Tester', at: '2026-11-09T08:00:00.000Z' });
    const april = history.find(({ words }) => words === 'Apr of 6110 Rent: 11000')!;
    expect(april.cells.map(({ account, month: name }) => [account, name])).toContainEqual(['6110', 'Apr']);
    expect(april.cells.reduce((sum, { to }) => sum + to, 0)).toBe(1_100_000);
    expect(history.at(-1)).toMatchObject({ kind: 'milestone', words: 'Created from FY2027' });
  });
  it('tell what happened to one account alone', async () => {
    await edit([month('6110', 5, '7'), month('6130', 5, '8')], mine);
    const { items } = await server.get<BudgetHistoryDto>(`${at}/history?account=6130`);
    expect(new Set(items.flatMap(({ cells }) => cells.map(({ account }) => account)))).toEqual(new Set(['6130']));
    expect(items.every(({ kind }) => kind !== 'milestone')).toBe(true);
    await edit([{ kind: 'note', account: '6140', month: 2, text: 'A new line' }], mine);
    expect((await server.get<BudgetHistoryDto>(`${at}/history?account=6140`)).items).toHaveLength(1);
  });
  it('tell it page by page when there is more than one', async () => {
    for (let each = 1; each <= 101; each += 1) await edit([month('6110', 4, String(each))], mine);
    const first = await server.get<BudgetHistoryDto>(`${at}/history`);
    const second = await server.get<BudgetHistoryDto>(`${at}/history?before=${first.next}`);
    expect([first.items.length, second.next]).toEqual([100, null]);
    const all = [...first.items, ...second.items];
    expect(all.filter(({ words }) => words.startsWith('Aug of 6110'))).toHaveLength(101);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    expect(all.map(({ id }) => id)).toEqual(all.map(({ id }) => id).sort((a, b) => b - a));
  });
});

describe('a request whose answer was lost', () => {
  it('counts once when it is sent again', async () => {
    const fivePercent = () => edit([month('6130', 3, '+5%')], { session: 'a', key: 'the same request' });
    const before = value((await grid()).grid, '6130', 'months.2027-07.budget');
    const first = await fivePercent();
    const again = await fivePercent();
    expect([first.status, again.status, again.answer.version]).toEqual([200, 200, first.answer.version]);
    expect(again.answer.lines.map(({ id }) => id)).toEqual(first.answer.lines.map(({ id }) => id));
    expect(value((await grid()).grid, '6130', 'months.2027-07.budget')).toBe(Math.round(before * 1.05));
  });
  it('takes one step back, and tells again what it changed', async () => {
    const mine = { session: 'lost' };
    const july = async () => value((await grid()).grid, '6130', 'months.2027-07.budget');
    const before = await july();
    await edit([month('6130', 3, '100')], mine);
    const { version: base } = (await edit([month('6130', 3, '200')], mine)).answer;
    for (const [step, stands, key] of [
      ['undo', 10_000, 'first'],
      ['redo', 20_000, 'second'],
      ['undo', 10_000, 'third'],
    ] as const) {
      const request = { ...mine, base, key };
      const first = (await post<WorksheetAnswerDto>(`${at}/${step}`, request)).answer;
      const again = (await post<WorksheetAnswerDto>(`${at}/${step}`, request)).answer;
      expect([again.version, again.lines, again.steps]).toEqual([first.version, first.lines, first.steps]);
      expect(again.lines.length).toBeGreaterThan(0);
      expect(await july()).toBe(stands);
    }
    await post(`${at}/undo`, mine);
    expect(await july()).toBe(before);
  });
});

describe('two places at one budget', () => {
  it('see what the other saved', async () => {
    const { version } = (await edit([month('6120', 0, '3000')], { session: 'a' })).answer;
    await edit([month('6130', 0, '900')], { session: 'b' });
    const seen = await server.get<WorksheetAnswerDto>(`${at}/changes?since=${version}&session=a`);
    expect(seen.others).toEqual([expect.stringContaining('6130')]);
    expect(new Set(seen.lines.map(({ account }) => account))).toEqual(new Set(['6130']));
    expect((await server.get<WorksheetAnswerDto>(`${at}/changes?since=${version}&session=b`)).others).toEqual([]);
  });
  it('are asked about the same cell, and not about others', async () => {
    const { version } = (await edit([month('6120', 1, '3100')], { session: 'a' })).answer;
    await edit([month('6120', 1, '3200')], { session: 'b' });
    expect((await edit([month('6120', 2, '3300')], { session: 'a', base: version })).status).toBe(200);
    const asked = await edit([month('6120', 1, '3400')], { session: 'a', base: version });
    expect([asked.status, asked.detail]).toEqual([409, expect.stringContaining('changed by someone else')]);
    expect((asked.answer as unknown as Problem).errors![0]!.message).toMatch(/6120 .*, May: Tester entered .* at 08:00/);
    expect((await edit([month('6120', 1, '3400')], { session: 'a' })).status).toBe(200);
  });
});

describe('one-offs', () => {
  it('an entry left out changes what the basis gives, says how much, and comes back', async () => {
    const repairs = '6210';
    const { lines } = await server.get<EntryLinesDto>(`${company}/accounts/${repairs}/entries?from=2026-04&to=2026-10`);
    const { entryId, date } = lines.reduce((most, line) => (line.amount > most.amount ? line : most));
    const amount = lines.filter((line) => line.entryId === entryId).reduce((sum, line) => sum + line.amount, 0);
    const period = date.slice(0, 7);
    const before = await grid();
    const marked = await post<NonrecurringItemDto[]>(`${company}/nonrecurring-items`, {
      account: repairs,
      period,
      entry: entryId,
      reason: 'Storm',
    });
    expect([marked.status, nonrecurringListSchema.parse(marked.answer)]).toMatchObject([201, [{ amount, reason: 'Storm' }]]);
    expect((await post(`${company}/nonrecurring-items`, { account: repairs, period, entry: entryId, reason: 'Twice' })).detail).toBe(
      'It is already excluded.',
    );
    await post(`${at}/recalculate`, { accounts: [repairs] });
    const after = await grid();
    const year = (dto: BudgetGridDto) => value(dto.grid, repairs, 'year.budget');
    expect(Math.abs(year(before) - year(after) - Math.round(amount * 1.02))).toBeLessThan(5);
    const bases = after.rows.find((row) => row.account === repairs)!.lines.map(({ basis }) => basis);
    expect(bases.some((words) => words.includes('of nonrecurring items excluded'))).toBe(true);
    expect((await server.send('DELETE', `${company}/nonrecurring-items/${marked.answer[0]!.id}`)).status).toBe(204);
    await post(`${at}/recalculate`, { accounts: [repairs] });
    expect(year(await grid())).toBe(year(before));
  });
  it.each([
    [{ account: '9999', period: '2026-04', reason: 'x' }, 'There is no account 9999.'],
    [{ account: '6210', period: '2040-04', reason: 'x' }, '2040-04 is outside the fiscal years of Tern Island.'],
    [{ account: '6210', period: '2026-04', entry: 1, reason: 'x' }, 'Entry 1 has no line in account 6210 in 2026-04.'],
    [{ account: '6210', period: '2026-04', reason: ' ' }, 'reason: Enter a reason'],
  ])('refuses %j', async (body, detail) => {
    const { status, detail: answered } = await post(`${company}/nonrecurring-items`, body);
    expect([status, answered]).toEqual([422, detail]);
  });
});

describe('versions', () => {
  it('a copy is worked on apart, and compared line by line with the reasons', async () => {
    const made = await post<BudgetDto>(`${at}/copies`, { name: 'Second version', note: 'dearer resin' });
    expect(made.answer).toMatchObject({ note: 'dearer resin', copiedFrom: Number(at.split('/').at(-1)), state: 'draft', year: 2028 });
    expect((await post(`${at}/copies`, { name: 'second VERSION' })).detail).toContain('already');
    const copy = `${company}/budgets/${made.answer.id}`;
    expect((await grid(copy)).grid.cells).toEqual((await grid()).grid.cells);
    await post(`${copy}/edits`, {
      edits: [month('5010', 0, '+10%'), { kind: 'note', account: '5010', month: null, text: 'resin is dearer' }],
    });
    const compared = comparisonSchema.parse(await server.get(`${copy}/comparison?with=${at.split('/').at(-1)}`)) as ComparisonDto;
    const dto = unpackGrid(compared.grid);
    const [left, right, difference] = ['left', 'right', 'difference'].map((key) => value(dto, '5010', `year.${key}`));
    expect(right! - left!).toBe(difference);
    expect(difference).toBe(value((await grid(copy)).grid, '5010', 'year.budget') - value((await grid()).grid, '5010', 'year.budget'));
    expect(compared.reasons['5010']!.right).toContain('resin is dearer');
    expect(compared.reasons['5010']!.right.join()).toMatch(/; (?:1 manual override|\d+ manual overrides)/);
  });
  it('a version beside actuals', async () => {
    const compared = await server.get<ComparisonDto>(`${company}/budgets/1/comparison?with=projection`);
    expect(compared.left).toBe('Projection, FY2027');
    expect(value(unpackGrid(compared.grid), 'revenue', 'year.left')).toBeGreaterThan(0);
  });
  it('a what-if is saved apart, its changed months held, and leaves the budget as it is', async () => {
    const before = await grid();
    const { status, answer } = await post<BudgetDto>(`${at}/what-ifs`, { name: 'A tenth less', tried: { byClass: { revenue: '-10' } } });
    expect([status, answer.copiedFrom]).toEqual([201, Number(at.split('/').at(-1))]);
    const made = await grid(`${company}/budgets/${answer.id}`);
    const year = (dto: BudgetGridDto, line: string) => value(dto.grid, line, 'year.budget');
    expect(Math.abs(year(made, '4010') - year(before, '4010') * 0.9)).toBeLessThan(50);
    expect(year(made, 'operating_expenses')).toBe(year(before, 'operating_expenses'));
    expect(made.rows.find(({ account }) => account === '4010')!.held).toEqual(Array(12).fill(true));
    expect((await grid()).grid.cells).toEqual(before.grid.cells);
    expect((await post(`${at}/what-ifs`, { name: 'x', tried: { byClass: { revenue: 'much' } } })).status).toBe(422);
  });
  it('a reforecast holds the posted months and takes the rest from the budget', async () => {
    const { status, answer } = await post<BudgetDto>(`${company}/budgets/1/reforecasts`, { name: 'After October' });
    expect(status).toBe(201);
    const [made, plan] = [await grid(`${company}/budgets/${answer.id}`), await grid(`${company}/budgets/1`)];
    const actual = await server.statement(`${company}/statements/income?asOf=2026-10`);
    const column = actual.columns.findIndex(({ key }) => key === 'month.actual');
    const rent = actual.lines.findIndex(({ account }) => account === '6110');
    const cell = actual.cells[rent]![column]!;
    expect(value(made.grid, '6110', 'months.2026-10.budget')).toBe(cell.kind === 'amount' ? cell.value : NaN);
    expect(value(made.grid, '6110', 'months.2026-11.budget')).toBe(value(plan.grid, '6110', 'months.2026-11.budget'));
    expect(made.rows.find(({ account }) => account === '6110')!.held).toEqual([...Array(7).fill(true), ...Array(5).fill(false)]);
    expect((await post(`${at}/reforecasts`, { name: 'Too early' })).detail).toContain('Nothing of FY2028 is posted');
  });
});

describe('the budget checks and approval', () => {
  it('finds what was broken, takes answers, and asks before approving', async () => {
    await edit([{ kind: 'year', account: '6110', text: '+80%', spread: 'even' }, month('6120', 4, '0')]);
    const list = checkListSchema.parse(await server.get(`${at}/checks`)) as CheckListDto;
    expect(list.items.map(({ key }) => key)).toEqual(expect.arrayContaining(['jump 6110', 'zeroMonths 6120']));
    expect(list.items.find(({ key }) => key === 'jump 6110')!.words).toMatch(/above FY2027/);
    const answered = await post<CheckListDto>(`${at}/explanations`, { key: 'jump 6110', text: 'A second boathouse' });
    expect(answered.answer.open).toBe(list.open - 1);
    await post(`${at}/explanations`, { key: 'jump 6110', text: '' });
    expect((await server.get<CheckListDto>(`${at}/checks`)).open).toBe(list.open);
    await post(`${at}/state`, { state: 'inReview' });
    const asked = await post(`${at}/state`, { state: 'approved' });
    expect([asked.status, asked.detail]).toEqual([409, expect.stringContaining('of the budget checks')]);
    const approved = await post<BudgetDto>(`${at}/state`, { state: 'approved', anyway: true });
    expect(approved.answer.state).toBe('approved');
    const [event] = await server.application.database.select<{ details: string }>(
      `SELECT details FROM audit_events WHERE action = 'budget.approved' ORDER BY id DESC LIMIT 1`,
    );
    expect(JSON.parse(event!.details)).toEqual({ from: 'inReview', openFindings: list.open });
  });
  it('approved is locked; another approved version supersedes it, and both say so', async () => {
    expect((await edit([month('6110', 0, '1')])).detail).toContain('approved and locked. Create a new version');
    expect((await post(`${at}/undo`, { session: 'mine' })).status).toBe(409);
    const copy = (await post<BudgetDto>(`${at}/copies`, { name: 'Amended' })).answer;
    await post(`${company}/budgets/${copy.id}/state`, { state: 'approved', anyway: true });
    const states = (await server.get<BudgetDto[]>(`${company}/budgets`))
      .filter(({ year }) => year === 2028)
      .map(({ name, state }) => [name, state]);
    expect(Object.fromEntries(states)).toMatchObject({ Amended: 'approved', 'Next year': 'superseded' });
    const newest = async (budget: string) => (await server.get<BudgetHistoryDto>(`${budget}/history`)).items.map(({ words }) => words);
    expect((await newest(at)).slice(0, 2)).toEqual(['Superseded by Amended', expect.stringMatching(/^Approved with \d+ findings/)]);
    expect((await newest(`${company}/budgets/${copy.id}`)).slice(-2)).toEqual([
      expect.stringMatching(/^Approved/),
      'Created as a version of Next year',
    ]);
  });
});
