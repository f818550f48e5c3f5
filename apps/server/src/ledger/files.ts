/** What makes files: read where files are made, apart from the index, so that a server starts without it. */
export { ReportTable } from './reports/report-table.ts';
export { fillReportSheet } from './reports/report-workbook.ts';
