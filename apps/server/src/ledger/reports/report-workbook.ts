import type { ReportColumnDto, ReportRowDto } from '@wise-margin/contract';
import { isFigureColumn } from '@wise-margin/presentation';
import type { Worksheet } from 'exceljs';

import { newWorkbook } from '../../formats/new-workbook.ts';
import { sheetNames } from '../../formats/sheet-names.ts';
import type { WholeReport } from './report.ts';

const DECIMALS = '0000';
const MOST_WIDTH = 44;
/** Company, title, what the figures are of, and the headings of the columns. */
const HEAD_ROWS = 4;

/** A report as a spreadsheet: one sheet, or one for each part, with headings frozen and amounts as numbers in the currency's own unit. */
export async function reportWorkbook(report: WholeReport): Promise<Buffer> {
  const workbook = await newWorkbook();
  const whole = { name: report.title, from: 0, to: report.rows.length };
  const parts = report.parts && report.parts.length > 0 ? report.parts : [whole];
  const names = sheetNames(parts.map(({ name }) => name));
  parts.forEach(({ from, to }, at) => {
    const sheet = workbook.addWorksheet(names[at]!, {
      views: [{ state: 'frozen', xSplit: 1, ySplit: HEAD_ROWS, showGridLines: false }],
      pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, printTitlesRow: `${HEAD_ROWS}:${HEAD_ROWS}` },
    });
    // what follows the last part, such as the total of all, is on its sheet
    fillReportSheet(sheet, report, report.rows.slice(from, at === parts.length - 1 ? undefined : to));
  });
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** Company, title, what the figures are of, headings, and rows. */
export function fillReportSheet(sheet: Worksheet, report: WholeReport, rows: readonly ReportRowDto[]): void {
  const { company, title, words, columns, notes, exponent } = report;
  sheet.addRow([company]).font = { bold: true };
  sheet.addRow([title]).font = { bold: true, size: 14 };
  sheet.addRow([words.join('; ')]);
  const head = sheet.addRow(columns.map(({ heading }) => heading));
  head.font = { bold: true };
  head.eachCell((cell) => (cell.border = { bottom: { style: 'thin' } }));
  for (const row of rows) {
    const added = sheet.addRow(columns.map((column, at) => valueOf(row.cells[at]!, column, exponent)));
    if (row.kind !== 'line') added.font = { bold: true };
    if (row.kind === 'subtotal' || row.kind === 'total')
      columns.forEach((column, at) => {
        if (!isFigureColumn(column) || row.cells[at] === null) return;
        added.getCell(at + 1).border = { top: { style: 'thin' }, ...(row.kind === 'total' ? { bottom: { style: 'double' } } : {}) };
      });
  }
  columns.forEach((column, at) => {
    const place = sheet.getColumn(at + 1);
    const format = formatOf(column, exponent);
    if (format) place.numFmt = format;
    if (isFigureColumn(column)) place.alignment = { horizontal: 'right' };
    const lengths = rows.slice(0, 2000).map(({ kind, cells }) => (kind === 'section' ? 0 : String(cells[at] ?? '').length));
    place.width = Math.min(MOST_WIDTH, Math.max(column.heading.length, ...lengths, 6) + 3);
  });
  notes.forEach(({ text }) => sheet.addRow([text]));
  // the column formats are for figures; the lines above them are texts
  for (const row of [1, 2, 3]) sheet.getCell(row, 1).alignment = { horizontal: 'left' };
}

function valueOf(cell: ReportRowDto['cells'][number], { kind }: ReportColumnDto, exponent: number): string | number | Date | null {
  if (cell === null || cell === '') return null;
  if (kind === 'amount' && typeof cell === 'number') return cell / 10 ** exponent;
  if (kind === 'date' && typeof cell === 'string') return new Date(`${cell}T00:00:00Z`);
  return cell;
}

function formatOf({ kind }: ReportColumnDto, exponent: number): string | null {
  const decimals = exponent === 0 ? '' : `.${DECIMALS.slice(0, exponent)}`;
  if (kind === 'amount') return `#,##0${decimals};(#,##0${decimals});"–"`;
  if (kind === 'percent') return '0.0%;(0.0%)';
  if (kind === 'date') return 'yyyy-mm-dd';
  return kind === 'count' ? '#,##0' : null;
}
