import {
  type Cell,
  type Expression,
  type PlannedColumn,
  type PlannedLine,
  type RuleWeight,
  shareBase,
  shownColumns,
  sidesOn,
} from '@wise-margin/core';
import { cellReasonWords } from '@wise-margin/presentation';
import type { Cell as SheetCell, Workbook, Worksheet } from 'exceljs';

import { newWorkbook } from '../../formats/new-workbook.ts';
import { sheetName } from '../../formats/sheet-names.ts';
import type { ExportedStatement } from './exported-statement.ts';

type ExportedGrid = ExportedStatement['grid'];

const NAME_COLUMNS = 2;
const MARK_WIDTH = 3;
const BORDERS = { single: 'thin', double: 'double' } as const satisfies Readonly<Record<RuleWeight, string>>;
type SheetLine = { readonly index: number; readonly account: string; readonly opened: boolean; readonly isSigned: boolean };

/**
 * A statement as a spreadsheet of what is shown: real numbers in the currency's own unit with a format
 * for the unit shown, headings and names frozen, opened lines as outline groups, and live formulas for
 * totals, formula lines, differences, percentages and shares. A formula is written only where it gives
 * just the figure shown from cells that are in the sheet; elsewhere the figure itself stands.
 */
export async function statementWorkbook(statement: ExportedStatement): Promise<Buffer> {
  const workbook = await newWorkbook();
  workbook.calcProperties.fullCalcOnLoad = true;
  fillStatementSheet(workbook, statement, sheetName(statement.dto.view.name, 'Statement'));
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** Adds a statement to a workbook, as a sheet of its own. */
export function fillStatementSheet(workbook: Workbook, statement: ExportedStatement, name: string): void {
  const { grid, dto, exponent } = statement;
  const lines = statement.lines.map(({ line }): SheetLine => ({
    index: grid.plan.lineOfKey.get(line.key)!,
    account: line.account ?? '',
    opened: line.kind === 'account' || line.kind === 'slice',
    isSigned: statement.signed.has(line.key),
  }));
  const columns = shownColumns(grid);
  const headRow = statement.title.length + 2;
  const sheet = workbook.addWorksheet(name, {
    views: [{ state: 'frozen', xSplit: NAME_COLUMNS, ySplit: headRow + 1, showGridLines: false }],
    pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, printTitlesRow: `${headRow}:${headRow + 1}` },
    properties: { outlineLevelRow: 1 },
  });
  sheet.properties.outlineProperties = { summaryBelow: false, summaryRight: false };
  statement.title.forEach((text, index) => {
    const cell = sheet.getCell(index + 1, 1);
    cell.value = text;
    cell.font = index === 0 ? { bold: true, size: 14 } : {};
  });
  const places = new Places(grid, { columns, lines, firstRow: headRow + 2 });
  writeHeadings(sheet, { grid, columns, places, headRow });
  for (const { index, account, opened, isSigned } of lines) {
    const line = grid.plan.lines[index]!;
    const row = sheet.getRow(places.rowOf(index)!);
    row.getCell(1).value = account;
    const title = row.getCell(2);
    title.value = line.name;
    title.alignment = { indent: Math.min(line.depth, 10) };
    if (opened) row.outlineLevel = 1;
    const bold = line.emphasis === 'bold' || line.kind === 'section';
    title.font = { bold, italic: line.emphasis === 'italic' };
    if (line.source.kind === 'nothing') continue;
    for (const column of columns) {
      const cell = grid.cells[index]![column.index]!;
      const target = row.getCell(places.columnOf(column.index)!);
      const formula = places.formula(line, column, exponent);
      writeCell(target, cell, { formula, isSigned, statement });
      target.font = { bold, italic: line.emphasis === 'italic' };
      if (line.rule && cell.kind !== 'blank') {
        const { above, below } = line.rule;
        target.border = {
          ...(above ? { top: { style: BORDERS[above] } } : {}),
          ...(below ? { bottom: { style: BORDERS[below] } } : {}),
        };
      }
      if (column.kind === 'difference') row.getCell(places.columnOf(column.index)! + 1).value = 'favor' in cell ? (cell.favor ?? '') : '';
    }
  }
  dto.head.footnotes.forEach((text, index) => {
    sheet.getCell(headRow + 3 + lines.length + index, 2).value = text;
  });
  if (statement.logo) {
    const image = workbook.addImage({ base64: statement.logo.base64, extension: statement.logo.type === 'image/png' ? 'png' : 'jpeg' });
    sheet.addImage(image, { tl: { col: NAME_COLUMNS + 1, row: 0 }, ext: { width: 120, height: 40 } });
  }
}

