import type { FileFigure } from '@wise-margin/core';
import { withoutControls } from '@wise-margin/core';
import type { CellValue } from 'exceljs';

import { newWorkbook } from '../../formats/new-workbook.ts';
import { plainText, safeText } from '../../formats/safe-text.ts';
import { refuseOversizedWorkbook } from '../../formats/workbook-limits.ts';
import { ProblemError, refused } from '../../http/problem.ts';

/** A line of a budget as it is sent to be filled in; amounts in the currency's own unit, in the shown sign. */
export type SheetLine = {
  readonly account: string;
  readonly name: string;
  /** values of the dimensions, in their order */
  readonly slice: readonly string[];
  readonly months: readonly number[];
  readonly lastYear: number | null;
  readonly why: string;
  readonly note: string;
  /** whether it adds to the result or is taken from it */
  readonly adds: boolean;
};
export type BudgetSheet = {
  readonly title: readonly string[];
  readonly budget: number;
  readonly dimensions: readonly string[];
  readonly months: readonly string[];
  readonly decimals: number;
  readonly lines: readonly SheetLine[];
};
const ANSWERS = ['Agreed', 'Changed', 'To discuss'] as const;
const [ADDS, TAKES] = ['increase', 'decrease'] as const;
const SHEET = 'Budget';
const ABOUT = 'About';
const FILL = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFEFE7D6' } } as const;

/**
 * A budget as a spreadsheet to be filled in: months and notes can be written, all else is protected; totals
 * are live, an answer is chosen from a list, and a hidden sheet says which budget it is of.
 */
