import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { periodAt, type PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { SPAN_KINDS, type SpanDefinition } from '../calendar/span.ts';
import type { Column, ColumnSet } from './column-set.ts';
import { columnWords } from './column-words.ts';
import { coveredSpan, sidesOn } from './comparable-months.ts';
import { evaluate } from './evaluate.ts';
import type { LineSet } from './line-set.ts';
import { isAtMoment } from './point-in-time.ts';
import { BALANCE_LINES } from './shipped/balance-lines.ts';
import { INCOME_LINES } from './shipped/income-lines.ts';
import { SHIPPED_VIEWS } from './shipped/views.ts';
import { block, calendar, chart, dimensions, sales, sold, sourceOf } from './small-books.ts';
import { planStatement, type StatementPlan } from './statement-plan.ts';

const LINES: LineSet = { key: 'l', name: 'L', percentBase: 'sales', lines: [sales] };
const posted = (first: number, last: number) => ({ first: first as PeriodIndex, last: last as PeriodIndex });
const amountColumn = (key: string, scenario: 'actual' | 'budget' | 'projection', span: SpanDefinition): Column => ({
  kind: 'amount',
  key,
  heading: key,
  scenario,
  span,
});
const comparison = (compared: Column, base: Column): ColumnSet => ({
  key: 'c',
  name: 'C',
  blocks: [
    block([
      compared,
      base,
      { kind: 'difference', key: 'difference', heading: 'Variance', compared: compared.key, base: base.key },
      { kind: 'percentDifference', key: 'percent', heading: '%', compared: compared.key, base: base.key },
      { kind: 'formula', key: 'reached', heading: '% of budget', expression: `${compared.key} / ${base.key}`, result: 'percent' },
    ]),
  ],
});
const plan = (columnSet: ColumnSet, options: { lines?: LineSet; asOf: number; last: number; first?: number }) =>
  planStatement({
    lineSet: options.lines ?? LINES,
    columnSet,
    chart,
    calendar,
    dimensions,
    asOf: options.asOf as PeriodIndex,
    posted: posted(options.first ?? 0, options.last),
  });

/** Formulas over columns of different numbers of covered months whose heading does not name them. */
function silent(of: StatementPlan): string[] {
  return of.columns.flatMap((column) => {
    if (column.kind !== 'formula') return [];
    const lengths = [...column.reads.values()].flatMap((read) => {
      const each = of.columns[read]!;
      const span = each.kind === 'amount' ? coveredSpan(each, of.posted) : null;
      return span ? [span.to - span.from] : [];
    });
    return new Set(lengths).size > 1 && !column.heading.includes(' against ') ? [column.key] : [];
  });
}

/** Comparisons that set different numbers of covered months against each other on a line. */
function unequal(of: StatementPlan): string[] {
  return of.columns.flatMap((column) => {
    if (column.kind !== 'difference' && column.kind !== 'percentDifference') return [];
    return of.lines.flatMap((line) => {
      const sides = sidesOn(column, of.pointsInTime[line.index]!, of.columns);
      if (sides === null || line.source.kind === 'nothing') return [];
      const [compared, base] = [of.columns[sides.compared]!, of.columns[sides.base]!];
      if (compared.kind !== 'amount' || base.kind !== 'amount' || isAtMoment(of.pointsInTime[line.index]!, compared.measure)) return [];
      const [a, b] = [coveredSpan(compared, of.posted), coveredSpan(base, of.posted)];
      return a && b && a.to - a.from !== b.to - b.from ? [`${column.key} on ${line.key}`] : [];
    });
  });
}

describe('comparisons', () => {
  it('of seven posted months with a budget of twelve compare seven and say so', () => {
    const columns = comparison(
      amountColumn('actual', 'actual', { kind: 'fullYear' }),
      amountColumn('budget', 'budget', { kind: 'fullYear' }),
    );
    // FY2025 runs Apr 2024 to Mar 2025: seven of its months are posted
    const { plan: planned } = plan(columns, { asOf: 18, last: 18 });
    const actual = sourceOf([4, 5, 6, 7].map((month) => sold(100, month, undefined, 2025)));
    const budget = sourceOf(Array.from({ length: 12 }, (_, month) => sold(50, month + 1, undefined, 2025)));
    const grid = evaluate(planned, (ref) => (ref === 'actual' ? actual : budget), {});
    const cells = Object.fromEntries(planned.columns.map(({ key, index }) => [key, grid.cells[0]![index]]));
    expect(cells['b.budget']).toMatchObject({ value: 600 });
    expect(cells['b.difference']).toMatchObject({ value: 400 - 350 });
    expect(cells['b.percent']).toMatchObject({ value: 50 / 350 });
    expect(planned.columns.map(({ heading }) => heading)).toContain('Variance, Apr to Oct 2024');
    // a percentage of the whole budget reached reads the whole budget, and its heading says so
    expect(cells['b.reached']).toMatchObject({ value: 400 / 600 });
    expect(planned.columns.map(({ heading }) => heading)).toContain('% of budget, Apr to Oct 2024 against Apr 2024 to Mar 2025');
    const difference = planned.columns.find(({ key }) => key === 'b.difference')!;
    expect(columnWords(grid, difference.index)).toBe('Actual, Apr to Oct 2024, less Actual, Apr to Oct 2024');
  });
  it('of spans without a month in common show nothing and are listed', () => {
    const columns = comparison(
      amountColumn('a', 'budget', { kind: 'month', pinnedTo: '2024-05' }),
      amountColumn('b', 'budget', { kind: 'restOfYear', pinnedTo: '2024-10' }),
    );
    const { plan: planned, issues } = plan(columns, { asOf: 18, last: 18 });
    expect(issues).toMatchObject([
      { code: 'noCommonMonths', column: 'difference' },
      { code: 'noCommonMonths', column: 'percent' },
    ]);
    const grid = evaluate(planned, () => sourceOf([sold(1)]), {});
    expect(grid.cells[0]![2]).toEqual({ kind: 'blank', reason: 'noCommonMonths' });
  });
  it('of balances are made at the ends of their columns', () => {
    const columns = comparison(
      amountColumn('now', 'actual', { kind: 'month' }),
      amountColumn('year_end', 'actual', { kind: 'fullYear', shift: { years: -1 } }),
    );
    const { plan: planned, issues } = plan(columns, { lines: BALANCE_LINES, asOf: 18, last: 18 });
    expect([issues, planned.columns.length]).toEqual([[], 5]);
  });
  it('in every shipped view, for any month and any months posted, set equal months against each other', () =>
    fc.assert(
      fc.property(fc.constantFrom(...SHIPPED_VIEWS), fc.nat(35), fc.nat(35), fc.nat(35), (view, asOf, a, b) => {
        const { plan: planned } = plan(view.columnSet, { lines: view.lineSet, asOf, first: Math.min(a, b), last: Math.max(a, b) });
        expect([...unequal(planned), ...silent(planned)]).toEqual([]);
      }),
      { numRuns: 300 },
    ));
  it('however they are built, set equal months against each other, and name the months where they are fewer', () => {
    const spans = fc.record({
      kind: fc.constantFrom(...SPAN_KINDS),
      shift: fc.record({ months: fc.integer({ min: -3, max: 1 }), years: fc.integer({ min: -1, max: 0 }) }),
    });
    const scenarios = fc.constantFrom('actual', 'budget', 'projection');
    fc.assert(
      fc.property(fc.tuple(scenarios, spans), fc.tuple(scenarios, spans), fc.nat(35), fc.nat(35), (one, other, asOf, last) => {
        const columns = comparison(amountColumn('one', ...one), amountColumn('other', ...other));
        const { plan: planned } = plan(columns, { lines: INCOME_LINES, asOf, last });
        expect([...unequal(planned), ...silent(planned)]).toEqual([]);
        const added = planned.columns.slice(5);
        if (added.length > 0) expect(planned.columns[2]!.heading).not.toBe('Variance');
        for (const column of added)
          expect(column.kind === 'amount' && column.resolved.ok && periodAt(calendar, column.resolved.span.from)).toBeTruthy();
      }),
      { numRuns: 500 },
    );
  });
});
