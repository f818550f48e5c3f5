import type { SpanDefinition } from '../../calendar/span.ts';
import type { Column, ColumnSet } from '../column-set.ts';
import { againstBenchmark } from './comparison-columns.ts';

const month: SpanDefinition = { kind: 'month' };
const balanceAt = (key: string, heading: string, span: SpanDefinition): Column => ({
  kind: 'amount',
  key,
  heading,
  scenario: 'actual',
  span,
  measure: 'closing',
});
const monthBefore: SpanDefinition = { kind: 'month', shift: { months: -1 } };
const yearBefore: SpanDefinition = { kind: 'month', shift: { years: -1 } };
const priorYearEnd: SpanDefinition = { kind: 'fullYear', shift: { years: -1 } };
const against = (key: string, heading: string, span: SpanDefinition): ColumnSet['blocks'][number] => ({
  key,
  heading,
  span,
  columns: [
    balanceAt('balance', '{date}', span),
    { kind: 'difference', key: 'difference', heading: 'Change', compared: 'now.balance', base: 'balance' },
    { kind: 'percentDifference', key: 'percent', heading: '%', compared: 'now.balance', base: 'balance' },
  ],
});

/** The balance sheet against the prior month, the prior year end and the same month last year. */
export const BALANCE_COLUMNS: ColumnSet = {
  key: 'balance',
  name: 'Against prior month, prior year end and last year',
  blocks: [
    { key: 'now', heading: '{span}', span: month, columns: [balanceAt('balance', '{date}', month)] },
    against('month', 'Prior month', monthBefore),
    against('year_end', 'Prior year end', priorYearEnd),
    against('year', 'Same month last year', yearBefore),
  ],
};

/** Balances as shares of total assets, now, at the prior year end and a year earlier. */
export const BALANCE_SHARES_COLUMNS: ColumnSet = {
  key: 'balance_shares',
  name: 'Shares of total assets',
  blocks: [
    ['now', '{span}', month] as const,
    ['year_end', 'Prior year end', priorYearEnd] as const,
    ['year', 'Same month last year', yearBefore] as const,
  ].map(([key, heading, span]) => ({
    key,
    heading,
    span,
    columns: [
      balanceAt('balance', '{date}', span),
      { kind: 'share' as const, key: 'share', heading: '% of total assets', of: 'balance' },
      ...(key === 'now' ? againstBenchmark('share') : []),
      { kind: 'share' as const, key: 'group_share', heading: '% of group', of: 'balance', ownGroup: true },
    ],
  })),
};

/** Month ends of the year side by side. */
export const BALANCE_MONTHS_COLUMNS: ColumnSet = {
  key: 'balance_months',
  name: 'Month ends of the year',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      // a month without entries yet has no balance to show
      columns: [{ ...balanceAt('balance', '{date}', month), ifFilled: true }],
    },
  ],
};

/** The opening balance and the net change of each period of the year, and the closing balance. */
export const ACTIVITY_COLUMNS: ColumnSet = {
  key: 'activity',
  name: 'Opening balance and net change by period',
  blocks: [
    {
      key: 'opening',
      heading: 'Start of year',
      span: { kind: 'fullYear' },
      columns: [{ kind: 'amount', key: 'opening', heading: 'Opening', scenario: 'actual', span: { kind: 'fullYear' }, measure: 'opening' }],
    },
    {
      key: 'months',
      heading: '{span}',
      span: month,
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      total: { heading: 'Year, {span}' },
      columns: [
        { kind: 'amount', key: 'change', heading: 'Net change', scenario: 'actual', span: month, measure: 'change', ifFilled: true },
      ],
    },
    {
      key: 'closing',
      heading: '{span}',
      span: month,
      columns: [
        { kind: 'formula', key: 'closing', heading: 'Closing', expression: 'opening.opening + months.total.change', result: 'amount' },
      ],
    },
  ],
};

/** Ratios of the month, of the year to date and of the trailing twelve months, beside a year earlier. */
export const RATIO_COLUMNS: ColumnSet = {
  key: 'ratios',
  name: 'Month and trailing twelve months beside the prior year',
  blocks: (['month', 'yearToDate', 'trailingTwelve'] as const).map((kind) => ({
    key: kind === 'month' ? 'month' : kind === 'yearToDate' ? 'ytd' : 'ttm',
    heading: kind === 'month' ? '{span}' : kind === 'yearToDate' ? 'Year to date, {span}' : 'Trailing twelve, {span}',
    span: { kind },
    columns: [
      { kind: 'amount' as const, key: 'actual', heading: 'Actual', scenario: 'actual' as const, span: { kind } },
      { kind: 'amount' as const, key: 'prior', heading: 'Prior year', scenario: 'actual' as const, span: { kind, shift: { years: -1 } } },
      { kind: 'difference' as const, key: 'difference', heading: 'Change', compared: 'actual', base: 'prior' },
      ...againstBenchmark('actual'),
    ],
  })),
};
