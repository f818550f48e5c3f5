import type { Column, ColumnSet } from './column-set.ts';
import type { SpanDefinition, SpanKind } from '../calendar/span.ts';
import type { LineSet } from './line-set.ts';

/** The income statement: accounts by class, gathered under their groups. */
export const INCOME_LINES: LineSet = {
  key: 'income',
  name: 'Income statement',
  percentBase: 'revenue',
  lines: [
    {
      kind: 'section',
      key: 'revenue_section',
      name: 'Revenue',
      lines: [
        { kind: 'groups', key: 'revenue_lines', name: 'Revenue', selection: { classes: ['revenue', 'revenueDeductions'] }, sign: 'credit' },
        {
          kind: 'total',
          key: 'revenue',
          name: 'Revenue, net',
          of: 'revenue_section',
          sign: 'credit',
          polarity: 'higherIsBetter',
          emphasis: 'bold',
          rule: 'single',
        },
      ],
    },
    {
      kind: 'section',
      key: 'cost_section',
      name: 'Cost of sales',
      lines: [
        { kind: 'groups', key: 'cost_lines', name: 'Cost of sales', selection: { classes: ['costOfSales'] }, sign: 'debit' },
        {
          kind: 'total',
          key: 'cost_of_sales',
          name: 'Cost of sales',
          of: 'cost_section',
          sign: 'debit',
          polarity: 'lowerIsBetter',
          emphasis: 'bold',
          rule: 'single',
        },
      ],
    },
    {
      kind: 'formula',
      key: 'gross_profit',
      name: 'Gross profit',
      expression: 'revenue - cost_of_sales',
      result: 'amount',
      polarity: 'higherIsBetter',
      emphasis: 'bold',
      rule: 'single',
    },
    {
      kind: 'formula',
      key: 'gross_margin',
      name: 'Gross margin',
      expression: 'gross_profit / revenue',
      result: 'percent',
      polarity: 'higherIsBetter',
      emphasis: 'italic',
    },
    {
      kind: 'section',
      key: 'operating_section',
      name: 'Operating expenses',
      lines: [
        {
          kind: 'groups',
          key: 'operating_lines',
          name: 'Operating expenses',
          selection: { classes: ['operatingExpenses', 'depreciation'] },
          sign: 'debit',
        },
        {
          kind: 'total',
          key: 'operating_expenses',
          name: 'Operating expenses',
          of: 'operating_section',
          sign: 'debit',
          polarity: 'lowerIsBetter',
          emphasis: 'bold',
          rule: 'single',
        },
      ],
    },
    {
      kind: 'formula',
      key: 'operating_result',
      name: 'Operating result',
      expression: 'gross_profit - operating_expenses',
      result: 'amount',
      polarity: 'higherIsBetter',
      emphasis: 'bold',
      rule: 'single',
    },
    {
      kind: 'formula',
      key: 'operating_margin',
      name: 'Operating margin',
      expression: 'operating_result / revenue',
      result: 'percent',
      polarity: 'higherIsBetter',
      emphasis: 'italic',
    },
    {
      kind: 'section',
      key: 'other_section',
      name: 'Other items',
      lines: [
        {
          kind: 'groups',
          key: 'other_lines',
          name: 'Other items',
          selection: { classes: ['otherIncome', 'otherExpense', 'interestExpense'] },
          sign: 'credit',
          polarity: 'higherIsBetter',
        },
        {
          kind: 'total',
          key: 'other_items',
          name: 'Other items, net',
          of: 'other_section',
          sign: 'credit',
          polarity: 'higherIsBetter',
          emphasis: 'bold',
          rule: 'single',
        },
      ],
    },
    {
      kind: 'formula',
      key: 'result_before_tax',
      name: 'Result before tax',
      expression: 'operating_result + other_items',
      result: 'amount',
      polarity: 'higherIsBetter',
      emphasis: 'bold',
      rule: 'single',
    },
    {
      kind: 'accounts',
      key: 'income_tax',
      name: 'Income tax',
      selection: { classes: ['incomeTax'] },
      sign: 'debit',
      polarity: 'lowerIsBetter',
    },
    {
      kind: 'formula',
      key: 'net_income',
      name: 'Net income',
      expression: 'result_before_tax - income_tax',
      result: 'amount',
      polarity: 'higherIsBetter',
      emphasis: 'bold',
      rule: 'double',
    },
  ],
};

