import { type PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { ScenarioRef } from '../statements/column-set.ts';
import type { StatementGrid } from '../statements/evaluate.ts';
import { type FigureLeaf, type FigureSides, groupLeaves, sumOfLeaves } from '../statements/figure-groups.ts';
import type { DrivenSegment } from './price-volume.ts';

/** The volumes of a driver. */
export type Driver = {
  /** the dimension whose values have volumes of their own; null where the driver has one volume */
  readonly dimension: { readonly name: string; readonly values: readonly string[] } | null;
  /** units in a month of a scenario; null where there is no figure */
  readonly volume: (scenario: ScenarioRef, month: PeriodIndex, filter: DimensionFilter) => number | null;
  /** units of what is used up, such as hours; null where none is kept */
  readonly input: Driver['volume'] | null;
};
export type DrivenDifference = {
  readonly segments: readonly DrivenSegment[];
  /** months of the compared side for which one of the sides has no volume: their amounts are in a segment of their own */
  readonly gaps: readonly PeriodIndex[];
};
/** The key of what has no volume to be compared by. */
export const UNDRIVEN = 'undriven';

/**
 * The two sides of a difference with their volumes, month by month: months of the sides are paired in order, and a pair of
 * which one has no volume is left apart. By a dimension, where both sides and the driver know it.
 * @returns null for sides of several scenarios, of balances, or of spans of unequal length
 */
export function drivenSegments(grid: StatementGrid, { compared, base }: FigureSides, driver: Driver): DrivenDifference | null {
  const [now, before] = [sideOf(grid, compared), sideOf(grid, base ?? [])];
  if (!now || !before || now.months.length !== before.months.length) return null;
  const pairs = now.months.map((month, at) => ({ now: month, before: before.months[at]! }));
  const volumes = (side: Side, months: readonly PeriodIndex[], filter: DimensionFilter): number | null => {
    const found = months.map((month) => driver.volume(side.scenario, month, filter));
    return found.every((each) => each === null) ? null : found.reduce<number>((sum, each) => sum + (each ?? 0), 0);
  };
  /** Inputs count only where every month has one: part of them would make a rate of its own. */
  const inputs = (side: Side, months: readonly PeriodIndex[], filter: DimensionFilter): number | null => {
    const found = months.map((month) => driver.input?.(side.scenario, month, filter) ?? null);
    return found.includes(null) ? null : found.reduce<number>((sum, each) => sum + each!, 0);
  };
  const measured = (filter: DimensionFilter) => ({
    comparedVolume: volumes(now, nowMonths, filter),
    baseVolume: volumes(before, beforeMonths, filter),
    comparedInput: inputs(now, nowMonths, filter),
    baseInput: inputs(before, beforeMonths, filter),
  });
  const driven = pairs.filter((pair) => volumes(now, [pair.now], {}) !== null && volumes(before, [pair.before], {}) !== null);
  const gaps = pairs.filter((pair) => !driven.includes(pair)).map((pair) => pair.now);
  const [nowMonths, beforeMonths] = [driven.map((pair) => pair.now), driven.map((pair) => pair.before)];
  const amounts = (side: Side, months: readonly PeriodIndex[], dimension: string | null): Map<string, number> => {
    const leaves = side.leaves.flatMap((leaf) => months.map((month) => inMonth(grid, leaf, month)));
    if (dimension === null) return new Map([['', sumOfLeaves(leaves)]]);
    return new Map((groupLeaves(grid, leaves, { kind: 'dimension', name: dimension }) ?? []).map(({ key, amount }) => [key, amount]));
  };
  const segments: DrivenSegment[] = [];
  const dimension = knownDimension(driver, [
    amounts(now, nowMonths, driver.dimension?.name ?? null),
    amounts(before, beforeMonths, driver.dimension?.name ?? null),
  ]);
  if (dimension === null) {
    const [a, b] = [amounts(now, nowMonths, null), amounts(before, beforeMonths, null)];
    if (driven.length > 0)
      segments.push({
        key: '',
        compared: a.get('')!,
        base: b.get('')!,
        ...measured({}),
      });
  } else {
    const [a, b] = [amounts(now, nowMonths, dimension), amounts(before, beforeMonths, dimension)];
    for (const key of new Set([...a.keys(), ...b.keys()]))
      segments.push({
        key,
        compared: a.get(key) ?? 0,
        base: b.get(key) ?? 0,
        ...measured({ [dimension]: [key] }),
      });
  }
  const sum = (side: 'compared' | 'base') => segments.reduce((total, segment) => total + segment[side], 0);
  const [restCompared, restBase] = [sumOfLeaves(compared) - sum('compared'), sumOfLeaves(base ?? []) - sum('base')];
  if (restCompared !== 0 || restBase !== 0)
    segments.push({ key: UNDRIVEN, compared: restCompared, base: restBase, comparedVolume: null, baseVolume: null });
  return { segments, gaps };
}

type Side = { readonly leaves: readonly FigureLeaf[]; readonly scenario: ScenarioRef; readonly months: readonly PeriodIndex[] };

/** One scenario over one span of income accounts, else null. */
function sideOf(grid: StatementGrid, leaves: readonly FigureLeaf[]): Side | null {
  const [first] = leaves;
  if (!first) return null;
  const { scenario, span } = first.source;
  const isAlike = ({ source }: FigureLeaf): boolean =>
    source.scenario === scenario &&
    source.span.from === span.from &&
    source.span.to === span.to &&
    source.accounts.every(({ account }) => !grid.plan.isBalanceSheet[account]);
  if (!leaves.every(isAlike)) return null;
  return { leaves, scenario, months: Array.from({ length: span.to - span.from + 1 }, (_, at) => (span.from + at) as PeriodIndex) };
}

/** A leaf over one month of its span, with what its accounts come to in it. */
function inMonth(grid: StatementGrid, leaf: FigureLeaf, month: PeriodIndex): FigureLeaf {
  const own: FigureLeaf = { ...leaf, source: { ...leaf.source, span: { from: month, to: month } } };
  const groups = groupLeaves(grid, [{ ...own, factor: 1 }], { kind: 'month' }) ?? [];
  return { ...own, source: { ...own.source, sum: groups.reduce((sum, { amount }) => sum + amount, 0) as typeof own.source.sum } };
}

/** The driver's dimension, unless one side knows no value of it: a budget without departments has no mix of them. */
function knownDimension({ dimension }: Driver, sides: readonly ReadonlyMap<string, number>[]): string | null {
  if (dimension === null) return null;
  const knowsValue = (amounts: ReadonlyMap<string, number>): boolean => [...amounts.keys()].some((key) => dimension.values.includes(key));
  return sides.every(knowsValue) ? dimension.name : null;
}
