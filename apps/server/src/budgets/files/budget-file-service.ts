import { type BudgetFileEffectDto } from '@wise-margin/contract';
import {
  type BudgetFileIssue,
  type DimensionFilter,
  editsOfChanges,
  fileEffect,
  type FileFigure,
  type FilePlace,
  historyMonths,
  minor,
  monthOfYearName,
  passes,
  readBudgetFile,
  signOf,
  sliceFilter,
  toDecimalText,
  type WorksheetEdit,
} from '@wise-margin/core';
import { budgetFileIssueWords, lineBasisWords } from '@wise-margin/presentation';
import { stringify } from 'csv-stringify/sync';

import { headOf } from '../../budget-store/index.ts';
import { refuseUnknownFilter } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import { inspectFile } from '../../formats/inspect-file.ts';
import { BrokenCsvError, readCsv } from '../../formats/read-csv.ts';
import { plainText, safeText } from '../../formats/safe-text.ts';
import { refused } from '../../http/problem.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { WorksheetService } from '../worksheet/worksheet-service.ts';
import { BUDGET_WORKBOOK, READ_BUDGET_WORKBOOK } from './budget-file-tasks.ts';
import type { FilledNote } from './budget-workbook.ts';

const MONTHS = Array.from({ length: 12 }, (_, month) => month);
type Taken = {
  readonly figures: readonly FileFigure[];
  readonly issues: readonly BudgetFileIssue[];
  readonly notes: readonly FilledNote[];
  readonly budget: number | null;
};

/** Budgets as files: sent out, filled in, and read back with what they would change. */
export class BudgetFileService {
  readonly #worksheets: WorksheetService;
  readonly #work: WorkPool;

  constructor(worksheets: WorksheetService, work: WorkPool) {
    this.#worksheets = worksheets;
    this.#work = work;
  }

  /** `account,period,amount` and the dimensions; amounts in the account's shown sign. Months of zero are left out. */
  async csv(
    { company: companyId, budget: budgetId }: BudgetPlace,
    filter: DimensionFilter,
  ): Promise<{ readonly name: string; readonly text: string }> {
    const { books, budget } = await this.#worksheets.open({ company: companyId, budget: budgetId });
    refuseUnknownFilter(books, filter);
    const { dimensions, year, name } = budget.row;
    const rows = budget.lines
      .filter((line) => passes(filter, line.dimensions))
      .flatMap((line) => {
        const sign = signOf(books.chart.accounts[line.position]!);
        const slice = dimensions.map((dimension) => safeText(line.dimensions[dimension] ?? ''));
        return line.months.flatMap(({ amount }, month) =>
          amount === 0
            ? []
            : [
                [
                  safeText(line.account),
                  `${year}-${String(month + 1).padStart(2, '0')}`,
                  toDecimalText(minor(sign * amount), books.currency.exponent),
                  ...slice,
                ],
              ],
        );
      });
    return { name: `${name} FY${year}`, text: stringify([['account', 'period', 'amount', ...dimensions.map(safeText)], ...rows]) };
  }

  /** A spreadsheet to be sent to a department, filled in, and read back. */
  async workbook(
    { company: companyId, budget: budgetId }: BudgetPlace,
    filter: DimensionFilter,
  ): Promise<{ readonly name: string; readonly content: Buffer }> {
    const { books, budgetBooks, budget, worksheet } = await this.#worksheets.open({ company: companyId, budget: budgetId });
    refuseUnknownFilter(books, filter);
    const { row } = budget;
    const head = headOf(row);
    const { exponent } = books.currency;
    const unit = 10 ** exponent;
    const slice = Object.values(filter)
      .flat()
      .map((value) => value || 'none')
      .join(', ');
    const lines = budget.lines
      .filter((line) => passes(filter, line.dimensions))
      .map((line) => {
        const account = books.chart.accounts[line.position]!;
        const sign = signOf(account);
        const before = historyMonths(
          budgetBooks,
          { position: line.position, filter: sliceFilter(head, line), year: row.year - 1 },
          { projected: true, includeNonrecurring: true },
        );
        const known = before.flatMap((amount) => amount ?? []);
        return {
          account: line.account,
          name: account.name,
          slice: row.dimensions.map((name) => line.dimensions[name] ?? ''),
          months: line.months.map(({ amount }) => (sign * amount) / unit + 0),
          lastYear: known.length === 0 ? null : (sign * known.reduce<number>((sum, amount) => sum + amount, 0)) / unit + 0,
          why: lineBasisWords({ books: budgetBooks, head, worksheet }, line).sentence,
          note: worksheet.note(line.account, sliceFilter(head, line), null)?.text ?? '',
          adds: sign === -1,
        };
      });
    const sheet = {
      title: [
        `${books.name}: ${row.name}, FY${row.year}${slice ? `, ${slice}` : ''}`,
        `${books.currency.words}. Enter amounts in the shaded cells. Totals update automatically. FY${row.year - 1} is as projected.`,
      ],
      budget: budgetId,
      dimensions: row.dimensions,
      months: MONTHS.map((month) => monthOfYearName(books.calendar, row.year, month)),
      decimals: exponent,
      lines,
    };
    const content = await this.#work.run(BUDGET_WORKBOOK, sheet, { what: 'The spreadsheet', milliseconds: 60_000 });
    return { name: `${row.name} FY${row.year}${slice ? ` ${slice}` : ''}`, content };
  }

