import type { Polarity } from '../chart/account-class.ts';
import type { RatioUnit } from '../statement/cell.ts';

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
 * the column's span; returns and turnovers are brought to a year by its months, days use the calendar
 * days of the span. A column over the trailing twelve months needs no such scaling.
 * Source: the definitions general in textbooks of financial statement analysis (Weygandt, Kimmel, Kieso), from memory.
 */
export const RATIOS: readonly RatioDefinition[] = [
  ...family('liquidity', [
    ['current_ratio', 'Current ratio', 'current_assets / current_liabilities', 'times', up, 'Current assets over current liabilities'],
    [
      'quick_ratio',
      'Quick ratio',
      '(cash + receivables) / current_liabilities',
      'times',
      up,
      'Cash and receivables over current liabilities',
    ],
    ['cash_ratio', 'Cash ratio', 'cash / current_liabilities', 'times', up, 'Cash over current liabilities'],
  ]),
  ...family('solvency', [
    ['debt_to_assets', 'Debt to assets', 'liabilities / total_assets', 'percent', down, 'All liabilities over total assets'],
    ['debt_to_equity', 'Debt to equity', 'liabilities / equity', 'times', down, 'All liabilities over equity'],
    [
      'interest_coverage',
      'Interest coverage',
      '(net_income + income_tax + interest_expense) / interest_expense',
      'times',
      up,
      'Net income before tax and interest, over interest expense',
    ],
  ]),
  ...family('profitability', [
    ['gross_margin', 'Gross margin', 'gross_profit / revenue', 'percent', up, 'Gross profit over net revenue'],
    ['operating_margin', 'Operating margin', 'operating_result / revenue', 'percent', up, 'Operating result over net revenue'],
    [
      'ebitda_margin',
      'EBITDA margin',
      '(operating_result + depreciation) / revenue',
      'percent',
      up,
      'Operating result before depreciation and amortization, over net revenue',
    ],
    ['net_margin', 'Net margin', 'net_income / revenue', 'percent', up, 'Net income over net revenue'],
    [
      'return_on_assets',
      'Return on assets',
      'net_income * 12 / months / average_assets',
      'percent',
      up,
      'Net income, brought to a year, over average total assets',
    ],
    [
      'return_on_equity',
      'Return on equity',
      'net_income * 12 / months / average_equity',
      'percent',
      up,
      'Net income, brought to a year, over average equity',
    ],
  ]),
  ...family('activity', [
    [
      'asset_turnover',
      'Asset turnover',
      'revenue * 12 / months / average_assets',
      'times',
      up,
      'Net revenue, brought to a year, over average total assets',
    ],
    [
      'receivable_turnover',
      'Receivable turnover',
      'revenue * 12 / months / average_receivables',
      'times',
      up,
      'Net revenue, brought to a year, over average receivables',
    ],
    [
      'receivable_days',
      'Days of receivables',
      'average_receivables / revenue * days',
      'days',
      down,
      'Average receivables over net revenue, times the days of the span',
    ],
    [
      'inventory_turnover',
      'Inventory turnover',
      'cost_of_sales * 12 / months / average_inventory',
      'times',
      up,
      'Cost of sales, brought to a year, over average inventory',
    ],
    [
      'inventory_days',
      'Days of inventory',
      'average_inventory / cost_of_sales * days',
      'days',
      down,
      'Average inventory over cost of sales, times the days of the span',
    ],
    [
      'payable_turnover',
      'Payable turnover',
      'cost_of_sales * 12 / months / average_payables',
      'times',
      'neutral',
      'Cost of sales, brought to a year, over average payables',
    ],
    [
      'payable_days',
      'Days of payables',
      'average_payables / cost_of_sales * days',
      'days',
      'neutral',
      'Average payables over cost of sales, times the days of the span',
    ],
    [
      'cash_conversion_cycle',
      'Cash conversion cycle',
      'inventory_days + receivable_days - payable_days',
      'days',
      down,
      'Days of inventory and of receivables, less days of payables',
    ],
  ]),
  ...family('people', [
    ['revenue_per_head', 'Revenue per head', 'revenue / heads', 'amount', up, 'Net revenue of the span over its average headcount'],
    [
      'result_per_head',
      'Operating result per head',
      'operating_result / heads',
      'amount',
      up,
      'Operating result of the span over its average headcount',
    ],
  ]),
];
