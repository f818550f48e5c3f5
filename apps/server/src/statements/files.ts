/** What makes files: read where files are made, apart from the index, so that a server starts without it. */
export { Figures, PdfMeasures, TYPES, widened } from './export/pdf-layout.ts';
export type { PdfColumn, Type } from './export/pdf-layout.ts';
export { pageParts, pageRows } from './export/page-parts.ts';
export { PdfTable } from './export/pdf-table.ts';
export { fillStatementSheet } from './export/statement-workbook.ts';
export { fitsUpright, statementTables } from './export/statement-document.ts';
