import { type BasisPreviewDto, type BudgetDto, type BudgetGridDto, type BudgetRowDto, type PackedBudgetGrid } from '@wise-margin/contract';
import type { Basis } from '@wise-margin/core';
import { unpackBudgetGrid } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { filterText } from './support/filter-text.ts';
import { type TestServer } from './support/server.ts';

let server: TestServer;
let at: string;
beforeAll(async () => {
  server = await demoServer();
  const company = '/companies/1';
  const copy = await server.send('POST', `${company}/budgets/1/copies`, { name: 'At work' });
  at = `${company}/budgets/${(copy.body as BudgetDto).id}`;
});
afterAll(() => server.close());

const TOURS = { department: ['Tours'] };
const slice = (filter: Parameters<typeof filterText>[0]) => `?${filterText(filter)}`;
const edit = async (edits: object[], filter: Parameters<typeof filterText>[0] = {}) => {
  const { status, body } = await server.send('POST', `${at}/edits`, { edits, filter });
  return {
    status,
    detail: (body as { detail?: string }).detail ?? '',
    grid: status === 200 ? unpackBudgetGrid(await server.get<PackedBudgetGrid>(`${at}${slice(filter)}`)) : null,
  };
};
const setBasis = (account: string, basis: object, filter: Parameters<typeof filterText>[0] = {}) =>
  edit([{ kind: 'basis', account, basis }], filter);
const rowOf = (grid: BudgetGridDto | null, account: string): BudgetRowDto => grid!.rows.find((row) => row.account === account)!;
const months = (row: BudgetRowDto): number[] =>
  Array.from({ length: 12 }, (_, month) => row.lines.reduce((sum, line) => sum + line.months[month]!, 0));
const sum = (amounts: readonly number[]) => amounts.reduce((total, amount) => total + amount, 0);

