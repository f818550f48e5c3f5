import { type DrillDownDto } from '@wise-margin/contract';
import {
  balanceRuleWords,
  basisWords,
  type CellDrillDown,
  cellDrillDown,
  columnWords,
  type DimensionFilter,
  formatAmount,
  monthOfYearName,
  periodAt,
  type PeriodIndex,
  spanWords,
  type StatementGrid,
} from '@wise-margin/core';
import { cellDto, dayWords, overrideWords } from '@wise-margin/presentation';

import { type ChangeLog, ruleFormat, type StoredBudget } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';
import type { Scenarios, ShownBudget } from '../../evaluation/index.ts';
import { notFound } from '../../http/problem.ts';
import { groupsOffered } from './figure-groups.ts';

const ROLES = { compared: '', base: 'less', part: '', operand: '', added: 'plus' } as const;

/**
 * How a figure comes about: the accounts that add up to it, or the figures it was made from.
 * @param standing the budget a scenario shows in a year, for the words of its bases and of how its balances move
 * @throws ProblemError 404 when the grid has no such line or column
 */
export function drillDownOf(options: {
  readonly books: Books;
  readonly grid: StatementGrid;
  readonly standing: Scenarios['standing'];
  readonly line: string;
  readonly column: string;
  readonly drafts: boolean;
}): DrillDownDto {
  const { books, grid, standing } = options;
  const { plan } = grid;
  const line = plan.lines.find(({ key }) => key === options.line);
  const column = plan.columns.find(({ key }) => key === options.column);
  if (!line || !column) throw notFound(`figure at ${options.line}, ${options.column}`);
  const drillDown = cellDrillDown(grid, line.index, column.index);
  const held = drillDown.kind === 'accounts' ? drillDown.accounts.filter(({ amount }) => amount !== 0) : [];
  return {
    line: { key: line.key, name: line.name },
    column: { key: column.key, heading: column.heading, words: columnWords(grid, column.index), block: plan.blocks[column.block]!.heading },
    cell: cellDto(grid.cells[line.index]![column.index]!),
    sentence: sentenceOf(drillDown, held.length),
    parts:
      drillDown.kind !== 'cells'
        ? []
        : drillDown.parts.map((part) => ({
            role: part.role === 'base' && drillDown.operation !== 'difference' ? 'of' : ROLES[part.role],
            line: plan.lines[part.line]!.key,
            column: plan.columns[part.column]!.key,
            name: plan.lines[part.line]!.name,
            words: columnWords(grid, part.column),
            cell: cellDto(grid.cells[part.line]![part.column]!),
          })),
    accounts: held.map(({ account, amount, measure }) => {
      const { number, name } = plan.chart.accounts[account]!;
      const source = drillDown as CellDrillDown & { kind: 'accounts' };
      const { from, to } = source.span;
      // an opening balance is made of what came before the span; an average is followed to its closing balance
      const until = measure === 'opening' ? ((from - 1) as PeriodIndex) : to;
      const isBudget = source.scenario !== 'actual';
      const filter = Object.fromEntries(Object.entries(source.filter).map(([dimension, values]) => [dimension, [...values]]));
      const stands = isBudget ? standing(source.scenario, periodAt(plan.calendar, to).year) : null;
      const isBalanceSheet = plan.isBalanceSheet[account]!;
      return {
        number,
        name,
        amount,
        entries:
          isBudget || until < 0
            ? null
            : {
                from: periodAt(plan.calendar, measure === 'opening' ? until : from).key,
                to: periodAt(plan.calendar, until).key,
                filter,
                opening: measure !== 'change',
                drafts: options.drafts,
              },
        basis:
          stands === null
            ? []
            : isBalanceSheet
              ? [ruleOf(books, stands, number)]
              : basesOf(books, stands.budget, { position: account, filter: source.filter }),
        budgetId: stands?.budget.row.id ?? null,
        isBalanceSheet,
      };
    }),
    groups: groupsOffered(books, grid, { line: line.index, column: column.index }),
    accountsSum: drillDown.kind === 'accounts' && grid.cells[line.index]![column.index]!.kind === 'amount' ? drillDown.sum : null,
  };

  function sentenceOf(from: CellDrillDown, accounts: number): string {
    switch (from.kind) {
      case 'none':
        return 'No amount here.';
      case 'accounts':
        return `${accounts === 1 ? '1 account' : `${accounts} accounts`} with activity in ${spanWords(plan.calendar, from.span)}.`;
      case 'statistic':
        return `The statistic "${from.series}" in ${spanWords(plan.calendar, from.span)}.`;
      case 'cells':
        if (from.operation === 'sum') return 'Sum of these amounts.';
        if (from.operation === 'formula' && column!.kind === 'formula') return 'Calculated from these columns.';
        if (from.operation === 'formula') return 'Calculated from these lines.';
        if (from.operation === 'difference') return 'First amount minus second amount.';
        if (from.operation === 'percentDifference') return 'First amount minus second amount, divided by the size of the second amount.';
        return `The first amount as a percent of ${plan.lines[from.parts[1]!.line]!.name.toLowerCase()} in the same column.`;
    }
  }
}

/** How a balance moves in a budget, in words. */
function ruleOf(books: Books, { budget: { row }, rolled }: ShownBudget, account: string): string {
  const planned = rolled().rules.get(account);
  return planned ? balanceRuleWords(planned.rule, ruleFormat(books, row.year)) : '';
}

function basesOf(
  books: Books,
  budget: StoredBudget,
  { position, filter }: { readonly position: number; readonly filter: DimensionFilter },
): string[] {
  const { exponent } = books.currency;
  const month = (index: number) => monthOfYearName(books.calendar, budget.row.year, index);
  const { number } = books.chart.accounts[position]!;
  const notes = budget.notes
    .filter(({ account }) => account === number)
    .map((note) => `Note${note.month === null ? '' : `, ${month(note.month)}`}: ${note.text}`);
  const bases = budget.lines
    .filter(
      (line) =>
        line.position === position && Object.entries(filter).every(([name, values]) => values.includes(line.dimensions[name] ?? '')),
    )
    .map((line) => {
      const slice = Object.values(line.dimensions).join(', ');
      return `${slice === '' ? '' : `${slice}: `}${basisWords(line.basis, (amount) => formatAmount(amount, { exponent, unit: 'dollars' }), { month })}${overrideWords(line)}`;
    });
  return [...bases, ...notes];
}

/** The same, with when and by whom each budgeted account was last changed. */
export async function withLastChanges(drillDown: DrillDownDto, changes: ChangeLog): Promise<DrillDownDto> {
  const budgets = [
    ...new Set(drillDown.accounts.flatMap(({ budgetId, isBalanceSheet }) => (budgetId === null || isBalanceSheet ? [] : [budgetId]))),
  ];
  const found = new Map(
    await Promise.all(
      budgets.map(async (id) => {
        const numbers = drillDown.accounts.filter(({ budgetId }) => budgetId === id).map(({ number }) => number);
        return [id, await changes.lastOf(id, numbers)] as const;
      }),
    ),
  );
  return {
    ...drillDown,
    accounts: drillDown.accounts.map((account) => {
      const last = account.budgetId === null ? undefined : found.get(account.budgetId)?.get(account.number);
      return last ? { ...account, basis: [...account.basis, `Last changed ${dayWords(last.at.slice(0, 10))} by ${last.actor}`] } : account;
    }),
  };
}
