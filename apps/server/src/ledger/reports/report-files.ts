import type { ReportColumnDto, ReportRowDto } from '@wise-margin/contract';
import { isFigureColumn, reportCellValue } from '@wise-margin/presentation';
import { stringify } from 'csv-stringify';

import { WORKBOOK_TYPE } from '../../formats/media-types.ts';
import { safeText } from '../../formats/safe-text.ts';
import { refused } from '../../http/problem.ts';
import type { Download } from '../../http/route.ts';
import { lazyTask } from '../../work/task.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import type { Report, WholeReport } from './report.ts';

const REPORT_PDF = lazyTask('reportPdf', async () => (await import('./report-pdf.ts')).reportPdf);
const REPORT_WORKBOOK = lazyTask('reportWorkbook', async () => (await import('./report-workbook.ts')).reportWorkbook);
/** Files of reports that a worker writes. */
export const REPORT_TASKS = [REPORT_PDF, REPORT_WORKBOOK];

const MOST_MILLISECONDS = 120_000;
const ROWS_A_PART = 2000;
type Company = { readonly name: string; readonly exponent: number };
type Work = { readonly pool: WorkPool; readonly signal: AbortSignal };
export type ReportFormat = {
  readonly extension: 'csv' | 'xlsx' | 'pdf';
  readonly type: string;
  readonly write: (report: Report, company: Company, work: Work) => Promise<Download['content']>;
};

/** The files a report is written in. Only CSV takes any number of rows; the others say when there are too many. */
export const REPORT_FORMATS: readonly ReportFormat[] = [
  { extension: 'csv', type: 'text/csv', write: (report, company) => Promise.resolve(csvOf(report, company)) },
  {
    extension: 'xlsx',
    type: WORKBOOK_TYPE,
    write: async (report, company, { pool, signal }) => {
      const whole = await wholeReport(report, company, { most: 100_000, what: 'spreadsheet' });
      return pool.run(REPORT_WORKBOOK, whole, { what: 'The spreadsheet', milliseconds: MOST_MILLISECONDS, signal });
    },
  },
  {
    extension: 'pdf',
    type: 'application/pdf',
    write: async (report, company, { pool, signal }) => {
      const whole = await wholeReport(report, company, { most: 30_000, what: 'PDF' });
      return pool.run(REPORT_PDF, whole, { what: 'The PDF', milliseconds: MOST_MILLISECONDS, signal });
    },
  },
];

/** A report with all of its rows. @throws ProblemError 422 with more rows than `most` */
export async function wholeReport(
  report: Report,
  { name, exponent }: Company,
  { most, what }: { readonly most: number; readonly what: string },
): Promise<WholeReport> {
  if (report.count > most)
    throw refused(
      `The report has ${report.count.toLocaleString('en-US')} rows; a ${what} takes up to ${most.toLocaleString('en-US')}. Choose a shorter range or fewer accounts, or export CSV, which takes any number.`,
      'range',
    );
  const rows: ReportRowDto[] = [];
  for (let from = 0; from < report.count; from += ROWS_A_PART) rows.push(...(await report.rows(from, from + ROWS_A_PART)));
  const { title, words, columns, notes, unit, parts } = report;
  return { title, words, columns, notes, unit, parts, company: name, exponent, rows };
}

/** Headings and rows as plain data, exact decimals: section headings, which only the screen needs, are left out. */
function csvOf(report: Report, { exponent }: Company): Download['content'] {
  return [
    rowsOf(report, exponent),
    stringify({ columns: report.columns.map(({ heading }) => safeText(heading)), header: true, bom: true }),
  ];
}

async function* rowsOf(report: Report, exponent: number): AsyncGenerator<readonly string[]> {
  for (let from = 0; from < report.count; from += ROWS_A_PART)
    for (const row of await report.rows(from, from + ROWS_A_PART))
      if (row.kind !== 'section') yield valuesOf(row, report.columns, exponent);
}

/** The cells of a row for a file; texts that a spreadsheet would run are made harmless. */
export const valuesOf = ({ cells }: ReportRowDto, columns: readonly ReportColumnDto[], exponent: number): string[] =>
  columns.map((column, at) => {
    const value = reportCellValue(cells[at]!, column, exponent);
    return isFigureColumn(column) && typeof cells[at] === 'number' ? value : safeText(value);
  });
