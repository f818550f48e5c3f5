import { BUDGET_WORKBOOK, READ_BUDGET_WORKBOOK } from './files/budget-file-tasks.ts';
import { BUDGET_CHECKS } from './versions/budget-checks.ts';

/** Work of budgets that a worker thread does. */
export const BUDGET_TASKS = [BUDGET_WORKBOOK, READ_BUDGET_WORKBOOK, BUDGET_CHECKS];
