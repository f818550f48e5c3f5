import type { Font, Workbook, Worksheet } from 'exceljs';

import { newWorkbook } from '../../formats/new-workbook.ts';
import { sheetNames } from '../../formats/sheet-names.ts';
import { fillReportSheet } from '../../ledger/files.ts';
import { fillStatementSheet } from '../../statements/files.ts';
import type { ContentBlock, FilledSection, PackContent } from '../content/content.ts';
import { type ChartTable, chartTables } from './chart-tables.ts';
import { titleOf } from './pack-pdf.ts';

const TEXT_WIDTH = 110;
/** How the figures of charts are written, by what they are. */
const NUMBER_FORMATS: Readonly<Record<ChartTable['kind'], string>> = {
  amount: '#,##0.00;(#,##0.00)',
  quantity: '#,##0.##;(#,##0.##)',
  percent: '0.0%;(0.0%)',
  points: '0.0%;(0.0%)',
  times: '0.00;(0.00)',
  days: '0.0;(0.0)',
};
type Sheet = { readonly name: string; readonly fill: (workbook: Workbook, name: string) => void };

/** A pack as a spreadsheet: a sheet for each section, statements with live formulas, each with its print area and titles. */
export async function packWorkbook(content: PackContent): Promise<Buffer> {
  const workbook = await newWorkbook();
  workbook.calcProperties.fullCalcOnLoad = true;
  workbook.title = titleOf(content);
  const sheets: Sheet[] = [
    { name: 'Contents', fill: (book, name) => fillContents(book, name, content) },
    ...content.sections
      .filter(({ omissionReason, kind }) => omissionReason === '' && kind !== 'cover' && kind !== 'contents')
      .flatMap(sheetsOf),
  ];
  const names = sheetNames(sheets.map(({ name }) => name));
  sheets.forEach(({ fill }, at) => fill(workbook, names[at]!));
  workbook.eachSheet((sheet) => {
    if (sheet.rowCount > 0 && sheet.columnCount > 0)
      sheet.pageSetup.printArea = `A1:${sheet.getColumn(sheet.columnCount).letter}${sheet.rowCount}`;
  });
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** The sheets of a section: one for each table, and one for its texts and charts. */
function sheetsOf(section: FilledSection): Sheet[] {
  const sheets: Sheet[] = [];
  const texts: ContentBlock[] = [];
  for (const block of section.blocks)
    if (block.kind === 'statement')
      sheets.push({ name: section.title, fill: (book, name) => fillStatementSheet(book, block.statement, name) });
    else if (block.kind === 'report')
      sheets.push({
        name: section.title,
        fill: (book, name) => fillReportSheet(tableSheet(book, name, 4), block.report, block.report.rows),
      });
    else texts.push(block);
  if (texts.length > 0 || section.notes.length > 0)
    sheets.push({
      name: sheets.length === 0 ? section.title : `${section.title} notes`,
      fill: (book, name) => fillTexts(book, { name, section, texts }),
    });
  return sheets;
}

function tableSheet(workbook: Workbook, name: string, headRows: number): Worksheet {
  return workbook.addWorksheet(name, {
    views: [{ state: 'frozen', xSplit: 1, ySplit: headRows, showGridLines: false }],
    pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, printTitlesRow: `${headRows}:${headRows}` },
  });
}

function fillContents(workbook: Workbook, name: string, content: PackContent): void {
  const sheet = workbook.addWorksheet(name, {
    views: [{ showGridLines: false }],
    pageSetup: { fitToPage: true, fitToWidth: 1, fitToHeight: 0 },
  });
  sheet.getColumn(1).width = 44;
  sheet.getColumn(2).width = 36;
  sheet.addRow([content.company]).font = { bold: true };
  sheet.addRow([titleOf(content)]).font = { bold: true, size: 14 };
  sheet.addRow([content.stateWords]);
  if (content.fingerprint !== '') sheet.addRow([`Checksum ${content.fingerprint}`]);
  sheet.addRow([]);
  sheet.addRow(['Section', 'Date']).font = { bold: true };
  for (const { title, dateWords, omissionReason } of content.sections) if (omissionReason === '') sheet.addRow([title, dateWords]);
}

function fillTexts(
  workbook: Workbook,
  { name, section, texts }: { readonly name: string; readonly section: FilledSection; readonly texts: readonly ContentBlock[] },
): void {
  const sheet = workbook.addWorksheet(name, {
    views: [{ showGridLines: false }],
    pageSetup: { fitToPage: true, fitToWidth: 1, fitToHeight: 0 },
  });
  const isChart = texts.some(({ kind }) => kind === 'charts' || kind === 'bridge');
  sheet.getColumn(1).width = isChart ? 34 : TEXT_WIDTH;
  const write = (text: string, font: Partial<Font> = {}): void => {
    const row = sheet.addRow([text]);
    row.font = font;
    row.getCell(1).alignment = { wrapText: !isChart, vertical: 'top' };
  };
  write(section.title, { bold: true, size: 14 });
  if (section.dateWords !== '') write(section.dateWords);
  for (const block of texts)
    if (block.kind === 'paragraph') {
      const words = block.runs.map(({ text }) => text).join('');
      write(
        block.label === '' ? words : `${block.label} ${words}`,
        block.style === 'heading' || block.style === 'subheading' ? { bold: true } : {},
      );
    } else if (block.kind === 'charts' || block.kind === 'bridge') fillChartTables(sheet, block);
  for (const note of section.notes) write(note, { italic: true });
}

function fillChartTables(sheet: Worksheet, block: Extract<ContentBlock, { readonly kind: 'charts' | 'bridge' }>): void {
  for (const { title, headings, kind, rows } of chartTables(block)) {
    sheet.addRow([]);
    sheet.addRow([title]).font = { bold: true };
    const head = sheet.addRow([...headings]);
    head.font = { bold: true };
    head.eachCell((cell, at) => {
      cell.border = { bottom: { style: 'thin' } };
      if (at > 1) cell.alignment = { horizontal: 'right' };
    });
    for (const row of rows) {
      const added = sheet.addRow([...row]);
      row.forEach((value, at) => {
        if (typeof value === 'number') added.getCell(at + 1).numFmt = NUMBER_FORMATS[kind];
      });
    }
  }
  for (const at of [2, 3, 4]) sheet.getColumn(at).width = 16;
}
