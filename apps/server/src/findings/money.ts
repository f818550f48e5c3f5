import { formatAmount, minor } from '@wise-margin/core';

import type { Books } from '../companies/index.ts';

/** An amount in whole units of currency, without its sign, as sentences have it. */
export const money = ({ currency: { exponent } }: Books, amount: number): string =>
  formatAmount(minor(Math.abs(amount)), { exponent, unit: 'dollars' });
