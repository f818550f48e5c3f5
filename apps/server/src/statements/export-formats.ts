import { statementPdf } from '../formats/statement-pdf.ts';
import { statementWorkbook } from '../formats/statement-workbook.ts';
import { gridCsv } from './export-csv.ts';
import type { ExportedStatement } from './exported-statement.ts';

type ExportFormat = {
  readonly extension: 'csv' | 'xlsx' | 'pdf';
  readonly type: string;
  readonly write: (statement: ExportedStatement) => Promise<string | Buffer>;
};

/** The formats a statement is exported in. */
export const EXPORT_FORMATS: readonly ExportFormat[] = [
  { extension: 'csv', type: 'text/csv', write: (statement) => Promise.resolve(`\ufeff${gridCsv(statement)}`) },
  {
    extension: 'xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    write: (statement) => statementWorkbook(statement),
  },
  { extension: 'pdf', type: 'application/pdf', write: (statement) => statementPdf(statement) },
];