function writeHeadings(
  sheet: Worksheet,
  headings: {
    readonly grid: ExportedGrid;
    readonly columns: readonly PlannedColumn[];
    readonly places: Places;
    readonly headRow: number;
  },
): void {
  const { grid, columns, places, headRow } = headings;
  sheet.getColumn(1).width = 8;
  sheet.getColumn(2).width = 34;
  grid.plan.blocks.forEach((block, index) => {
    const own = columns.filter((column) => column.block === index);
    if (own.length === 0) return;
    const from = places.columnOf(own[0]!.index)!;
    const to = places.columnOf(own.at(-1)!.index)! + (own.at(-1)!.kind === 'difference' ? 1 : 0);
    if (to > from) sheet.mergeCells(headRow, from, headRow, to);
    const cell = sheet.getCell(headRow, from);
    cell.value = block.heading;
    cell.font = { bold: true };
    cell.alignment = { horizontal: 'center' };
    cell.border = { bottom: { style: 'thin' } };
  });
  for (const column of columns) {
    const position = places.columnOf(column.index)!;
    const cell = sheet.getCell(headRow + 1, position);
    cell.value = column.heading;
    cell.font = { bold: true };
    cell.alignment = { horizontal: 'right', wrapText: true };
    cell.border = { bottom: { style: 'thin' } };
    sheet.getColumn(position).width = column.width ?? (column.kind === 'percentDifference' || column.kind === 'share' ? 9 : 15);
    if (column.kind === 'difference') sheet.getColumn(position + 1).width = MARK_WIDTH;
  }
}

function writeCell(
  target: SheetCell,
  cell: Cell,
  { formula, isSigned, statement }: { readonly formula: string | null; readonly isSigned: boolean; readonly statement: ExportedStatement },
): void {
  target.alignment = { horizontal: 'right' };
  if (cell.kind === 'blank') return;
  if (cell.kind === 'notMeaningful') {
    target.value = formula === null ? 'n/m' : { formula, result: 'n/m' };
    target.note = cellReasonWords(cell);
    return;
  }
  const result = cell.kind === 'amount' ? cell.value / 10 ** statement.exponent : cell.value;
  target.value = formula === null ? result : { formula, result };
  target.numFmt = formatOf(cell, statement, isSigned);
}

/** The number format of a figure; the figure itself is exact whatever the format rounds to. */
function formatOf(cell: Cell, { exponent, dto: { display }, currencySign }: ExportedStatement, isSigned: boolean): string {
  const pair = (positive: string): string => {
    const color = display.negatives === 'red' ? '[Red]' : '';
    return display.negatives === 'minus' ? `${positive};-${positive}` : `${positive}_);${color}(${positive})`;
  };
  if (cell.kind === 'ratio') return pair(cell.unit === 'times' ? '0.00' : cell.unit === 'days' ? '0.0' : '0.0%');
  if (cell.kind === 'quantity') return pair('#,##0.##');
  const { unit } = display;
  const count = unit === 'cents' ? exponent : (display.decimals ?? (unit === 'millions' ? 1 : 0));
  const scaled = unit === 'thousands' ? ',' : unit === 'millions' ? ',,' : '';
  const sign = isSigned ? `"${currencySign.trim()}"` : '';
  return `${pair(`${sign}#,##0${count > 0 ? `.${'0'.repeat(count)}` : ''}${scaled}`)};"–"${display.negatives === 'minus' ? '' : '_)'}`;
}

/** Where lines and columns stand in the sheet, and the formulas over them. */
class Places {
  readonly #grid: ExportedGrid;
  readonly #rows = new Map<number, number>();
  readonly #columns = new Map<number, number>();
  /** lines in view by the one they open from */
  readonly #parts = new Map<number, number[]>();

