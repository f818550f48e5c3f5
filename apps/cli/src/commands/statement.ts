import { SHIPPED_VIEWS, toDecimalText, type Minor } from '@wise-margin/core';
import { cellReasonWords, statementQuerySchema, type CellDto } from '@wise-margin/contract';
import { cellText, ratioNumber, type Application } from '@wise-margin/server';
import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type StatementOptions = {
  readonly company?: string | undefined;
  readonly 'as-of'?: string | undefined;
  readonly columns?: string | undefined;
  readonly budget?: string | undefined;
  readonly department?: string | undefined;
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
  const books = await application.keeper.of(company.id);
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
    filter: options.department === undefined ? undefined : JSON.stringify({ department: [options.department] }),
  });
  const grid = await application.statements.statement(company.id, view, query);
  const label = (index: number) => `${grid.blocks[grid.columns[index]!.block]!.heading}: ${grid.columns[index]!.heading}`;
  return {
    title: `${company.name}\n${grid.view.name}, ${grid.asOfWords}; ${grid.view.note.toLowerCase()}; budget: ${grid.budgetWords}${grid.percentBase === null ? '' : `; percentages of ${grid.percentBase.toLowerCase()}`}; ${books.currency.words}`,
    headings: ['line', 'name', ...grid.columns.map((_, index) => label(index))],
    rows: grid.lines.map((line, index) => [
      line.key,
      `${' '.repeat(line.depth * 2)}${line.name}`,
      ...grid.cells[index]!.map((cell) => shortText(cell, exponent)),
    ]),
    figures: new Set(grid.columns.map((_, index) => index + 2)),
    json: {
      company: company.name,
      view: grid.view.key,
      asOf: grid.asOf,
      currency: books.currency.code,
      percentBase: grid.percentBase,
      budget: grid.budgetWords,
      columns: grid.columns.map((column, index) => ({ key: column.key, heading: label(index), kind: column.kind, words: column.words })),
      lines: grid.lines.map((line, index) => ({
        key: line.key,
        name: line.name,
        kind: line.kind,
        account: line.account,
        cells: Object.fromEntries(grid.columns.map((column, position) => [column.key, jsonCell(grid.cells[index]![position]!, exponent)])),
      })),
    },
  };
}

const shortText = (cell: CellDto, exponent: number): string =>
  cell.kind === 'notMeaningful'
    ? 'n/m'
    : cell.kind === 'ratio'
      ? `${ratioNumber(cell).toFixed(1)}${cell.unit === 'points' ? ' pts' : ''}`
      : `${cellText(cell, exponent)}${'favor' in cell && cell.favor ? ` ${cell.favor}` : ''}`;

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
      return { value: null, reason: cellReasonWords(cell) || 'Nothing stands here' };
  }
}
