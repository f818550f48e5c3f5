import { PDF_TYPE, WORD_TYPE, WORKBOOK_TYPE } from '../../formats/media-types.ts';
import { lazyTask } from '../../work/task.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import type { ExportedStatement } from './exported-statement.ts';
import { gridCsv } from './statement-csv.ts';

const MOST_MILLISECONDS = 60_000;
const STATEMENT_PDF = lazyTask('statementPdf', async () => (await import('./statement-pdf.ts')).statementPdf);
const STATEMENT_WORKBOOK = lazyTask('statementWorkbook', async () => (await import('./statement-workbook.ts')).statementWorkbook);
const STATEMENT_DOCUMENT = lazyTask('statementDocument', async () => (await import('./statement-document.ts')).statementDocument);
/** Exports that a worker writes. */
export const EXPORT_TASKS = [STATEMENT_PDF, STATEMENT_WORKBOOK, STATEMENT_DOCUMENT];

/** Where an export is written, and what stops it. */
export type ExportWork = { readonly pool: WorkPool; readonly signal: AbortSignal };
type ExportFormat = {
  readonly extension: 'csv' | 'xlsx' | 'pdf' | 'docx';
  readonly type: string;
  /** in the description of the API */
  readonly summary: string;
  readonly write: (statement: ExportedStatement, work: ExportWork) => Promise<string | Buffer>;
};

/** The formats a statement is exported in. */
export const EXPORT_FORMATS: readonly ExportFormat[] = [
  { extension: 'csv', type: 'text/csv', summary: 'A view as CSV', write: (statement) => Promise.resolve(`\ufeff${gridCsv(statement)}`) },
  {
    extension: 'xlsx',
    type: WORKBOOK_TYPE,
    summary: 'A view as a spreadsheet with live formulas',
    write: (statement, { pool, signal }) =>
      pool.run(STATEMENT_WORKBOOK, statement, { what: 'The spreadsheet', milliseconds: MOST_MILLISECONDS, signal }),
  },
  {
    extension: 'pdf',
    type: PDF_TYPE,
    summary: 'A view as PDF',
    write: (statement, { pool, signal }) =>
      pool.run(STATEMENT_PDF, statement, { what: 'The PDF', milliseconds: MOST_MILLISECONDS, signal }),
  },
  {
    extension: 'docx',
    type: WORD_TYPE,
    summary: 'A view as a word-processor document',
    write: (statement, { pool, signal }) =>
      pool.run(STATEMENT_DOCUMENT, statement, { what: 'The document', milliseconds: MOST_MILLISECONDS, signal }),
  },
];
