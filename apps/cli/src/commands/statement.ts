import { type CellDto, statementQuerySchema } from '@wise-margin/contract';
import { type Minor, SHIPPED_VIEWS, toDecimalText } from '@wise-margin/core';
import { cellReasonWords } from '@wise-margin/presentation';
import { type Application, type Books, cellText, ratioNumber } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type StatementOptions = {
  readonly company?: string | undefined;
  readonly 'as-of'?: string | undefined;
  readonly columns?: string | undefined;
  readonly budget?: string | undefined;
  readonly department?: string | undefined;
  /** of percentages and ratios in a table; 1 when left out */
  readonly decimals?: string | undefined;
};

/** The view that each column set of `statement income` stands for. */
const INCOME_VIEWS: Readonly<Record<string, string>> = { review: 'income', trend: 'trend', months: 'income-months' };

/** A view of the library: every line with its stable key, figures as the core gives them. */
export async function statement(application: Application, asked: string | undefined, options: StatementOptions): Promise<Answer> {
  const known = SHIPPED_VIEWS.map(({ key }) => key);
  if (asked === undefined || !(known.includes(asked) || /^view-\d+$/.test(asked)))
    throw new UsageError(`${asked === undefined ? 'statement needs a view' : `there is no view ${asked}`}: ${known.join(', ')}`);
  if (options['as-of'] === undefined) throw new UsageError(`statement ${asked} needs --as-of YYYY-MM`);
  if (options.columns !== undefined && !(asked === 'income' && options.columns in INCOME_VIEWS))
    throw new UsageError(`--columns is one of ${Object.keys(INCOME_VIEWS).join(', ')}, with statement income`);
  const view = options.columns === undefined ? asked : INCOME_VIEWS[options.columns]!;
  const company = await chosenCompany(application, options.company);
  const books = await application.booksCache.of(company.id);
  const { exponent } = books.currency;
  const budgets = await application.budgets.list(company.id);
  const budget =
    options.budget === undefined
      ? undefined
      : budgets.find(({ name, id }) => name.toLowerCase() === options.budget!.toLowerCase() || String(id) === options.budget);
  if (options.budget !== undefined && !budget)
    throw new RefusedError(
      `There is no budget ${options.budget}. There are: ${budgets.map(({ name, year }) => `${name} (FY${year})`).join(', ') || 'none'}.`,
    );
  const query = statementQuerySchema.parse({
    asOf: options['as-of'],
    budget: budget?.id,
    filter: options.department === undefined ? undefined : { department: [departmentOf(books, options.department)] },
  });
  const grid = await application.statements.statement(company.id, view, query);
  const headingOf = (index: number) => `${grid.blocks[grid.columns[index]!.block]!.heading}: ${grid.columns[index]!.heading}`;
  const decimals = decimalsOf(options.decimals);
  const shown = grid.lines.flatMap((line, index) => (line.kind === 'formula' && line.isZero ? [] : [{ line, index }]));
  // a difference is followed by its mark in a column of its own
  const places = grid.columns.flatMap((column, index) =>
    column.kind === 'difference'
      ? [
          { index, isMark: false },
          { index, isMark: true },
        ]
      : [{ index, isMark: false }],
  );
  const headings = ['line', 'name', ...places.map(({ index, isMark }) => (isMark ? 'F/U' : headingOf(index)))];
  const rowsOf = (text: (cell: CellDto) => string) =>
    shown.map(({ line, index: at }) => [
      line.key,
      `${' '.repeat(line.depth * 2)}${line.name}`,
      ...places.map(({ index, isMark }) => (isMark ? markOf(grid.cells[at]![index]!) : text(grid.cells[at]![index]!))),
    ]);
  const figures = new Set(places.flatMap(({ isMark }, index) => (isMark ? [] : [index + 2])));
  return {
    title: `${company.name}\n${grid.view.name}, ${grid.asOfWords}; ${grid.view.note.toLowerCase()}; budget: ${grid.budgetWords}${grid.percentBase === null ? '' : `; percentages of ${grid.percentBase.toLowerCase()}`}; ${books.currency.words}`,
    headings,
    rows: rowsOf((cell) => tableText(cell, { exponent, decimals })),
    figures,
    csv: { headings, rows: rowsOf((cell) => fullText(cell, exponent)), figures },
    json: {
      company: company.name,
      view: grid.view.key,
      asOf: grid.asOf,
      currency: books.currency.code,
      percentBase: grid.percentBase,
      budget: grid.budgetWords,
      columns: grid.columns.map((column, index) => ({
        key: column.key,
        heading: headingOf(index),
        kind: column.kind,
        words: column.words,
      })),
      lines: shown.map(({ line, index }) => ({
        key: line.key,
        name: line.name,
        kind: line.kind,
        account: line.account,
        cells: Object.fromEntries(grid.columns.map((column, position) => [column.key, jsonCell(grid.cells[index]![position]!, exponent)])),
      })),
    },
  };
}

const MOST_DECIMALS = 6;
/** @throws UsageError when it is not a whole number from 0 to 6 */
function decimalsOf(text = '1'): number {
  const decimals = Number(text);
  if (!/^\d$/.test(text) || decimals > MOST_DECIMALS)
    throw new UsageError(`--decimals ${text} is not a whole number from 0 to ${MOST_DECIMALS}`);
  return decimals;
}

const markOf = (cell: CellDto): string => ('favor' in cell ? (cell.favor ?? '') : '');
/** A figure in a table: percentages and ratios to the decimals asked for, never minus zero. */
function tableText(cell: CellDto, { exponent, decimals }: { readonly exponent: number; readonly decimals: number }): string {
  if (cell.kind === 'notMeaningful') return 'n/m';
  if (cell.kind !== 'ratio') return cellText(cell, exponent);
  const text = ratioNumber(cell).toFixed(decimals);
  return Number(text) === 0 ? text.replace('-', '') : text;
}
/** A figure in full; empty where there is none, so that a column holds numbers alone. */
const fullText = (cell: CellDto, exponent: number): string => (cell.kind === 'notMeaningful' ? '' : cellText(cell, exponent));

/** Amounts are decimal texts, percentages numbers, not meaningful is null with a reason. */
function jsonCell(cell: CellDto, exponent: number): object {
  switch (cell.kind) {
    case 'amount':
      return { value: toDecimalText(cell.value as Minor, exponent), ...(cell.favor ? { favor: cell.favor } : {}) };
    case 'quantity':
      return { value: cell.value, unit: 'count', ...(cell.favor ? { favor: cell.favor } : {}) };
    case 'ratio':
      return { value: ratioNumber(cell), unit: cell.unit, ...(cell.favor ? { favor: cell.favor } : {}) };
    default:
      return { value: null, reason: cellReasonWords(cell) || 'No amount here' };
  }
}

/** `none` is what has no department, unless one is called so. */
const departmentOf = ({ dimensions }: Books, asked: string): string =>
  asked.toLowerCase() === 'none' && !dimensions.some(({ name, values }) => name === 'department' && values.includes(asked)) ? '' : asked;
