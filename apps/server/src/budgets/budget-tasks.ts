import { lazyTask } from '../work/task.ts';
import { BUDGET_WORKBOOK, READ_BUDGET_WORKBOOK } from './files/budget-file-tasks.ts';

/** The findings of a budget's checks. */
export const BUDGET_CHECKS = lazyTask('budgetChecks', async () => (await import('./versions/budget-checks.ts')).budgetChecks);
/** Work of budgets that a worker thread does. */
export const BUDGET_TASKS = [BUDGET_WORKBOOK, READ_BUDGET_WORKBOOK, BUDGET_CHECKS];
