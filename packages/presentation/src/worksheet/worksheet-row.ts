import type { BasisPreviewDto, BudgetRowDto } from '@wise-margin/contract';
import {
  type Basis,
  basisInSign,
  basisWords,
  type BudgetBooks,
  type BudgetHead,
  BudgetWorksheet,
  deriveYear,
  type DimensionFilter,
  formatAmount,
  historyMonths,
  minor,
  monthOfYearName,
  type PlacedLine,
  rowAmount,
  signOf,
  type WholeAccount,
  wholeAccount,
  yearTotal,
} from '@wise-margin/core';

import { basisIssueWords } from '../words/basis-issue-words.ts';
import { worksheetIssueWords } from '../words/worksheet-issue-words.ts';

const HISTORY_YEARS = 3;
export type WorksheetRow = { readonly books: BudgetBooks; readonly head: BudgetHead; readonly worksheet: BudgetWorksheet };

/** The basis of a line in words with the nonrecurring items it excludes, and its warnings. */
export function lineBasisWords(
  { books, head, worksheet }: WorksheetRow,
  line: PlacedLine,
): { readonly sentence: string; readonly warnings: readonly string[]; readonly excluded: number } {
  const sign = signOf(books.chart.accounts[line.position]!);
  const month = (index: number) => monthOfYearName(books.calendar, head.year, index);
  const { issues, excluded } = deriveYear(line.basis, worksheet.contextOf(line));
  const format = (amount: number) => formatAmount(minor(amount), { exponent: books.exponent, unit: 'dollars' });
  return {
    sentence: basisWords(basisInSign(line.basis, sign), format, { month, excluded: minor(sign * excluded) }),
    warnings: issues.map((issue) => basisIssueWords(issue, month)),
    excluded,
  };
}

/** A row of the grid: the lines under it in the account's shown sign, and three years of history. */
export function worksheetRowDto(row: WorksheetRow, position: number, filter: DimensionFilter): BudgetRowDto {
  const { books, head, worksheet } = row;
  const account = books.chart.accounts[position]!;
  const sign = signOf(account);
  const shown = (amount: number) => minor(sign * amount);
  const lines = worksheet.linesOf(position, filter);
  const words = lines.map((line) => lineBasisWords(row, line));
  return {
    account: account.number,
    name: account.name,
    months: Array.from({ length: 12 }, (_, month) => shown(rowAmount(lines, month))),
    total: shown(rowAmount(lines, 'year')),
    held: Array.from({ length: 12 }, (_, month) => lines.some((line) => line.months[month]!.held)),
    excluded: shown(words.reduce((sum, { excluded }) => sum + excluded, 0)),
    lines: lines.map((line, index) => {
      const { sentence, warnings } = words[index]!;
      const slice = sliceWords(head, line);
      return {
        id: line.id,
        dimensions: { ...line.dimensions },
        basis: sentence,
        basisForm: basisInSign(line.basis, sign),
        warnings: warnings.map((lack) => (lines.length > 1 ? `${slice}: ${lack}` : lack)),
        total: shown(yearTotal(line.months)),
        months: line.months.map(({ amount }) => shown(amount)),
        held: line.months.map(({ held }) => held),
      };
    }),
    history: Array.from({ length: HISTORY_YEARS }, (_, index) => head.year - HISTORY_YEARS + index).flatMap((year) => {
      const months = historyMonths(books, { position, filter, year }, { projected: false, includeNonrecurring: true });
      return months.every((amount) => amount === null)
        ? []
        : [
            {
              year,
              months: months.map((amount) => (amount === null ? null : shown(amount))),
              total: shown(months.reduce<number>((sum, amount) => sum + (amount ?? 0), 0)),
            },
          ];
    }),
    sign,
  };
}

export type PreviewedBasis = { readonly ok: true; readonly preview: BasisPreviewDto } | { readonly ok: false; readonly message: string };

/** What a basis would give a row, before it is set; the budget stays as it is. */
export function previewBasis(
  { books, head, lines }: { readonly books: BudgetBooks; readonly head: BudgetHead; readonly lines: Iterable<PlacedLine> },
  { account, filter, basis }: { readonly account: string; readonly filter: DimensionFilter; readonly basis: Basis },
): PreviewedBasis {
  const worksheet = new BudgetWorksheet({ books, head, lines });
  const position = books.chart.accounts.findIndex(({ number }) => number === account);
  const before = rowAmount(worksheet.linesOf(position, filter), 'year');
  const { refusals } = worksheet.apply([{ kind: 'basis', account, basis }], filter);
  const [refusal] = refusals;
  if (refusal) {
    const known = books.chart.accounts[position];
    return { ok: false, message: `${account}${known ? ` ${known.name}` : ''}: ${worksheetIssueWords(refusal.issue)}.` };
  }
  const made = worksheet.linesOf(position, filter);
  const sign = signOf(books.chart.accounts[position]!);
  const row = { books, head, worksheet };
  const described = made.map((line) => ({ line, words: lineBasisWords(row, line) }));
  const several = made.length > 1;
  const warnings = described.flatMap(({ line, words }) =>
    words.warnings.map((lack) => (several ? `${sliceWords(head, line)}: ${lack}` : lack)),
  );
  const excluded = minor(sign * described.reduce((sum, { words }) => sum + words.excluded, 0));
  const month = (index: number) => monthOfYearName(books.calendar, head.year, index);
  const format = (amount: number) => formatAmount(minor(amount), { exponent: books.exponent, unit: 'dollars' });
  const whole = made[0] ? wholeAccount(worksheet, made[0], basis) : null;
  return {
    ok: true,
    preview: {
      sentence: basisWords(basis, format, { month, excluded }),
      excluded,
      months: Array.from({ length: 12 }, (_, index) => minor(sign * rowAmount(made, index))),
      total: minor(sign * rowAmount(made, 'year')),
      change: minor(sign * (rowAmount(made, 'year') - before)),
      warnings: [...new Set(warnings)],
      wholeAccount: whole && basis.kind === 'percentOf' ? wholeAccountWords(whole, basis.accounts, format) : null,
    },
  };
}

/** `All lines of the account come to 37.0% of 4000-4199: 125,000 of 337,838.` */
const wholeAccountWords = ({ total, base, permille }: WholeAccount, accounts: string, format: (amount: number) => string): string =>
  `All lines of the account come to ${(permille / 10).toFixed(1)}% of ${accounts}: ${format(total)} of ${format(base)}.`;

const sliceWords = (head: BudgetHead, line: PlacedLine): string =>
  Object.values(line.dimensions).join(', ') || `No ${head.dimensions[0] ?? 'slice'}`;
