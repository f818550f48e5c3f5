import { type BoundFunctions, fireEvent, type queries, waitFor, within } from '@testing-library/react';
import type { Basis, BasisKind } from '@wise-margin/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { budgetMaker, type TestBudget } from './support/new-budget.ts';
import { openPage } from './support/page.tsx';
import { startTestServer, type TestServer } from './support/server.ts';
import { loadSmallCompany } from './support/small-company.ts';

// The sentence of a basis as it is drawn, against the real server: every kind is chosen, filled in, seen before it is set, and kept.

let server: TestServer;
let company: number;
beforeAll(async () => {
  server = await startTestServer();
  company = await loadSmallCompany(server);
});
afterAll(() => server.close());
const newBudget = budgetMaker(
  () => server,
  () => company,
);

type Panel = BoundFunctions<typeof queries>;
/** Wages of the south, looked at alone. */
async function wages(of: TestBudget): Promise<Panel> {
  const page = openPage(server, `${of.address}?row=6000&filter.department=South`);
  const panel = within(await page.findByRole('complementary', { name: 'Line' }));
  await panel.findByRole('form', { name: 'Basis' });
  return panel;
}
const stored = async ({ worksheet }: TestBudget): Promise<Basis> =>
  (await worksheet()).lines.find(({ account }) => account === '6000')!.basis as Basis;
const write = (panel: Panel, label: string, value: string): void =>
  void fireEvent.change(panel.getByLabelText(label), { target: { value } });
const choose = (panel: Panel, kind: BasisKind): void => write(panel, 'Basis of the year', kind);
/** What the years' table shows of the new year, January to December and the total. */
const given = (panel: Panel): string[] =>
  panel
    .getAllByRole('row')
    .filter((row) => row.closest('table')?.getAttribute('aria-label') === 'The line by month and year')
    .slice(1)
    .map((row) => row.lastElementChild!.textContent!);

type Filling = { readonly [label: string]: string };
/** What is filled in for each kind, what it gives for January and the year, and the basis that is saved. */
const KINDS: { readonly [Kind in BasisKind]: readonly [Filling, january: string, total: string, saved: object] } = {
  sameMonths: [
    { Year: '2025', 'Changed by percent': '10', 'By amount a month': '20' },
    '350',
    '4,200',
    { year: 2025, changePercent: '10', changeAmount: 2000 },
  ],
  yearTotal: [
    { 'Total of': '2025', 'Changed by percent': '-50', Spread: 'even' },
    '150',
    '1,800',
    { changePercent: '-50', spread: 'even' },
  ],
  averageYears: [{ 'Years before': '1', 'Changed by percent': '0' }, '300', '3,600', { years: [2025] }],
  latestMonths: [{ 'Latest months': '3', 'Changed by percent': '100' }, '600', '7,200', { count: 3 }],
  trend: [
    { 'Line through': 'months', 'Years before': '1', 'Shape of the line': 'plain' },
    '300',
    '3,600',
    { of: 'months', seasonal: false },
  ],
  percentOf: [{ Percent: '5', 'Of accounts': '4000', 'Percentage of': 'each' }, '50', '603', { percent: '5', wholeCompany: true }],
  driverRate: [
    { Driver: '', 'What is counted': 'Visits', 'Numbers of the twelve months': '1 2 3 4 5 6 7 8 9 10 11 12', Rate: '2.50' },
    '3',
    '195',
    { driver: { name: 'Visits', months: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] } },
  ],
  fixedMonths: [{ 'Amount a month': '410' }, '410', '4,920', { steps: [{ from: 0, value: 41_000 }] }],
  payroll: [
    {
      'Current staff': '2025',
      'Name, position 1': 'Clerk',
      'Yearly pay, position 1': '12000',
      'Payroll taxes and benefits, percent': '50',
    },
    '1,800',
    '21,600',
    { currentStaff: { year: 2025, changePercent: '0' }, onCostPercent: '50' },
  ],
  typedTotal: [{ 'Total of the year': '1200', Spread: 'even' }, '100', '1,200', { total: 120_000, spread: 'even' }],
  typed: [{}, '–', '–', {}],
};

