const NOT_MEANINGFUL: Readonly<Record<string, string>> = {
  zeroBase: 'Not meaningful: the base is zero',
  divisionByZero: 'Not meaningful: division by zero',
  fromNotMeaningful: 'Not meaningful: calculated from an amount that is not meaningful',
  outOfRange: 'Not meaningful: beyond the largest amount',
  faultyLine: 'Not meaningful: the line cannot be read',
  faultyColumn: 'Not meaningful: the column cannot be read',
};
const BLANK: Readonly<Record<string, string>> = {
  noLine: '',
  outsideCalendar: 'No fiscal year covers these months',
  emptySpan: 'No months are left in this period',
  notYetPosted: 'Nothing is posted in these months yet',
  beforeHistory: 'The ledger starts later',
  noBudget: 'No approved or chosen budget for this year',
  noBudgetByDimension: 'The budget is not prepared by this dimension',
  noBalanceBudget: 'Balances are budgeted for the company as a whole, within one fiscal year',
  bothZero: 'Both amounts are zero',
  ratioLine: 'Not shown for ratios',
  noStatistic: 'No statistics for these months',
  noBenchmark: 'No benchmark for this line',
  partOfEarnings: 'Prior-year earnings are not available by account',
  noCommonMonths: 'The two columns have no months in common',
  fromBlank: 'One of its amounts is missing',
};

/** Why a cell shows n/m or nothing, in words; empty when there is nothing to explain. */
export function cellReasonWords(cell: { readonly kind: string; readonly reason?: string }): string {
  if (cell.kind === 'notMeaningful') return NOT_MEANINGFUL[cell.reason ?? ''] ?? '';
  return cell.kind === 'blank' ? (BLANK[cell.reason ?? ''] ?? '') : '';
}
