import type { ColumnSet } from '../column-set.ts';
import type { Display } from '../display.ts';
import type { LineSet } from '../line-set.ts';
import { ACCOUNT_LINES, CUSTOMER_LINES } from './account-lines.ts';
import { ACTIVITY_COLUMNS, BALANCE_COLUMNS, BALANCE_MONTHS_COLUMNS, BALANCE_SHARES_COLUMNS, RATIO_COLUMNS } from './balance-columns.ts';
import { BALANCE_LINES } from './balance-lines.ts';
import { CASH_FLOW_LINES } from './cash-flow-lines.ts';
import {
  DEPARTMENTS_COLUMNS,
  EXPENSE_SHARES_COLUMNS,
  FIVE_YEARS_COLUMNS,
  FLOW_COLUMNS,
  MONTHS_COLUMNS,
  OUTLOOK_COLUMNS,
  QUARTERS_COLUMNS,
  REVIEW_COLUMNS,
  TREND_COLUMNS,
  VERTICAL_COLUMNS,
  YEAR_ON_YEAR_COLUMNS,
  YEARS_COLUMNS,
} from './comparison-columns.ts';
import { EXPENSE_LINES } from './expense-lines.ts';
import { INCOME_LINES } from './income-lines.ts';
import { RATIO_LINES } from './ratio-lines.ts';

/** A line set and a column set under a name. */
export type ShippedView = {
  readonly key: string;
  readonly name: string;
  readonly folder: string;
  /** what question it answers */
  readonly note: string;
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  /** lines that open by themselves; `all` opens every one */
  readonly open?: 'all';
  /** choices of display that it makes itself */
  readonly display?: Pick<Display, 'shares'>;
};

/** The views that come with the application, in the order of the library. */
export const SHIPPED_VIEWS: readonly ShippedView[] = [
  {
    key: 'income',
    name: 'Income statement',
    folder: 'Income statements',
    note: 'Month and year to date against budget and prior year',
    lineSet: INCOME_LINES,
    columnSet: REVIEW_COLUMNS,
    // both blocks fit beside one another without them
    display: { shares: false },
  },
  {
    key: 'income-months',
    name: 'Twelve months against budget',
    folder: 'Income statements',
    note: 'Actual, budget and percent for every month of the year',
    lineSet: INCOME_LINES,
    columnSet: MONTHS_COLUMNS,
  },
  {
    key: 'outlook',
    name: 'Year-end outlook',
    folder: 'Income statements',
    note: 'Month, year to date, rest of the year, projection against the approved budget',
    lineSet: INCOME_LINES,
    columnSet: OUTLOOK_COLUMNS,
  },
  {
    key: 'vertical',
    name: 'Vertical income statement',
    folder: 'Income statements',
    note: 'Every line as a share of revenue beside the prior year',
    lineSet: INCOME_LINES,
    columnSet: VERTICAL_COLUMNS,
  },
  {
    key: 'expense-shares',
    name: 'Expenses by share',
    folder: 'Income statements',
    note: 'Every expense as a percent of total expenses beside the prior year',
    lineSet: EXPENSE_LINES,
    columnSet: EXPENSE_SHARES_COLUMNS,
  },
  {
    key: 'departments',
    name: 'Departments side by side',
    folder: 'Income statements',
    note: 'Year to date against budget by department',
    lineSet: INCOME_LINES,
    columnSet: DEPARTMENTS_COLUMNS,
  },
  {
    key: 'customers',
    name: 'Sales by customer',
    folder: 'Income statements',
    note: 'Month and year to date, this year and last',
    lineSet: CUSTOMER_LINES,
    columnSet: YEAR_ON_YEAR_COLUMNS,
    open: 'all',
  },
  {
    key: 'trend',
    name: 'Trend by month',
    folder: 'Trends',
    note: 'Trailing twelve months and their total',
    lineSet: INCOME_LINES,
    columnSet: TREND_COLUMNS,
  },
  {
    key: 'trend-quarters',
    name: 'Trend by quarter',
    folder: 'Trends',
    note: 'Eight quarters beside the prior year, the last one to date',
    lineSet: INCOME_LINES,
    columnSet: QUARTERS_COLUMNS,
  },
  {
    key: 'trend-years',
    name: 'Trend by year',
    folder: 'Trends',
    note: 'Up to five years, the last one to date',
    lineSet: INCOME_LINES,
    columnSet: YEARS_COLUMNS,
  },
  {
    key: 'five-years',
    name: 'Five-year summary',
    folder: 'Trends',
    note: 'Each year with its shares of revenue and its change',
    lineSet: INCOME_LINES,
    columnSet: FIVE_YEARS_COLUMNS,
  },
  {
    key: 'balance',
    name: 'Balance sheet',
    folder: 'Balance sheet and cash',
    note: 'Against prior month, prior year end and the same month last year',
    lineSet: BALANCE_LINES,
    columnSet: BALANCE_COLUMNS,
  },
  {
    key: 'balance-vertical',
    name: 'Vertical balance sheet',
    folder: 'Balance sheet and cash',
    note: 'Shares of total assets and of each group',
    lineSet: BALANCE_LINES,
    columnSet: BALANCE_SHARES_COLUMNS,
  },
  {
    key: 'balance-months',
    name: 'Balance sheet by month',
    folder: 'Balance sheet and cash',
    note: 'Month ends of the fiscal year',
    lineSet: BALANCE_LINES,
    columnSet: BALANCE_MONTHS_COLUMNS,
  },
  {
    key: 'cash-flow',
    name: 'Statement of cash flows',
    folder: 'Balance sheet and cash',
    note: 'Indirect, month and year to date beside the prior year',
    lineSet: CASH_FLOW_LINES,
    columnSet: FLOW_COLUMNS,
  },
  {
    key: 'activity',
    name: 'Account activity',
    folder: 'Balance sheet and cash',
    note: 'Opening balance and net change of each period, active accounts',
    lineSet: ACCOUNT_LINES,
    columnSet: ACTIVITY_COLUMNS,
    open: 'all',
  },
  {
    key: 'ratios',
    name: 'Ratios',
    folder: 'Balance sheet and cash',
    note: 'Liquidity, solvency, profitability, activity, per employee',
    lineSet: RATIO_LINES,
    columnSet: RATIO_COLUMNS,
  },
];

/** The shipped view with a key, or null. */
export function shippedView(key: string): ShippedView | null {
  return SHIPPED_VIEWS.find((view) => view.key === key) ?? null;
}
