import type { Measure } from '@wise-margin/contract';

export const MEASURE_NAMES: Readonly<Record<Measure, string>> = {
  revenue: 'Revenue, net',
  gross_margin: 'Gross margin',
  operating_income: 'Operating income',
  operating_margin: 'Operating margin',
  net_income: 'Net income',
  cash: 'Cash',
  receivable_days: 'Days sales outstanding',
  inventory_days: 'Days inventory',
  payable_days: 'Days payables',
  cash_conversion_cycle: 'Cash conversion cycle',
  current_ratio: 'Current ratio',
  debt_to_equity: 'Debt to equity',
};
/** Measures that the income statement has a line of its own for. */
export const ON_INCOME_STATEMENT: readonly Measure[] = ['revenue', 'operating_income', 'net_income', 'gross_margin'];
