import type { SpanDefinition } from '../../calendar/span.ts';
import type { ColumnSet } from '../column-set.ts';

const month: SpanDefinition = { kind: 'month' };

/** Operating income by month, for the marks of the period strip. */
export const STRIP_COLUMNS: ColumnSet = {
  key: 'strip',
  name: 'Operating income by month',
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
      key: 'quarters',
      heading: '{span}',
      span: { kind: 'quarter' },
      repeat: { over: 'quarters', last: 4 },
      columns: [{ kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: { kind: 'quarter' } }],
    },
    {
      key: 'year',
      heading: 'Year',
      span: { kind: 'fullYear' },
      columns: [
        { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: { kind: 'fullYear' } },
        { kind: 'amount', key: 'prior', heading: 'Last year', scenario: 'projection', span: { kind: 'fullYear', shift: { years: -1 } } },
        { kind: 'difference', key: 'difference', heading: 'Change', compared: 'budget', base: 'prior' },
        { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'budget', base: 'prior' },
        {
          kind: 'amount',
          key: 'prior_budget',
          heading: 'Last budget',
          scenario: 'budget',
          span: { kind: 'fullYear', shift: { years: -1 } },
        },
        { kind: 'share', key: 'cents', heading: '% of revenue', of: 'budget' },
      ],
    },
  ],
};

/** The months of the year for a chart of one line: actual, budget and prior year. */
export const LINE_TREND_COLUMNS: ColumnSet = {
  key: 'line_trend',
  name: 'One line by month',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      columns: [
        { kind: 'amount', key: 'actual', heading: 'Actual', scenario: 'actual', span: month },
        { kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: month },
        { kind: 'amount', key: 'prior', heading: 'Prior year', scenario: 'actual', span: { kind: 'month', shift: { years: -1 } } },
      ],
    },
  ],
};