export async function budgetWorkbook(sheet: BudgetSheet): Promise<Buffer> {
  const { title, dimensions, months, lines, decimals } = sheet;
  const workbook = await newWorkbook();
  workbook.calcProperties.fullCalcOnLoad = true;
  const head = title.length + 2;
  const firstMonth = 3 + dimensions.length;
  const page = workbook.addWorksheet(SHEET, { views: [{ state: 'frozen', xSplit: firstMonth - 1, ySplit: head, showGridLines: false }] });
  title.forEach((text, index) => {
    const cell = page.getCell(index + 1, 1);
    cell.value = safeText(text);
    cell.font = index === 0 ? { bold: true, size: 14 } : {};
  });
  const headings = ['Account', 'Name', ...dimensions, ...months, 'Year', 'Last year', 'Basis', 'Response', 'Note', 'Effect on net income'];
  headings.forEach((text, index) => {
    const cell = page.getCell(head, index + 1);
    cell.value = safeText(text);
    cell.font = { bold: true };
    cell.border = { bottom: { style: 'thin' } };
  });
  const format = `#,##0${decimals > 0 ? `.${'0'.repeat(decimals)}` : ''};(#,##0${decimals > 0 ? `.${'0'.repeat(decimals)}` : ''})`;
  const year = firstMonth + months.length;
  lines.forEach((line, index) => {
    const row = head + 1 + index;
    [line.account, line.name, ...line.slice].forEach((text, column) => {
      page.getCell(row, column + 1).value = safeText(text);
    });
    line.months.forEach((amount, month) => {
      const cell = page.getCell(row, firstMonth + month);
      cell.value = amount;
      cell.numFmt = format;
      cell.protection = { locked: false };
      cell.fill = FILL;
      cell.dataValidation = {
        type: 'decimal',
        operator: 'between',
        formulae: [-9e13, 9e13],
        allowBlank: false,
        showErrorMessage: true,
        errorTitle: 'Amount',
        error: 'Enter an amount, such as 1250.00',
      };
    });
    const [from, to] = [page.getCell(row, firstMonth).address, page.getCell(row, year - 1).address];
    page.getCell(row, year).value = { formula: `SUM(${from}:${to})`, result: line.months.reduce((sum, amount) => sum + amount, 0) };
    page.getCell(row, year).numFmt = format;
    page.getCell(row, year).font = { bold: true };
    if (line.lastYear !== null) page.getCell(row, year + 1).value = line.lastYear;
    page.getCell(row, year + 1).numFmt = format;
    page.getCell(row, year + 2).value = safeText(line.why);
    const answer = page.getCell(row, year + 3);
    answer.protection = { locked: false };
    answer.dataValidation = { type: 'list', allowBlank: true, formulae: [`"${ANSWERS.join(',')}"`] };
    const note = page.getCell(row, year + 4);
    note.value = safeText(line.note);
    note.protection = { locked: false };
    for (const cell of [answer, note]) cell.fill = FILL;
    page.getCell(row, year + 5).value = line.adds ? ADDS : TAKES;
  });
  const last = head + lines.length;
  if (lines.length > 0) {
    page.getCell(last + 1, 2).value = 'Net income';
    page.getCell(last + 1, 2).font = { bold: true };
    const counts = `$${page.getColumn(year + 5).letter}$${head + 1}:$${page.getColumn(year + 5).letter}$${last}`;
    for (let column = firstMonth; column <= year + 1; column += 1) {
      const { letter } = page.getColumn(column);
      const range = `${letter}${head + 1}:${letter}${last}`;
      const cell = page.getCell(last + 1, column);
      const at = (line: SheetLine) =>
        column < year
          ? line.months[column - firstMonth]!
          : column === year
            ? line.months.reduce((sum, amount) => sum + amount, 0)
            : (line.lastYear ?? 0);
      const result = lines.reduce((sum, line) => sum + (line.adds ? 1 : -1) * at(line), 0);
      cell.value = { formula: `SUMIF(${counts},"${ADDS}",${range})-SUMIF(${counts},"${TAKES}",${range})`, result };
      cell.numFmt = format;
      cell.font = { bold: true };
      cell.border = { top: { style: 'thin' }, bottom: { style: 'double' } };
    }
  }
  page.getColumn(1).width = 9;
  page.getColumn(2).width = 30;
  for (let column = firstMonth; column <= year + 1; column += 1) page.getColumn(column).width = 12;
  page.getColumn(year + 2).width = 40;
  page.getColumn(year + 3).width = 12;
  page.getColumn(year + 4).width = 40;
  // no password: the protection keeps totals from being typed over, it is not a secret
  await page.protect('', { selectLockedCells: true, selectUnlockedCells: true, formatColumns: true });
  const about = workbook.addWorksheet(ABOUT, { state: 'veryHidden' });
  about.addRows([
    ['budget', sheet.budget],
    ['head', head],
    ['dimensions', dimensions.join('\t')],
  ]);
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

const MOST_ROWS = 50_000;
const MOST_COLUMNS = 200;
const MOST_NOTE = 2000;
/** A spreadsheet that is not one of those sent out, or whose heading was changed. */
const notOurs = (what: string): ProblemError => refused(`${what}. Export a template from this budget and complete that one.`, 'file');

export type FilledNote = { readonly account: string; readonly dimensions: Readonly<Record<string, string>>; readonly text: string };
export type FilledWorkbook = { readonly budget: number; readonly figures: readonly FileFigure[]; readonly notes: readonly FilledNote[] };

/**
 * Reads a template that was sent out and completed.
 * @throws ProblemError 422 for a file that is not one, or one that is too large
 */
export async function readBudgetWorkbook({
  path,
  months,
}: {
  readonly path: string;
  readonly months: readonly string[];
}): Promise<FilledWorkbook> {
  const workbook = await newWorkbook();
  try {
    await refuseOversizedWorkbook(path);
    await workbook.xlsx.readFile(path);
  } catch (error) {
    if (error instanceof ProblemError) throw error;
    throw notOurs('The file cannot be read as a spreadsheet');
  }
  const [page, about] = [workbook.getWorksheet(SHEET), workbook.getWorksheet(ABOUT)];
  if (!page || !about) throw notOurs('The spreadsheet is not a budget template');
  if (page.rowCount > MOST_ROWS || page.columnCount > MOST_COLUMNS)
    throw refused(
      `The sheet has more than ${MOST_ROWS.toLocaleString('en-US')} rows or ${MOST_COLUMNS} columns. Keep the template as it was sent.`,
      'file',
    );
  const known = new Map<string, string>();
  about.eachRow((row) => known.set(textOf(row.getCell(1).value), textOf(row.getCell(2).value)));
  const head = Number(known.get('head'));
  if (!Number.isInteger(head) || head < 1) throw notOurs('The spreadsheet no longer says which budget it belongs to');
  const dimensions = (known.get('dimensions') ?? '').split('\t').filter((name) => name !== '');
  const columns = new Map<string, number>();
  page.getRow(head).eachCell((cell, column) => columns.set(textOf(cell.value), column));
  const missing = ['Account', ...dimensions, ...months, 'Note'].filter((name) => !columns.has(name));
  if (missing.length > 0) throw notOurs(`The heading no longer has the column ${missing.join(', ')}`);
  const figures: FileFigure[] = [];
  const notes: FilledNote[] = [];
  page.eachRow((row, number) => {
    const at = (name: string) => textOf(row.getCell(columns.get(name)!).value);
    const account = at('Account');
    if (number <= head || account === '') return;
    const slice = Object.fromEntries(dimensions.flatMap((name) => (at(name) === '' ? [] : [[name, at(name)]])));
    months.forEach((name, month) => figures.push({ row: number, column: name, account, dimensions: slice, month, text: at(name) || '0' }));
    const answer = columns.has('Response') ? at('Response') : '';
    const text = withoutControls([answer, at('Note')].filter((part) => part !== '').join(': '));
    if (text.length > MOST_NOTE)
      throw refused(`Row ${number}: the note is longer than ${MOST_NOTE.toLocaleString('en-US')} characters. Shorten it.`, 'file');
    if (text !== '') notes.push({ account, dimensions: slice, text });
  });
  return { budget: Number(known.get('budget')), figures, notes };
}

/** A number as its plain decimal text, with six decimals at most. */
function numberText(value: number): string {
  if (Number.isInteger(value)) return String(value);
  const [whole, fraction = ''] = value.toFixed(6).split('.');
  let end = fraction.length;
  while (end > 0 && fraction[end - 1] === '0') end -= 1;
  return end === 0 ? whole! : `${whole}.${fraction.slice(0, end)}`;
}

/** What a cell shows; a number as its plain decimal text, a formula as its result and, without one, nothing. */
function textOf(value: CellValue): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return numberText(value);
  if (typeof value === 'string') return plainText(value.trim());
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value === 'object' && 'error' in value) return value.error;
  if (typeof value === 'object' && ('formula' in value || 'sharedFormula' in value)) return textOf(value.result as CellValue);
  if (typeof value === 'object' && 'richText' in value)
    return value.richText
      .map(({ text }) => text)
      .join('')
      .trim();
  if (typeof value === 'object' && 'text' in value) return String(value.text).trim();
  return String(value as boolean);
}
