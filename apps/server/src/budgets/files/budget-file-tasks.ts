import { lazyTask } from '../../work/task.ts';

/** Writes the budget template. */
export const BUDGET_WORKBOOK = lazyTask('budgetWorkbook', async () => (await import('./budget-workbook.ts')).budgetWorkbook);
/** Reads a completed budget template. */
export const READ_BUDGET_WORKBOOK = lazyTask('readBudgetWorkbook', async () => (await import('./budget-workbook.ts')).readBudgetWorkbook);