const month: SpanDefinition = { kind: 'month' };
const yearEarlier = (kind: SpanKind): SpanDefinition => ({ kind, shift: { years: -1 } });
const againstBudgetAndPriorYear = (kind: SpanKind): Column[] => [
  { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: { kind } },
  { kind: 'share', key: 'actual_share', heading: '% rev', of: 'actual' },
  { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: { kind } },
  { kind: 'share', key: 'budget_share', heading: '% rev', of: 'budget' },
  { kind: 'difference', key: 'budget_difference', heading: 'Difference', compared: 'actual', base: 'budget', bar: true },
  { kind: 'percentDifference', key: 'budget_percent', heading: '%', compared: 'actual', base: 'budget' },
  { kind: 'amount', key: 'prior', heading: 'Prior year', scenario: 'actual', span: yearEarlier(kind) },
  { kind: 'difference', key: 'prior_difference', heading: 'Difference', compared: 'actual', base: 'prior' },
  { kind: 'percentDifference', key: 'prior_percent', heading: '%', compared: 'actual', base: 'prior' },
];

/** Month and year to date, each against budget and prior year, with percent of revenue. */
export const REVIEW_COLUMNS: ColumnSet = {
  key: 'review',
  name: 'Month and year to date against budget and prior year',
  blocks: [
    { key: 'month', heading: '{span}', span: month, columns: againstBudgetAndPriorYear('month') },
    { key: 'ytd', heading: 'Year to date, {span}', span: { kind: 'yearToDate' }, columns: againstBudgetAndPriorYear('yearToDate') },
  ],
};

/** Actuals of the trailing twelve months side by side, and their total. */
export const TREND_COLUMNS: ColumnSet = {
  key: 'trend',
  name: 'Trailing twelve months',
  blocks: [
    {
      key: 'trend',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'trailingTwelve' } },
      total: { heading: 'Total, {span}' },
      columns: [{ kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month }],
    },
  ],
};

/** Twelve months of actual, budget and percent difference: 36 columns, and their total. */
export const MONTHS_COLUMNS: ColumnSet = {
  key: 'months',
  name: 'Twelve months of actual, budget and percent difference',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      total: { heading: 'Year, {span}' },
      columns: [
        { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month },
        { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: month },
        { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'actual', base: 'budget' },
      ],
    },
  ],
};

/** Operating result by month, for the marks of the period strip. */
export const STRIP_COLUMNS: ColumnSet = {
  key: 'strip',
  name: 'Operating result by month',
  blocks: [
    {
      key: 'strip',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      columns: [
        { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month },
        { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: month },
      ],
    },
  ],
};

/** A budget's year by month, with its total, last year's (projected where it has not ended), the difference and its percentage. */
export const BUDGET_GRID_COLUMNS: ColumnSet = {
  key: 'budget_grid',
  name: 'Budget by month',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      columns: [{ kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: month }],
    },
    {
      key: 'year',
      heading: 'Year',
      span: { kind: 'fullYear' },
      columns: [
        { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: { kind: 'fullYear' } },
        { kind: 'amount', key: 'prior', heading: 'Last year', scenario: 'projection', span: yearEarlier('fullYear') },
        { kind: 'difference', key: 'difference', heading: 'Difference', compared: 'budget', base: 'prior' },
        { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'budget', base: 'prior' },
      ],
    },
  ],
};

export const SHIPPED_COLUMN_SETS: Readonly<Record<string, ColumnSet>> = {
  review: REVIEW_COLUMNS,
  trend: TREND_COLUMNS,
  months: MONTHS_COLUMNS,
};
export const SHIPPED_LINE_SETS: Readonly<Record<string, LineSet>> = { income: INCOME_LINES };
