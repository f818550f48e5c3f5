import type { SpanDefinition } from '../calendar/span.ts';
import type { Block, Column, ColumnSet, ScenarioRef } from '../statements/column-set.ts';
import type { FindingSpan } from './materiality.ts';

export const COMPARISONS = ['budget', 'priorYear', 'priorMonth', 'projection'] as const;
/** What a variance is measured against. A projection is measured against the budget of the full year. */
export type Comparison = (typeof COMPARISONS)[number];

const MONTH: SpanDefinition = { kind: 'month' };
const YEAR_TO_DATE: SpanDefinition = { kind: 'yearToDate' };
const FULL_YEAR: SpanDefinition = { kind: 'fullYear' };

const block = (key: string, heading: string, sides: readonly [Side, Side]): Block => ({
  key,
  heading,
  span: sides[0].span,
  columns: [
    ...sides.map(({ scenario, span }, at): Column => ({
      kind: 'amount',
      key: at === 0 ? 'compared' : 'base',
      heading: scenario,
      scenario,
      span,
    })),
    { kind: 'difference', key: 'variance', heading: 'Variance', compared: 'compared', base: 'base' },
    { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'compared', base: 'base' },
  ],
});
type Side = { readonly scenario: ScenarioRef; readonly span: SpanDefinition };
const actual = (span: SpanDefinition): Side => ({ scenario: 'actual', span });
const earlier = (span: SpanDefinition, shift: SpanDefinition['shift'] & object): Side => actual({ ...span, shift });

/** Sides of each comparison; null where it has no such span. */
const SIDES: Readonly<Record<Comparison, Readonly<Record<FindingSpan, readonly [Side, Side] | null>>>> = {
  budget: {
    month: [actual(MONTH), { scenario: 'budget', span: MONTH }],
    yearToDate: [actual(YEAR_TO_DATE), { scenario: 'budget', span: YEAR_TO_DATE }],
  },
  priorYear: {
    month: [actual(MONTH), earlier(MONTH, { years: -1 })],
    yearToDate: [actual(YEAR_TO_DATE), earlier(YEAR_TO_DATE, { years: -1 })],
  },
  priorMonth: { month: [actual(MONTH), earlier(MONTH, { months: -1 })], yearToDate: null },
  projection: {
    month: null,
    yearToDate: [
      { scenario: 'projection', span: FULL_YEAR },
      { scenario: 'budget', span: FULL_YEAR },
    ],
  },
};

/** The spans that a comparison has: a projection is of the full year, a prior month is of the month. */
export const spansOfComparison = (comparison: Comparison): readonly FindingSpan[] =>
  (['month', 'yearToDate'] as const).filter((span) => SIDES[comparison][span] !== null);

/** The span asked for where a comparison has it, else the one it has. */
export function spanOfComparison(comparison: Comparison, asked: FindingSpan): FindingSpan {
  const spans = spansOfComparison(comparison);
  return spans.includes(asked) ? asked : spans[0]!;
}

/** The columns in which variances of a comparison are looked for: blocks `month` and `yearToDate`, each with `compared`, `base`, `variance` and `percent`. */
export function findingColumns(comparison: Comparison): ColumnSet {
  return FINDING_COLUMNS[comparison];
}
const FINDING_COLUMNS = Object.fromEntries(
  COMPARISONS.map((comparison) => [
    comparison,
    {
      key: `findings-${comparison}`,
      name: 'Variances',
      blocks: (['month', 'yearToDate'] as const).flatMap((span) => {
        const sides = SIDES[comparison][span];
        return sides === null ? [] : [block(span, '{span}', sides)];
      }),
    } satisfies ColumnSet,
  ]),
) as unknown as Readonly<Record<Comparison, ColumnSet>>;
