import {
  editBudget,
  minor,
  parseBudgetEntry,
  rowAmount,
  signOf,
  type Basis,
  type BudgetEdit,
  type BudgetEntryIssue,
  type BudgetMonth,
  type EditResult,
  type Minor,
} from '@wise-margin/core';
import type { BudgetEditDto } from '@wise-margin/contract';
import type { Books } from '../companies/books.ts';
import type { BudgetRow } from '../database/models.ts';
import { refused } from '../http/problem.ts';
import { lineContext } from './line-context.ts';
import type { StoredLine } from './store.ts';

const ENTRY_WORDS: Readonly<Record<BudgetEntryIssue['code'], string>> = {
  notAnAmount: 'is no amount. Type 1250, 12k, 1.2m, +5%, *1.1 or /12',
  tooManyDecimals: 'has more decimals than the currency',
  divisionByZero: 'divides by zero',
  tooLarge: 'is past the largest amount, 90,000,000,000,000',
};
const REFUSALS: Readonly<Record<(EditResult & { readonly ok: false })['code'], string>> = {
  allMonthsHeld: 'all twelve months are held by hand. Release one, or type the months themselves.',
  noLines: 'there is no line to change.',
  severalLines: 'the row stands for several lines, and this basis names amounts of its own. Choose one of them above the grid first.',
};

/** A basis with its year total debit positive, as it is stored; and in the shown sign, as people see it. */
export const basisFromShown = (basis: Basis, sign: 1 | -1): Basis =>
  basis.kind === 'typedTotal' ? { ...basis, total: minor(sign * basis.total) } : basis;
export const basisToShown = basisFromShown;

/**
 * What an edit makes of the lines of a row.
 * @param all the budget's lines as they stand, for bases that follow others
 * @throws ProblemError 422 naming the account, the text and the fix
 */
export function applyEdit(
  books: Books,
  row: BudgetRow,
  { lines, all, edit }: { readonly lines: readonly StoredLine[]; readonly all: readonly StoredLine[]; readonly edit: BudgetEditDto },
): readonly { basis: Basis; months: readonly BudgetMonth[] }[] {
  const account = books.chart.accounts[lines[0]!.position]!;
  const sign = signOf(account);
  const told = `${account.number} ${account.name}`;
  const read = (text: string, current: number): Minor => {
    const entry = parseBudgetEntry(text, minor(sign * current), books.currency.exponent);
    if (!entry.ok) throw refused(`${told}: "${text}" ${ENTRY_WORDS[entry.issue.code]}.`, 'text');
    return minor(sign * entry.value);
  };
  const change: BudgetEdit =
    edit.kind === 'month'
      ? { kind: 'month', month: edit.month, amount: read(edit.text, rowAmount(lines, edit.month)) }
      : edit.kind === 'year'
        ? { kind: 'year', amount: read(edit.text, rowAmount(lines, 'year')), spread: edit.spread }
        : edit.kind === 'basis'
          ? { kind: 'basis', basis: basisFromShown(edit.basis, sign) }
          : { kind: 'release', months: edit.months };
  const result = editBudget(
    lines.map((line) => ({ line, context: lineContext(books, row, { line, lines: all }) })),
    change,
  );
  if (!result.ok) throw refused(`${told}: ${REFUSALS[result.code]}`, 'text');
  return result.lines;
}
