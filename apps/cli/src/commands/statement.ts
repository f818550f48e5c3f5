import { toDecimalText, type Minor } from '@wise-margin/core';
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

/** The income statement: every line with its stable key, figures as the core gives them. */
export async function incomeStatement(application: Application, options: StatementOptions): Promise<Answer> {
  if (options['as-of'] === undefined) throw new UsageError('statement income needs --as-of YYYY-MM');
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
    columns: options.columns ?? 'review',
    budget: budget?.id,
    filter: options.department === undefined ? undefined : JSON.stringify({ department: [options.department] }),
  });
  const grid = await application.statements.income(company.id, query);
  const label = (index: number) => `${grid.blocks[grid.columns[index]!.block]!.heading}: ${grid.columns[index]!.heading}`;
  return {
    title: `${company.name}\nIncome statement, ${grid.asOfWords}, against ${grid.budgetWords}; percentages of ${grid.percentBase.toLowerCase()}; ${books.currency.words}`,
    headings: ['line', 'name', ...grid.columns.map((_, index) => label(index))],
    rows: grid.lines.map((line, index) => [
      line.key,
      `${' '.repeat(line.depth * 2)}${line.name}`,
      ...grid.cells[index]!.map((cell) => shortText(cell, exponent)),
    ]),
    figures: new Set(grid.columns.map((_, index) => index + 2)),
    json: {
      company: company.name,
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
    case 'ratio':
      return { value: ratioNumber(cell), unit: cell.unit, ...(cell.favor ? { favor: cell.favor } : {}) };
    default:
      return { value: null, reason: cellReasonWords(cell) || 'Nothing stands here' };
  }
}