  constructor(
    grid: ExportedGrid,
    {
      columns,
      lines,
      firstRow,
    }: { readonly columns: readonly PlannedColumn[]; readonly lines: readonly SheetLine[]; readonly firstRow: number },
  ) {
    this.#grid = grid;
    lines.forEach(({ index }, position) => this.#rows.set(index, firstRow + position));
    let next = NAME_COLUMNS + 1;
    for (const column of columns) {
      this.#columns.set(column.index, next);
      next += column.kind === 'difference' ? 2 : 1;
    }
    for (const { index } of lines) {
      const { parent, kind } = grid.plan.lines[index]!;
      if (kind === 'account' || kind === 'slice') this.#parts.set(parent, [...(this.#parts.get(parent) ?? []), index]);
    }
  }

  rowOf(line: number): number | undefined {
    return this.#rows.get(line);
  }
  columnOf(column: number): number | undefined {
    return this.#columns.get(column);
  }

  /** The formula of a cell, or null where its figure itself is to stand. */
  formula(line: PlannedLine, column: PlannedColumn, exponent: number): string | null {
    const cell = this.#grid.cells[line.index]![column.index]!;
    if (cell.kind === 'blank') return null;
    const made = column.kind === 'amount' ? this.#ofLine(line, column, exponent) : this.#ofColumn(line, column);
    return made === null || !this.#gives(cell, made.value, exponent) ? null : made.text;
  }

  #gives(cell: Cell, value: number | null, exponent: number): boolean {
    if (cell.kind === 'notMeaningful') return value === null;
    if (cell.kind === 'blank' || value === null) return false;
    const wanted = cell.kind === 'amount' ? cell.value / 10 ** exponent : cell.value;
    return Math.abs(value - wanted) <= 1e-9 * Math.max(1, Math.abs(wanted));
  }

