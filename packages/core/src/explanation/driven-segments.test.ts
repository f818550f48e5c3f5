import { describe, expect, it } from 'vitest';

import { type PeriodIndex, periodOfYear } from '../calendar/fiscal-calendar.ts';
import { findingColumns } from '../findings/finding-columns.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import { figureSides } from '../statements/figure-groups.ts';
import { calendar, type Posting, run, sales, sold } from '../statements/small-books.ts';
import { drivenSegments, type Driver, UNDRIVEN } from './driven-segments.ts';

const monthOf = (year: number, number: number): PeriodIndex => periodOfYear(calendar, year, number)!;
/** Sales of April to June of two fiscal years: North 100 and South 50 a month, then 120 and 40. */
const POSTINGS: readonly Posting[] = [1, 2, 3].flatMap((month) => [
  sold(100, month, 'North', 2025),
  sold(50, month, 'South', 2025),
  sold(120, month, 'North', 2026),
  sold(40, month, 'South', 2026),
]);
/** Guests of a month: 10 in North and 5 in South, one more of each a year later. */
const guests = (month: PeriodIndex, { department }: DimensionFilter): number => {
  const more = month >= monthOf(2026, 1) ? 1 : 0;
  const [north, south] = [10 + more, 5 + more];
  if (department === undefined) return north + south;
  return department.reduce((sum, name) => sum + (name === 'North' ? north : name === 'South' ? south : 0), 0);
};
const DEPARTMENTS: Driver['dimension'] = { name: 'department', values: ['North', 'South'] };
const driver = (more: Partial<Driver> = {}): Driver => ({
  dimension: null,
  volume: (_, month, filter) => guests(month, filter),
  input: null,
  ...more,
});
/** The year to date as of June of FY2026 against the same months a year before. */
function segmentsOf(of: Driver, postings = POSTINGS) {
  const { grid } = run({ postings, lines: [sales], blocks: findingColumns('priorYear').blocks, asOf: '2025-06' });
  const at = (key: string) => grid.plan.columns.findIndex((column) => column.key === key);
  return drivenSegments(grid, figureSides(grid, grid.plan.lineOfKey.get('sales')!, at('yearToDate.variance'))!, of);
}

describe('a difference with its volumes', () => {
  it('of a driver without a dimension is one segment over its months', () =>
    expect(segmentsOf(driver())).toEqual({
      segments: [{ key: '', compared: 480, base: 450, comparedVolume: 51, baseVolume: 45, comparedInput: null, baseInput: null }],
      gaps: [],
    }));
  it('of a driver by department is a segment for each', () => {
    const { segments } = segmentsOf(driver({ dimension: DEPARTMENTS }))!;
    expect(
      segments.map(({ key, compared, base, comparedVolume, baseVolume }) => [key, compared, base, comparedVolume, baseVolume]),
    ).toEqual([
      ['North', 360, 300, 33, 30],
      ['South', 120, 150, 18, 15],
    ]);
  });
  it('is not split by a dimension that one side knows nothing of', () => {
    const plain = POSTINGS.map(({ department, ...posting }) => (posting.year === 2025 ? posting : { ...posting, department: department! }));
    expect(segmentsOf(driver({ dimension: DEPARTMENTS }), plain)!.segments.map(({ key }) => key)).toEqual(['']);
  });
  it('leaves months apart of which one side has no volume, with the amounts of both', () => {
    const may = monthOf(2025, 2);
    const { segments, gaps } = segmentsOf(driver({ volume: (_, month, filter) => (month === may ? null : guests(month, filter)) }))!;
    expect(gaps).toEqual([monthOf(2026, 2)]);
    expect(
      segments.map(({ key, compared, base, comparedVolume, baseVolume }) => [key, compared, base, comparedVolume, baseVolume]),
    ).toEqual([
      ['', 320, 300, 34, 30],
      [UNDRIVEN, 160, 150, null, null],
    ]);
  });
  it('without any volume is all apart', () => {
    const { segments, gaps } = segmentsOf(driver({ volume: () => null }))!;
    expect([segments, gaps.length]).toEqual([[{ key: UNDRIVEN, compared: 480, base: 450, comparedVolume: null, baseVolume: null }], 3]);
  });
  it('has an input only where every month has one', () => {
    const hours: Driver['input'] = (_, month) => 2 * guests(month, {});
    expect(segmentsOf(driver({ input: hours }))!.segments[0]).toMatchObject({ comparedInput: 102, baseInput: 90 });
    const gap: Driver['input'] = (scenario, month, filter) => (month === monthOf(2026, 3) ? null : hours(scenario, month, filter));
    expect(segmentsOf(driver({ input: gap }))!.segments[0]).toMatchObject({ comparedInput: null, baseInput: 90 });
  });
  it('is none for balances, which no volume makes', () => {
    const cash = { kind: 'accounts', key: 'cash', name: 'Cash', selection: { classes: ['cash'] }, sign: 'debit' } as const;
    const { grid } = run({ postings: POSTINGS, lines: [cash], blocks: findingColumns('priorYear').blocks, asOf: '2025-06' });
    const column = grid.plan.columns.findIndex(({ key }) => key === 'month.variance');
    expect(drivenSegments(grid, figureSides(grid, 0, column)!, driver())).toBeNull();
  });
});
