import type { Polarity } from '../chart/account-class.ts';
import type { RatioUnit } from '../statements/cell.ts';

export const RATIO_FAMILIES = [
  { key: 'liquidity', name: 'Liquidity' },
  { key: 'solvency', name: 'Solvency' },
  { key: 'profitability', name: 'Profitability' },
  { key: 'activity', name: 'Activity' },
  { key: 'people', name: 'People' },
] as const;

/** A ratio: a formula over the lines of the ratio statement, and the same in words. */
export type RatioDefinition = {
  readonly key: string;
  readonly name: string;
  readonly family: (typeof RATIO_FAMILIES)[number]['key'];
  readonly expression: string;
  readonly result: 'amount' | RatioUnit;
  readonly polarity: Polarity;
  readonly words: string;
};
type Row = readonly [key: string, name: string, expression: string, result: RatioDefinition['result'], polarity: Polarity, words: string];
const family = (key: RatioDefinition['family'], rows: readonly Row[]): RatioDefinition[] =>
  rows.map(([own, name, expression, result, polarity, words]) => ({ key: own, name, family: key, expression, result, polarity, words }));
const up = 'higherIsBetter';
const down = 'lowerIsBetter';

/**
 * The ratios, in the order they are shown. Averages are the mean of the opening and closing balance of
 * the column's span; returns and turnovers are annualized by its months, days use the calendar
 * days of the span. A column over the trailing twelve months needs no such scaling.
 * Source: the definitions general in textbooks of financial statement analysis (Weygandt, Kimmel, Kieso), from memory.
 */
export const RATIOS: readonly RatioDefinition[] = [
  ...family('liquidity', [
    ['current_ratio', 'Current ratio', 'current_assets / current_liabilities', 'times', up, 'Current assets ÷ current liabilities'],
    ['quick_ratio', 'Quick ratio', '(cash + receivables) / current_liabilities', 'times', up, '(Cash + receivables) ÷ current liabilities'],
    ['cash_ratio', 'Cash ratio', 'cash / current_liabilities', 'times', up, 'Cash ÷ current liabilities'],
  ]),
  ...family('solvency', [
    ['debt_to_assets', 'Debt to assets', 'liabilities / total_assets', 'percent', down, 'Total liabilities ÷ total assets'],
    ['debt_to_equity', 'Debt to equity', 'liabilities / equity', 'times', down, 'Total liabilities ÷ equity'],
    [
      'interest_coverage',
      'Interest coverage',
      '(net_income + income_tax + interest_expense) / interest_expense',
      'times',
      up,
      'Income before interest and taxes ÷ interest expense',
    ],
  ]),
  ...family('profitability', [
    ['gross_margin', 'Gross margin', 'gross_profit / revenue', 'percent', up, 'Gross profit ÷ net revenue'],
    ['operating_margin', 'Operating margin', 'operating_income / revenue', 'percent', up, 'Operating income ÷ net revenue'],
    [
      'ebitda_margin',
      'EBITDA margin',
      '(operating_income + depreciation) / revenue',
      'percent',
      up,
      'Operating income before depreciation and amortization ÷ net revenue',
    ],
    ['net_margin', 'Net margin', 'net_income / revenue', 'percent', up, 'Net income ÷ net revenue'],
    [
      'return_on_assets',
      'Return on assets',
      'net_income * 12 / months / average_assets',
      'percent',
      up,
      'Annualized net income ÷ average total assets',
    ],
    [
      'return_on_equity',
      'Return on equity',
      'net_income * 12 / months / average_equity',
      'percent',
      up,
      'Annualized net income ÷ average equity',
    ],
  ]),
  ...family('activity', [
    [
      'asset_turnover',
      'Asset turnover',
      'revenue * 12 / months / average_assets',
      'times',
      up,
      'Annualized net revenue ÷ average total assets',
    ],
    [
      'receivable_turnover',
      'Receivable turnover',
      'revenue * 12 / months / average_receivables',
      'times',
      up,
      'Annualized net revenue ÷ average receivables',
    ],
    [
      'receivable_days',
      'Days sales outstanding (DSO)',
      'average_receivables / revenue * days',
      'days',
      down,
      'Average receivables ÷ net revenue × days in the period',
    ],
    [
      'inventory_turnover',
      'Inventory turnover',
      'cost_of_sales * 12 / months / average_inventory',
      'times',
      up,
      'Annualized cost of sales ÷ average inventory',
    ],
    [
      'inventory_days',
      'Days inventory outstanding (DIO)',
      'average_inventory / cost_of_sales * days',
      'days',
      down,
      'Average inventory ÷ cost of sales × days in the period',
    ],
    [
      'payable_turnover',
      'Payable turnover',
      'cost_of_sales * 12 / months / average_payables',
      'times',
      'neutral',
      'Annualized cost of sales ÷ average payables',
    ],
    [
      'payable_days',
      'Days payables outstanding (DPO)',
      'average_payables / cost_of_sales * days',
      'days',
      'neutral',
      'Average payables ÷ cost of sales × days in the period',
    ],
    ['cash_conversion_cycle', 'Cash conversion cycle', 'inventory_days + receivable_days - payable_days', 'days', down, 'DIO + DSO − DPO'],
  ]),
  ...family('people', [
    ['revenue_per_head', 'Revenue per employee', 'revenue / heads', 'amount', up, 'Net revenue of the period ÷ average headcount'],
    [
      'result_per_head',
      'Operating income per employee',
      'operating_income / heads',
      'amount',
      up,
      'Operating income of the period ÷ average headcount',
    ],
  ]),
];
