import type { SpanDefinition, SpanKind } from '../../calendar/span.ts';
import type { Column, ColumnSet, Repeat } from '../column-set.ts';

const month: SpanDefinition = { kind: 'month' };
const yearToDate: SpanDefinition = { kind: 'yearToDate' };
const yearEarlier = (kind: SpanKind): SpanDefinition => ({ kind, shift: { years: -1 } });
const actual = (key: string, heading: string, span: SpanDefinition): Column => ({ kind: 'amount', key, heading, scenario: 'actual', span });
const budget = (key: string, heading: string, span: SpanDefinition): Column => ({ kind: 'amount', key, heading, scenario: 'budget', span });
const difference = (key: string, compared: string, base: string, heading = 'Variance'): Column => ({
  kind: 'difference',
  key,
  heading,
  compared,
  base,
});
const percent = (key: string, compared: string, base: string, heading = '%'): Column => ({
  kind: 'percentDifference',
  key,
  heading,
  compared,
  base,
});
const share = (key: string, of: string, heading: string): Column => ({ kind: 'share', key, heading, of });

/** The benchmark and what the figure is above it; left out while no line has one. */
export const againstBenchmark = (of: string): Column[] => [
  { kind: 'benchmark', key: 'benchmark', heading: 'Benchmark', ifFilled: true },
  { ...difference('above', of, 'benchmark', 'vs. benchmark'), ifFilled: true },
];
const againstBudgetAndPriorYear = (kind: SpanKind): Column[] => [
  actual('actual', 'Actual', { kind }),
  share('actual_share', 'actual', '% of revenue'),
  budget('budget', 'Budget', { kind }),
  share('budget_share', 'budget', '% of revenue'),
  { kind: 'difference', key: 'budget_difference', heading: 'Variance', compared: 'actual', base: 'budget', bar: true },
  percent('budget_percent', 'actual', 'budget', 'Var. %'),
  actual('prior', 'Prior year', yearEarlier(kind)),
  difference('prior_difference', 'actual', 'prior', 'Change'),
  percent('prior_percent', 'actual', 'prior', 'Chg. %'),
];

/** Month and year to date, each against budget and prior year, with percent of revenue. */
export const REVIEW_COLUMNS: ColumnSet = {
  key: 'review',
  name: 'Month and year to date against budget and prior year',
  blocks: [
    { key: 'month', heading: '{span}', span: month, columns: againstBudgetAndPriorYear('month') },
    { key: 'ytd', heading: 'Year to date, {span}', span: yearToDate, columns: againstBudgetAndPriorYear('yearToDate') },
  ],
};

/** Actuals over the parts of a repeat, side by side, and their total. */
const trend = (key: string, name: string, repeat: Repeat, span: SpanDefinition, total = true): ColumnSet => ({
  key,
  name,
  blocks: [
    {
      key: 'trend',
      heading: '{span}',
      span: month,
      repeat,
      ...(total ? { total: { heading: 'Total, {span}' } } : {}),
      columns: [actual('actual', 'Actual', span)],
    },
  ],
});
export const TREND_COLUMNS = trend('trend', 'Trailing twelve months', { over: 'months', last: 12 }, month);
/** Eight quarters, each beside the same months of the quarter a year before. */
export const QUARTERS_COLUMNS: ColumnSet = {
  key: 'quarters',
  name: 'Eight quarters beside the prior year',
  blocks: [
    {
      key: 'trend',
      heading: '{span}',
      span: { kind: 'quarterToDate' },
      repeat: { over: 'quarters', last: 8 },
      columns: [
        actual('actual', 'Actual', { kind: 'quarterToDate' }),
        actual('prior', 'Prior year', yearEarlier('quarterToDate')),
        percent('change', 'actual', 'prior'),
      ],
    },
  ],
};
export const YEARS_COLUMNS = trend('years', 'Five years', { over: 'years', last: 5 }, yearToDate, false);

/** Five years: each year's amount, its share of the base, and its change from the year before. */
export const FIVE_YEARS_COLUMNS: ColumnSet = {
  key: 'five_years',
  name: 'Five years with shares and changes',
  blocks: [
    {
      key: 'year',
      heading: '{span}',
      span: yearToDate,
      repeat: { over: 'years', last: 5 },
      columns: [
        actual('actual', 'Actual', yearToDate),
        share('share', 'actual', '% of revenue'),
        { ...actual('before', 'Prior year', yearEarlier('yearToDate')), hidden: true },
        percent('change', 'actual', 'before'),
      ],
    },
  ],
};

/**
 * Twelve months of actual, budget and variance percent, the year to date against its budget, and the
 * full year: actuals through the last posted month and the approved budget after it, against the year's budget.
 */
export const MONTHS_COLUMNS: ColumnSet = {
  key: 'months',
  name: 'Twelve months against budget, year to date and full year',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      columns: [actual('actual', 'Actual', month), budget('budget', 'Budget', month), percent('percent', 'actual', 'budget')],
    },
    {
      key: 'ytd',
      heading: 'Year to date, {span}',
      span: yearToDate,
      columns: [
        actual('actual', 'Actual', yearToDate),
        budget('budget', 'Budget', yearToDate),
        difference('difference', 'actual', 'budget', 'Variance'),
        percent('percent', 'actual', 'budget'),
      ],
    },
    {
      key: 'year',
      heading: 'Full year, {span}',
      span: { kind: 'fullYear' },
      columns: [
        { kind: 'amount', key: 'projection', heading: 'Projection', scenario: 'projection', span: { kind: 'fullYear' } },
        budget('budget', 'Budget', { kind: 'fullYear' }),
        difference('difference', 'projection', 'budget', 'Variance'),
        percent('percent', 'projection', 'budget'),
      ],
    },
  ],
};