describe('the sentence of a basis', () => {
  it.each(Object.entries(KINDS) as [BasisKind, (typeof KINDS)[BasisKind]][])(
    '%s is filled in, previewed, set and saved',
    async (kind, [filling, january, total, saved]) => {
      const of = await newBudget();
      const panel = await wages(of);
      choose(panel, kind);
      for (const [label, value] of Object.entries(filling)) write(panel, label, value);
      await waitFor(() => expect([given(panel)[0], given(panel).at(-1)]).toEqual([january, total]));
      await panel.findByText(/with this basis/, { selector: 'figcaption' });
      expect((await stored(of)).kind).toBe('sameMonths');
      fireEvent.click(panel.getByRole('button', { name: 'Apply' }));
      await waitFor(async () => expect(await stored(of)).toMatchObject({ kind, ...saved }));
      await waitFor(() => expect(panel.queryByRole('button', { name: 'Apply' })).toBeNull());
      expect([given(panel)[0], given(panel).at(-1)]).toEqual([january, total]);
    },
  );
});

describe('a sentence that is not complete', () => {
  let panel: Panel;
  // one page for all: Escape puts the stored basis back
  beforeAll(async () => {
    panel = await wages(await newBudget());
  });
  it.each([
    ['percentOf', { Percent: '5' }, 'Accounts: enter those it depends on, such as 4000-4199.'],
    ['percentOf', { Percent: 'half', 'Of accounts': '4000' }, 'Percent: "half" is not a number. Enter one such as 3 or 12.5.'],
    [
      'percentOf',
      { Percent: '5', 'Of accounts': '4000', 'Percentage of': 'sharedByWeights', 'Weights of the lines': 'Shop' },
      'Weights: "Shop" has no name or no number. Enter one such as Tours 3.',
    ],
    ['fixedMonths', { 'Amount a month': '1,0x' }, 'Amount: "1,0x" is not an amount. Enter one such as 1250.00.'],
    ['fixedMonths', { 'Amount a month': '10', 'In which months': 'some' }, 'Months: choose at least one.'],
    [
      'driverRate',
      { Driver: '', Rate: '2', 'Numbers of the twelve months': '1 2' },
      'Numbers: there are 2. Enter twelve, one for each month.',
    ],
    ['averageYears', { 'Years before': '20' }, 'Years: enter a whole number from 1 to 10.'],
    ['payroll', { 'Yearly pay, position 1': '' }, 'Pay of New person: "" is not an amount. Enter one such as 1250.00.'],
    ['yearTotal', { Spread: 'weights', 'Twelve weights': '1 2 3' }, 'Weights: there are 3. Enter twelve, one for each month.'],
  ] as const)('%s with %o says what to write, and cannot be set', (kind, filling, words) => {
    choose(panel, kind);
    for (const [label, value] of Object.entries(filling)) write(panel, label, value);
    expect(panel.getByRole('alert').textContent).toBe(words);
    expect(panel.getByRole<HTMLButtonElement>('button', { name: 'Apply' }).disabled).toBe(true);
    fireEvent.keyDown(panel.getByLabelText('Basis of the year'), { key: 'Escape' });
    expect(panel.queryByRole('alert')).toBeNull();
  });
});