  /**
   * What a file that was filled in would change. With `apply`, and no row at fault, it is changed, as one step
   * that can be undone.
   * @throws ProblemError 422 for a file that is none of ours, or to apply one with rows at fault
   */
  async read(
    { company: companyId, budget: budgetId }: BudgetPlace,
    file: { readonly path: string; readonly name: string },
    how: { readonly apply: boolean; readonly session: string; readonly actor: Actor },
  ): Promise<BudgetFileEffectDto> {
    const { books, budgetBooks, budget, worksheet } = await this.#worksheets.open({ company: companyId, budget: budgetId });
    const { row } = budget;
    const head = headOf(row);
    const month = (index: number) => monthOfYearName(books.calendar, row.year, index);
    const place: FilePlace = { books: budgetBooks, head, values: new Map(books.dimensions.map(({ name, values }) => [name, values])) };
    const taken = /\.xlsx$/i.test(file.name)
      ? await this.#fromWorkbook(file.path, MONTHS.map(month))
      : { ...readBudgetFile(await rowsOf(file.path), place), notes: [], budget: null };
    const effect = fileEffect(worksheet, place, taken.figures);
    const issues = [...taken.issues, ...effect.issues];
    const notes = taken.notes.filter(({ account, dimensions, text }) => {
      const filter = sliceFilter(head, { dimensions });
      return worksheet.note(account, filter, null)?.text !== text;
    });
    if (how.apply && issues.length > 0)
      throw refused(
        `${issues.length === 1 ? 'One row is' : `${issues.length} rows are`} rejected. Nothing was changed. Fix the file and upload it again.`,
        'file',
      );
    if (how.apply) {
      const batches = editsOfChanges(head, effect.changes, (amount) => toDecimalText(amount, books.currency.exponent));
      const noted = notes.map(({ account, dimensions, text }) => ({
        filter: sliceFilter(head, { dimensions }),
        edits: [{ kind: 'note', account, month: null, text }] satisfies WorksheetEdit[],
      }));
      await this.#worksheets.editAll(
        { company: companyId, budget: budgetId },
        { batches: [...batches, ...noted], words: `Imported from ${file.name}`, session: how.session },
        how.actor,
      );
    }
    const name = (account: string) => books.chart.accounts.find(({ number }) => number === account)?.name ?? '';
    const slice = (dimensions: Readonly<Record<string, string>>) => Object.values(dimensions).join(', ');
    return {
      file: file.name,
      from: taken.budget === null || taken.budget === budgetId ? null : `budget ${taken.budget}`,
      changes: effect.changes.map((change) => ({
        account: change.account,
        name: name(change.account),
        slice: slice(change.dimensions),
        month: month(change.month),
        from: change.from,
        to: change.to,
      })),
      notes: notes.map(({ account, dimensions, text }) => ({ account, name: name(account), slice: slice(dimensions), text })),
      same: effect.same,
      issues: issues.map((issue) => ({ row: issue.row, column: issue.column, text: issue.text, ...budgetFileIssueWords(issue, row.year) })),
      applied: how.apply,
    };
  }

  async #fromWorkbook(path: string, months: readonly string[]): Promise<Taken> {
    const read = await this.#work.run(READ_BUDGET_WORKBOOK, { path, months }, { what: 'Reading the spreadsheet', milliseconds: 20_000 });
    return { ...read, issues: [] };
  }
}

async function rowsOf(path: string): Promise<string[][]> {
  const rows: string[][] = [];
  try {
    await readCsv(path, await inspectFile(path), (cells) => void rows.push(cells.map(plainText)));
  } catch (error) {
    if (error instanceof BrokenCsvError)
      throw refused(
        error.code === 'rowTooLong'
          ? `Row ${error.row} is longer than 1,000,000 characters. Look for a quote that is not closed.`
          : `Row ${error.row} opens a quote that is not closed. Close it, or double the quotes inside the text.`,
        'file',
      );
    throw error;
  }
  return rows;
}
