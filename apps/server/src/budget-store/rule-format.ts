import { formatAmount, type Minor, monthOfYearName } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';

/** How rules of balances write amounts and months: cents only where there are some. */
export function ruleFormat(
  { currency: { exponent }, calendar }: Books,
  year: number,
): { readonly amount: (value: Minor) => string; readonly month: (month: number) => string } {
  return {
    amount: (value) => formatAmount(value, { exponent, unit: 'dollars', decimals: value % 10 ** exponent === 0 ? 0 : exponent }),
    month: (month) => monthOfYearName(calendar, year, month),
  };
}
