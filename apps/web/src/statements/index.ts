export { StatementDownloads } from './statement-downloads.tsx';
export { StatementIssues } from './statement-issues.tsx';
export { StatementTable } from './statement-table.tsx';
export type { CellPlace } from './statement-table.tsx';
export { unitLine } from './statement-words.ts';