describe('a basis', () => {
  it('has steps and positions that are added and taken away', async () => {
    const of = await newBudget();
    const panel = await wages(of);
    choose(panel, 'fixedMonths');
    write(panel, 'Amount a month', '100');
    for (const _ of [1, 2]) fireEvent.click(panel.getByRole('button', { name: 'Step' }));
    write(panel, 'Amount a month, step 2', '150');
    write(panel, 'From, step 2', '6');
    fireEvent.click(panel.getByRole('button', { name: 'Remove step 3' }));
    await waitFor(() => expect([given(panel)[5], given(panel)[6], given(panel)[12]]).toEqual(['100', '150', '1,500']));
    choose(panel, 'payroll');
    fireEvent.click(panel.getByRole('button', { name: 'Position' }));
    write(panel, 'Yearly pay, position 1', '12000');
    write(panel, 'Yearly pay, position 2', '24000');
    write(panel, 'Starts, position 2', '3');
    write(panel, 'Raise from, position 2', '6');
    write(panel, 'Raise in percent, position 2', '10');
    write(panel, 'Payroll taxes and benefits, percent', '0');
    await waitFor(() => expect([given(panel)[2], given(panel)[3], given(panel)[6]]).toEqual(['1,000', '3,000', '3,200']));
    fireEvent.click(panel.getByRole('button', { name: 'Remove position 1' }));
    await waitFor(() => expect([given(panel)[2], given(panel)[3]]).toEqual(['–', '2,000']));
  });
  it('begins with a month, is rounded and kept within limits', async () => {
    const of = await newBudget();
    const panel = await wages(of);
    for (const [label, value] of Object.entries({
      'From month on': '2',
      'Rounded to': '1000',
      'Minimum per month': '500',
      'Maximum per month': '900',
    }))
      write(panel, label, value);
    await waitFor(() => expect(given(panel).slice(0, 4)).toEqual(['–', '–', '500', '500']));
    fireEvent.click(panel.getByRole('button', { name: 'Apply' }));
    await waitFor(async () => expect(await stored(of)).toMatchObject({ fromMonth: 2, roundTo: 100_000, least: 50_000, most: 90_000 }));
  });
  it('tells what it lacks, and is left as it was by Escape and by its button', async () => {
    const panel = await wages(await newBudget());
    write(panel, 'Year', '2025');
    choose(panel, 'trend');
    await panel.findByText(/A trend of years needs two full years; only FY2025 is\./);
    fireEvent.keyDown(panel.getByLabelText('Years before'), { key: 'Escape' });
    expect(panel.getByLabelText<HTMLSelectElement>('Basis of the year').value).toBe('sameMonths');
    write(panel, 'Changed by percent', '7');
    fireEvent.click(panel.getByRole('button', { name: 'Discard' }));
    expect(panel.getByLabelText<HTMLInputElement>('Changed by percent').value).toBe('0');
    expect(panel.queryByRole('button', { name: 'Apply' })).toBeNull();
  });
  it('refuses a circle with its accounts', async () => {
    const of = await newBudget();
    const basis = { kind: 'percentOf', accounts: '6000', percent: '50' };
    await server.send('POST', `${of.api}/edits`, { edits: [{ kind: 'basis', account: '4100', basis }], filter: { department: ['South'] } });
    const panel = await wages(of);
    choose(panel, 'percentOf');
    write(panel, 'Percent', '10');
    write(panel, 'Of accounts', '4100');
    await waitFor(() => expect(panel.getByRole('alert').textContent).toContain('depend on each other: '));
  });
  it('is one for several ways only when that is asked for', async () => {
    const of = await newBudget();
    for (const [department, changePercent] of [
      ['South', '5'],
      ['North', '9'],
    ] as const) {
      const basis = { kind: 'sameMonths', year: 2025, changePercent };
      await server.send('POST', `${of.api}/edits`, {
        edits: [{ kind: 'basis', account: '6000', basis }],
        filter: { department: [department] },
      });
    }
    const page = openPage(server, `${of.address}?row=6000`);
    const panel = within(await page.findByRole('complementary', { name: 'Line' }));
    expect((await panel.findByText('2 bases, listed below.')).textContent).toBeTruthy();
    expect(panel.queryByRole('form', { name: 'Basis' })).toBeNull();
    fireEvent.click(panel.getByRole('button', { name: 'Use one basis for all' }));
    fireEvent.click(await panel.findByRole('button', { name: 'Discard' }));
    fireEvent.click(panel.getByRole('button', { name: 'Use one basis for all' }));
    fireEvent.click(panel.getByRole('button', { name: 'Apply' }));
    await waitFor(async () => {
      const changes = (await of.worksheet()).lines
        .filter(({ account }) => account === '6000')
        .map(({ basis }) => (basis as { changePercent?: string }).changePercent);
      expect(new Set(changes).size).toBe(1);
    });
  });
});