  /** A cell's address and its figure; null where it is not in the sheet. */
  #at(line: number, column: number): { readonly text: string; readonly value: number | null } | null {
    const row = this.#rows.get(line);
    const position = this.#columns.get(column);
    const cell = this.#grid.cells[line]?.[column];
    if (row === undefined || position === undefined || !cell) return null;
    return { text: `${letters(position)}${row}`, value: 'value' in cell ? this.#figure(cell) : null };
  }
  #figure(cell: Cell & { readonly value: number }): number {
    return cell.kind === 'amount' ? cell.value / 10 ** this.#grid.plan.exponent : cell.value;
  }

  #ofLine(line: PlannedLine, column: PlannedColumn, exponent: number): { text: string; value: number | null } | null {
    const { source } = line;
    if (source.kind === 'expression') {
      const made = this.#expression(source.expression, (key) => this.#at(this.#grid.plan.lineOfKey.get(key) ?? -1, column.index));
      if (!made || made.value === null) return null;
      return source.result === 'amount' && made.value !== null
        ? { text: `ROUND(${made.text},${exponent})`, value: round(made.value, exponent) }
        : made;
    }
    const parts = this.#parts.get(line.index) ?? [];
    const members = source.kind === 'members' ? source.lines : parts;
    if (members.length === 0) return null;
    let value = 0;
    let text = '';
    for (const member of members) {
      const cell = this.#grid.cells[member]![column.index]!;
      const amount = cell.kind === 'amount' ? cell.value : null;
      if (amount === null) return null;
      const at = this.#at(member, column.index);
      // what is not in the sheet adds nothing, or the sum is written as it is
      if (!at && amount !== 0) return null;
      if (!at) continue;
      const sign = source.kind === 'members' ? line.sign * this.#grid.plan.lines[member]!.sign : 1;
      text += `${sign > 0 ? (text === '' ? '' : '+') : '-'}${at.text}`;
      value += sign * (at.value ?? 0);
    }
    return text === '' ? null : { text, value: round(value, exponent) };
  }

  #ofColumn(line: PlannedLine, column: PlannedColumn): { text: string; value: number | null } | null {
    const at = (index: number) => this.#at(line.index, index);
    const sides = (of: PlannedColumn & { readonly kind: 'difference' | 'percentDifference' }) => {
      const read = sidesOn(of, this.#grid.plan.pointsInTime[line.index]!, this.#grid.plan.columns);
      return read === null ? [null, null] : [at(read.compared), at(read.base)];
    };
    switch (column.kind) {
      case 'difference': {
        const [compared, base] = sides(column);
        return compared && base && compared.value !== null && base.value !== null
          ? { text: `${compared.text}-${base.text}`, value: compared.value - base.value }
          : null;
      }
      case 'percentDifference': {
        const [compared, base] = sides(column);
        return compared && base && compared.value !== null && base.value !== null
          ? quotient({ text: `${compared.text}-${base.text}`, value: minus(compared.value, base.value) }, base, { ofSize: true })
          : null;
      }
      case 'share': {
        const base = this.#at(shareBase(this.#grid.plan, line, column), column.baseColumn);
        const part = at(column.of);
        return part && base && part.value !== null && base.value !== null ? quotient(part, base, { ofSize: false }) : null;
      }
      case 'runningTotal': {
        const parts = column.columns.map(at);
        return parts.every((part) => part !== null)
          ? { text: parts.map((part) => part.text).join('+'), value: parts.reduce((sum, part) => sum + (part.value ?? 0), 0) }
          : null;
      }
      case 'formula':
        return this.#expression(column.expression, (key) => at(column.reads.get(key)!));
      default:
        return null;
    }
  }

  /** A formula over addresses, with the figure it gives in the sheet; null where it reads what is not there. */
  #expression(
    node: Expression,
    at: (key: string) => { readonly text: string; readonly value: number | null } | null,
  ): { text: string; value: number | null } | null {
    switch (node.kind) {
      case 'number':
        return { text: String(node.value), value: node.value };
      case 'line':
        return at(node.key);
      case 'negate': {
        const operand = this.#expression(node.operand, at);
        return operand && { text: `-(${operand.text})`, value: operand.value === null ? null : -operand.value };
      }
      case 'call': {
        const operands = node.operands.map((each) => this.#expression(each, at));
        if (!operands.every((operand) => operand !== null)) return null;
        const values = operands.map((operand) => operand.value ?? 0);
        return {
          text: `${node.name.toUpperCase()}(${operands.map((operand) => operand.text).join(',')})`,
          value: node.name === 'abs' ? Math.abs(values[0]!) : Math[node.name](...values),
        };
      }
      case 'binary': {
        const [left, right] = [this.#expression(node.left, at), this.#expression(node.right, at)];
        if (!left || !right || left.value === null || right.value === null) return null;
        const [a, b] = [left.value, right.value];
        if (node.operator === '/' && b === 0) return null;
        const value = node.operator === '+' ? a + b : node.operator === '-' ? a - b : node.operator === '*' ? a * b : a / b;
        return { text: `(${left.text}${node.operator}${right.text})`, value };
      }
    }
  }
}

const minus = (a: number | null, b: number | null): number | null => (a === null || b === null ? null : a - b);
const round = (value: number, decimals: number): number => Math.round(value * 10 ** decimals) / 10 ** decimals;

/** A part of a formula with what it comes to; null where it has no value. */
type Term = { readonly text: string; readonly value: number | null };

/** A quotient that shows n/m over a zero base, as the statement does. */
function quotient(part: Term, base: Term, { ofSize }: { readonly ofSize: boolean }): Term {
  const over = ofSize ? `ABS(${base.text})` : base.text;
  const isOpen = part.value === null || base.value === null || base.value === 0;
  const value = isOpen ? null : part.value! / (ofSize ? Math.abs(base.value!) : base.value!);
  return { text: `IF(${base.text}=0,"n/m",(${part.text})/${over})`, value };
}

/** Column letters of a sheet: 1 is A, 27 is AA. */
export function letters(position: number): string {
  let text = '';
  for (let rest = position; rest > 0; rest = Math.floor((rest - 1) / 26)) text = String.fromCharCode(65 + ((rest - 1) % 26)) + text;
  return text;
}
