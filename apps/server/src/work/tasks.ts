import { statementPdf } from '../formats/statement-pdf.ts';
import { statementWorkbook } from '../formats/statement-workbook.ts';
import { budgetWorkbook, readBudgetWorkbook, type BudgetSheet } from '../formats/budget-workbook.ts';
import { budgetChecks } from '../budgets/budget-checks.ts';
import { demoFiles } from '../demo/demo-files.ts';
import type { ExportedStatement } from '../statements/exported-statement.ts';

/** Work that takes long enough to hold up other requests. What goes in and comes out is plain data. */
export const TASKS = {
  statementPdf: (statement: ExportedStatement): Promise<Buffer> => statementPdf(statement),
  statementWorkbook: (statement: ExportedStatement): Promise<Buffer> => statementWorkbook(statement),
  budgetWorkbook: (sheet: BudgetSheet): Promise<Buffer> => budgetWorkbook(sheet),
  readBudgetWorkbook: (file: { readonly path: string; readonly months: readonly string[] }) => readBudgetWorkbook(file.path, file.months),
  budgetChecks,
  demoFiles,
} as const;
export type Tasks = typeof TASKS;
export type TaskName = keyof Tasks;