/** Month and year to date as shares, beside the prior year's and the change in points. */
const sharesBesidePriorYear = (
  key: string,
  name: string,
  { heading, hasBenchmark }: { readonly heading: string; readonly hasBenchmark: boolean },
): ColumnSet => ({
  key,
  name,
  blocks: (['month', 'yearToDate'] as const).map((kind) => ({
    key: kind === 'month' ? 'month' : 'ytd',
    heading: kind === 'month' ? '{span}' : 'Year to date, {span}',
    span: { kind },
    columns: [
      actual('actual', 'Actual', { kind }),
      share('share', 'actual', heading),
      actual('prior', 'Prior year', yearEarlier(kind)),
      share('prior_share', 'prior', heading),
      difference('points', 'share', 'prior_share', 'Change'),
      ...(hasBenchmark ? againstBenchmark('share') : []),
    ],
  })),
});
/** Each line as a share of the statement's base. */
export const VERTICAL_COLUMNS = sharesBesidePriorYear('vertical', 'Shares beside the prior year', {
  heading: '% of revenue',
  hasBenchmark: true,
});
/** Each expense as a percent of all expenses. */
export const EXPENSE_SHARES_COLUMNS = sharesBesidePriorYear('expense_shares', 'Percent of total expenses beside the prior year', {
  heading: '% of total',
  hasBenchmark: false,
});

/** The departments side by side, and all of them. */
export const DEPARTMENTS_COLUMNS: ColumnSet = {
  key: 'departments',
  name: 'By department, year to date',
  blocks: [
    {
      key: 'department',
      heading: '{value}',
      span: yearToDate,
      repeat: { over: 'dimension', dimension: 'department' },
      total: { heading: '{all}, {span}' },
      columns: [
        actual('actual', 'Actual', yearToDate),
        budget('budget', 'Budget', yearToDate),
        difference('difference', 'actual', 'budget'),
        percent('percent', 'actual', 'budget'),
      ],
    },
  ],
};

const ACTUAL_TO_DATE: SpanDefinition = { kind: 'yearToDate', byActuals: true };
const MONTHS_TO_COME: SpanDefinition = { kind: 'restOfYear', byActuals: true };
/** Month; year to date; budget for the rest of the year; projection against the approved budget. */
export const OUTLOOK_COLUMNS: ColumnSet = {
  key: 'outlook',
  name: 'Year-end outlook',
  blocks: [
    { key: 'month', heading: '{span}', span: month, columns: [actual('actual', 'Actual', month), budget('budget', 'Budget', month)] },
    {
      key: 'ytd',
      heading: 'Year to date, {span}',
      span: ACTUAL_TO_DATE,
      columns: [
        actual('actual', 'Actual', ACTUAL_TO_DATE),
        budget('budget', 'Budget', ACTUAL_TO_DATE),
        difference('difference', 'actual', 'budget'),
      ],
    },
    {
      key: 'rest',
      heading: 'Rest of the year, {span}',
      span: MONTHS_TO_COME,
      columns: [budget('budget', 'Budget', MONTHS_TO_COME)],
    },
    {
      key: 'year',
      heading: 'Year, {span}',
      span: { kind: 'fullYear' },
      columns: [
        { kind: 'amount', key: 'projection', heading: 'Projection', scenario: 'projection', span: { kind: 'fullYear' } },
        budget('budget', 'Budget', { kind: 'fullYear' }),
        { kind: 'difference', key: 'difference', heading: 'Variance', compared: 'projection', base: 'budget', bar: true },
        percent('percent', 'projection', 'budget'),
      ],
    },
  ],
};

/** Month and year to date, this year and last, with differences. */
export const YEAR_ON_YEAR_COLUMNS: ColumnSet = {
  key: 'year_on_year',
  name: 'This year and last: month and year to date',
  blocks: (['month', 'yearToDate'] as const).map((kind) => ({
    key: kind === 'month' ? 'month' : 'ytd',
    heading: kind === 'month' ? '{span}' : 'Year to date, {span}',
    span: { kind },
    columns: [
      actual('actual', 'This year', { kind }),
      actual('prior', 'Last year', yearEarlier(kind)),
      difference('difference', 'actual', 'prior', 'Change'),
      percent('percent', 'actual', 'prior'),
    ],
  })),
};

/** Month and year to date of flows, beside the same a year earlier. */
export const FLOW_COLUMNS: ColumnSet = {
  key: 'flow',
  name: 'Month and year to date beside the prior year',
  blocks: (['month', 'yearToDate'] as const).map((kind) => ({
    key: kind === 'month' ? 'month' : 'ytd',
    heading: kind === 'month' ? '{span}' : 'Year to date, {span}',
    span: { kind },
    columns: [
      actual('actual', 'Actual', { kind }),
      actual('prior', 'Prior year', yearEarlier(kind)),
      difference('difference', 'actual', 'prior', 'Change'),
    ],
  })),
};
