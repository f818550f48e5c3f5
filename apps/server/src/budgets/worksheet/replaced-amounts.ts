import type { WorksheetAnswerDto } from '@wise-margin/contract';
import { minor, monthOfYearName, signOf, toDecimalText } from '@wise-margin/core';

import type { LoggedChange } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';

/**
 * Amounts that a session entered and that others replaced since: single months of single lines whose amount was, until
 * the other's change, the one this session had left there.
 * @param of.own what the session changed, the oldest first, without what was undone
 * @param of.others what others changed since, the oldest first
 * @param of.dimensions of the budget: the slice of a line is its value, or none, of each
 */
export function replacedAmounts(
  books: Books,
  of: {
    readonly year: number;
    readonly own: readonly LoggedChange[];
    readonly others: readonly LoggedChange[];
    readonly dimensions: readonly string[];
  },
): WorksheetAnswerDto['replaced'] {
  const mine = new Map<string, number>();
  for (const { cells, lines } of of.own)
    for (const { after } of lines)
      for (const [month, { amount }] of after.months.entries())
        if (cells.includes(`${after.id}:${month}`)) mine.set(`${after.id}:${month}`, amount);
  const replaced = new Map<string, WorksheetAnswerDto['replaced'][number]>();
  for (const { actor, lines } of of.others)
    for (const { before, after } of lines)
      for (const [month, { amount }] of after.months.entries()) {
        const cell = `${after.id}:${month}`;
        const entered = mine.get(cell);
        if (entered === undefined || amount === entered || before?.months[month]?.amount !== entered) continue;
        const account = books.chart.accounts[after.position]!;
        const text = (value: number) => toDecimalText(minor(signOf(account) * value), books.currency.exponent);
        replaced.set(cell, {
          account: account.number,
          month,
          filter: Object.fromEntries(of.dimensions.map((name) => [name, [after.dimensions[name] ?? '']])),
          place: `${account.number} ${account.name}, ${monthOfYearName(books.calendar, of.year, month)}`,
          mine: text(entered),
          theirs: text(amount),
          actor,
        });
      }
  return [...replaced.values()];
}
