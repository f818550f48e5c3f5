import type { Task } from '../../work/task.ts';
import { type BudgetSheet, budgetWorkbook, type FilledWorkbook, readBudgetWorkbook } from './budget-workbook.ts';

/** Writes the budget template, and reads a completed one. */
export const BUDGET_WORKBOOK: Task<BudgetSheet, Buffer> = { name: 'budgetWorkbook', run: budgetWorkbook };
export const READ_BUDGET_WORKBOOK: Task<{ readonly path: string; readonly months: readonly string[] }, FilledWorkbook> = {
  name: 'readBudgetWorkbook',
  run: ({ path, months }) => readBudgetWorkbook(path, months),
};
