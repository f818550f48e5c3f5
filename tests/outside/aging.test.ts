import { readFileSync } from 'node:fs';

import { estimatedAllowance, type Minor, shareFactor } from '@wise-margin/core';
import { expect, it } from 'vitest';

it('estimates the allowance as the textbook does', () => {
  // from memory: Weygandt, Kimmel and Kieso, Accounting Principles, the chapter on receivables
  const book = JSON.parse(readFileSync(new URL('values/aging.json', import.meta.url), 'utf8')) as {
    balances: number[];
    uncollectiblePercent: number[];
    allowance: number[];
    allowanceTotal: number;
  };
  const percents = book.uncollectiblePercent.map((percent) => shareFactor(String(percent))!);
  const { byBucket, total } = estimatedAllowance(
    book.balances.map((amount) => (amount * 100) as Minor),
    percents,
  );
  expect(byBucket).toEqual(book.allowance.map((amount) => amount * 100));
  expect(total).toBe(book.allowanceTotal * 100);
});
