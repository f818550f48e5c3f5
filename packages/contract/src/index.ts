export * from './common.ts';
export * from './companies.ts';
export * from './ledger.ts';
export * from './statements.ts';
export * from './budgets.ts';
export { shownLines } from './shown-lines.ts';
export type { GridLine, ShownLine } from './shown-lines.ts';
export { importIssueWords } from './words/import-issue-words.ts';
export { cellReasonWords } from './words/cell-words.ts';