describe('bases of budget lines', () => {
  it('a percentage of other lines follows them, department by department, through a chain', async () => {
    const set = await setBasis('5010', { kind: 'percentOf', accounts: '4010', percent: '41' });
    expect([set.status, set.detail]).toEqual([200, '']);
    const before = months(rowOf(set.grid, '4010'));
    const materials = rowOf(set.grid, '5010');
    expect(materials.lines.every(({ basis }) => basis === '41% of 4010')).toBe(true);
    for (const line of materials.lines) {
      const kayaks = rowOf(set.grid, '4010').lines.find(({ dimensions }) => JSON.stringify(dimensions) === JSON.stringify(line.dimensions));
      if (kayaks) expect(line.months[0]).toBe(Math.round(kayaks.months[0]! * 0.41));
      else expect([line.total, line.warnings]).toEqual([0, [expect.stringContaining('The budget has no line in 4010')]]);
    }
    const chained = await setBasis('5110', { kind: 'percentOf', accounts: '5010', percent: '50' });
    expect(chained.status).toBe(200);
    const typed = await edit([{ kind: 'month', account: '4010', month: 3, text: '100000' }]);
    expect(months(rowOf(typed.grid, '4010'))[3]).toBe(10_000_000);
    const after = months(rowOf(typed.grid, '5010'));
    const halves = months(rowOf(typed.grid, '5110'));
    const withKayaks = rowOf(typed.grid, '5010').lines.filter(({ total }) => total !== 0);
    expect(after[3]).toBe(sum(withKayaks.map((line) => line.months[3]!)));
    expect(Math.abs(after[3]! - 4_100_000)).toBeLessThanOrEqual(rowOf(typed.grid, '5010').lines.length);
    expect(Math.abs(halves[3]! - 2_050_000)).toBeLessThanOrEqual(2 * rowOf(typed.grid, '5110').lines.length);
    expect(before[4]).toBe(months(rowOf(typed.grid, '4010'))[4]);
  });
  it('a circle is refused with its accounts, and nothing changes', async () => {
    const version = (await edit([{ kind: 'month', account: '6110', month: 0, text: '16000' }])).grid!.version;
    const circle = await setBasis('4010', { kind: 'percentOf', accounts: '5110', percent: '10' });
    expect([circle.status, circle.detail]).toEqual([
      422,
      expect.stringMatching(/depend on each other: .*4010.*5110|depend on each other: .*5110.*4010/),
    ]);
    expect((await server.get<PackedBudgetGrid>(at)).version).toBe(version);
  });
  it('amounts of its own are for one line: a row of several says so', async () => {
    const steps = [
      { from: 0, value: 100_000 },
      { from: 5, value: 110_000 },
    ];
    const refused = await setBasis('6010', { kind: 'fixedMonths', steps });
    expect([refused.status, refused.detail]).toEqual([422, expect.stringContaining('combines several lines')]);
    const set = await setBasis('6010', { kind: 'fixedMonths', steps }, TOURS);
    const row = rowOf(set.grid, '6010');
    expect(row.lines[0]!.basis).toBe('1,000 a month, then 1,100 from Sep');
    expect(months(row)).toEqual([
      100_000, 100_000, 100_000, 100_000, 100_000, 110_000, 110_000, 110_000, 110_000, 110_000, 110_000, 110_000,
    ]);
    // the form has the amounts as they are shown
    expect(row.lines[0]!.basisForm).toEqual({ kind: 'fixedMonths', steps });
  });
  it('what a basis would give is shown before it is set, and is what it gives', async () => {
    const bases: Basis[] = [
      { kind: 'averageYears', years: [2025, 2026], changePercent: '2' },
      { kind: 'latestMonths', count: 6, changePercent: '0' },
      { kind: 'trend', of: 'years', years: [2025, 2026], seasonal: true },
      {
        kind: 'driverRate',
        driver: { name: 'Trips', months: [0, 2, 10, 40, 60, 30, 5, 0, 0, 0, 0, 1] },
        rates: [{ from: 0, value: '82.5' }],
        unit: 100,
      },
      { kind: 'payroll', positions: [{ name: 'Guide', heads: 2, yearlyPay: 4_000_000 as never, startMonth: 3 }], onCostPercent: '20' },
      { kind: 'typedTotal', total: 1_200_000 as never, spread: 'history' },
      { kind: 'sameMonths', year: 2026, changePercent: '0', roundTo: 100 as never },
    ];
    for (const basis of bases) {
      const preview = (await server.send('POST', `${at}/basis-preview`, { account: '4210', filter: TOURS, basis })).body as BasisPreviewDto;
      const set = await setBasis('4210', basis, TOURS);
      const row = rowOf(set.grid, '4210');
      expect([basis.kind, preview.months, preview.total]).toEqual([basis.kind, months(row), sum(months(row))]);
      expect(row.lines[0]!.basis).toBe(preview.sentence);
      expect(row.lines[0]!.basisForm).toEqual(basis);
    }
  });
  it('held months stay, and a line without a basis before gets one', async () => {
    await edit([{ kind: 'month', account: '4210', month: 2, text: '777' }], TOURS);
    const set = await setBasis('4210', { kind: 'fixedMonths', steps: [{ from: 0, value: 5_000 }] }, TOURS);
    expect(months(rowOf(set.grid, '4210')).slice(0, 4)).toEqual([5_000, 5_000, 77_700, 5_000]);
  });
  it.each([
    [{ kind: 'sameMonths', year: 2026, changePercent: 'much' }, 'Enter a percentage'],
    [{ kind: 'fixedMonths', steps: [] }, 'at least one step'],
    [{ kind: 'driverRate', driver: { name: 'x', months: [1] }, rates: [{ from: 0, value: '1' }], unit: 100 }, '12'],
    [{ kind: 'averageYears', years: [], changePercent: '0' }, 'at least one year'],
    [{ kind: 'guess' }, 'basis'],
  ])('%o is refused by field', async (basis, words) => {
    const { status, body } = await server.send('POST', `${at}/edits`, {
      edits: [{ kind: 'basis', account: '4210', basis }],
      filter: TOURS,
    });
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toContain(words);
  });
  it('missing history is reported in the preview', async () => {
    const basis = { kind: 'sameMonths', year: 2019, changePercent: '0' };
    const { body } = await server.send('POST', `${at}/basis-preview`, { account: '4210', filter: TOURS, basis });
    expect((body as BasisPreviewDto).warnings).toEqual([expect.stringContaining('Nothing is posted in FY2019')]);
  });
});
