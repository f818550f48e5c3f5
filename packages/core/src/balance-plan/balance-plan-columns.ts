import type { ColumnSet, ScenarioRef } from '../statements/column-set.ts';

/** The months of a budget's year and the year, for the statement of cash flows. */
export const plannedCashColumns = (scenario: ScenarioRef): ColumnSet => ({
  key: 'planned_cash',
  name: 'Planned months',
  blocks: [
    {
      key: 'months',
      heading: '{span}',
      span: { kind: 'month' },
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      total: { heading: 'Year' },
      columns: [{ kind: 'amount', key: 'plan', heading: 'Plan', scenario, span: { kind: 'month' } }],
    },
  ],
});

/** The start of a budget's year and its month ends, for the balance sheet. */
export const plannedBalanceColumns = (scenario: ScenarioRef): ColumnSet => ({
  key: 'planned_balance',
  name: 'Planned month ends',
  blocks: [
    {
      key: 'opening',
      heading: 'Start of year',
      span: { kind: 'fullYear' },
      columns: [{ kind: 'amount', key: 'plan', heading: 'Plan', scenario, span: { kind: 'fullYear' }, measure: 'opening' }],
    },
    {
      key: 'months',
      heading: '{span}',
      span: { kind: 'month' },
      repeat: { over: 'months', within: { kind: 'fullYear' } },
      columns: [{ kind: 'amount', key: 'plan', heading: 'Plan', scenario, span: { kind: 'month' }, measure: 'closing' }],
    },
  ],
});
