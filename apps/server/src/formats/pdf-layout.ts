import { figureFormat, figureText, shownFavor, type GridDto, type ShownLine } from '@wise-margin/contract';
import type { ExportedStatement } from '../statements/exported-statement.ts';
import { pageParts } from './page-parts.ts';

// US Letter in points, and sizes of type
export const LONG = 792;
export const SHORT = 612;
export const MARGIN = 36;
const SIZE = 8;
// what the type may shrink to before a statement breaks over pages
export const LEAST_SIZE = 7;
// parts of the type size: a bold digit, the room a closing parenthesis hangs in, a letter
const DIGIT = 0.52;
export const HANG = 0.3;
const LETTER = 0.54;
export const PADDING = 3;
const BLOCK_GAP = 8;
// between blocks of one column each, which need no more room than columns do
const NARROW_GAP = 2;
export const MARK = 8.5;
const NAMES = { least: 110, most: 190 };
export const SWATCH = 6;
export const SWATCH_GAP = 3;
// what a column and the names may take of a page's spare width
const MOST_SPARE = { column: 30, names: 120 };
const HEADING_ROWS = 30;
// of the headings' type: the width of a letter, the height of a line
const SERIF_LETTER = 0.56;
const SERIF_LINE = 1.3;
export const SECTION_GAP = 3;
export type PdfColumn = {
  readonly position: number;
  readonly block: number;
  /** of the figures, without padding, as they need it, which rules are as wide as; and with its part of the page's spare width */
  readonly ruled: number;
  readonly figures: number;
  /** with padding, the gap before a block and the mark of favor */
  readonly width: number;
  readonly hasMark: boolean;
  /** before the first column of a block, beside the padding */
  readonly gap: number;
};

/** The size of type, and the room above and beneath a line, in points. */
export type Type = { readonly size: number; readonly pad: number };
// from what reads best to what holds most
const TYPES: readonly Type[] = [
  { size: SIZE, pad: 0.8 },
  { size: SIZE - 0.5, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.4 },
  { size: LEAST_SIZE, pad: 0.1 },
];

/**
 * The paper and the size of type: portrait where it fits, else landscape, the type smaller by up to an eighth
 * where that keeps the columns on one page, or on fewer.
 */
export function paperOf(statement: ExportedStatement, texts: Figures, sides: number): Type & { readonly isPortrait: boolean } {
  const { dto, lines } = statement;
  const at = ({ size }: Type) => {
    const columns = dto.columns.map((_, position) => measured(dto, lines, { texts, position, size }));
    const names = nameWidth(lines, size);
    return { columns, names, total: names + columns.reduce((sum, { width }) => sum + width, 0) };
  };
  const sections = lines.filter(({ line }) => line.kind === 'section').length;
  const heightOf = (type: Type) => {
    const further = mostHeadingLines(dto, at(type).columns, type.size) - 1;
    const headings = headingHeight(statement) + HEADING_ROWS + further * (type.size + 1) * SERIF_LINE;
    return headings + lines.length * rowHeight(type) + sections * SECTION_GAP;
  };
  const fitsIn = (height: number) => (type: Type) => heightOf(type) <= height - 2 * MARGIN - 6;
  // one that is taller than a page whatever its type is read at its best size
  const pick = (types: readonly Type[], height: number) => types.find(fitsIn(height)) ?? types[0]!;
  const isPortrait = at(TYPES[0]!).total * sides <= SHORT - 2 * MARGIN;
  if (isPortrait) return { ...pick(TYPES, LONG), isPortrait };
  const partsAt = ({ columns, names }: ReturnType<typeof at>) => pageParts(columns, LONG - 2 * MARGIN - names).length;
  const fewest = Math.min(...TYPES.map((type) => partsAt(at(type))));
  return {
    ...pick(
      TYPES.filter((type) => partsAt(at(type)) === fewest),
      SHORT,
    ),
    isPortrait,
  };
}

/** Columns and names that share what is left of the page's width. */
export function widened(
  columns: readonly PdfColumn[],
  { names, spare }: { readonly names: number; readonly spare: number },
): { readonly columns: readonly PdfColumn[]; readonly names: number } {
  if (spare <= 0 || columns.length === 0) return { columns, names };
  const each = Math.min(MOST_SPARE.column, spare / (columns.length + 1));
  const rest = Math.min(MOST_SPARE.names, spare - each * columns.length);
  return {
    columns: columns.map((column) => ({ ...column, figures: column.figures + each, width: column.width + each })),
    names: names + rest,
  };
}

const rowHeight = ({ size, pad }: Type): number => size * 1.33 + 2 * pad;
const headingHeight = ({ title, logo }: ExportedStatement): number => Math.max(logo ? 44 : 0, 36 + Math.max(0, title.length - 2) * 12) + 8;

export function nameWidth(lines: readonly ShownLine[], size: number): number {
  const longest = Math.max(0, ...lines.map(({ line }) => line.depth * 2 + line.name.length + (line.account ? line.account.length + 2 : 0)));
  return Math.min(NAMES.most, Math.max(NAMES.least, longest * LETTER * size * 0.9 + 2 * PADDING));
}

/** The texts of the figures, each made once. */
export class Figures {
  readonly #statement: ExportedStatement;
  /** by column and by line */
  readonly #made: Map<ShownLine, string>[];

  constructor(statement: ExportedStatement) {
    this.#statement = statement;
    this.#made = statement.dto.columns.map(() => new Map());
  }

  text(line: ShownLine, position: number): string {
    const known = this.#made[position]!.get(line);
    if (known !== undefined) return known;
    const text = this.#write(line, position);
    this.#made[position]!.set(line, text);
    return text;
  }

  #write(line: ShownLine, position: number): string {
    const { dto, exponent, currencySign, signed } = this.#statement;
    const format = figureFormat(dto, position, {
      exponent,
      sign: signed.has(line.line.key) ? currencySign : '',
      isFormula: line.line.kind === 'formula',
    });
    return figureText(dto.cells[line.index]![position]!, format);
  }
}

const SHORT_HEADING = 14;
const columnsIn = (dto: GridDto, block: number): number => dto.columns.filter((column) => column.block === block).length;

/** The width of a block's heading on one line, in points. */
const headingWidth = (heading: string, size: number): number => heading.length * (size + 1) * SERIF_LETTER;

/** How many lines a block's heading takes in a width, broken between words. */
function headingLines(heading: string, size: number, width: number): number {
  let lines = 1;
  let line = '';
  for (const word of heading.split(' ')) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && headingWidth(longer, size) > width) {
      lines += 1;
      line = word;
    } else line = longer;
  }
  return lines;
}

/** The most lines a block's heading takes over these columns. */
function mostHeadingLines(dto: GridDto, columns: readonly PdfColumn[], size: number): number {
  const widths = new Map<number, number>();
  for (const { block, figures, hasMark } of columns)
    widths.set(block, (widths.get(block) ?? -2 * PADDING) + figures + 2 * PADDING + (hasMark ? MARK : 0));
  return Math.max(1, ...[...widths].map(([block, width]) => headingLines(dto.blocks[block]!.heading, size, width)));
}

export function measured(
  dto: GridDto,
  lines: readonly ShownLine[],
  { texts, position, size }: { readonly texts: Figures; readonly position: number; readonly size: number },
): PdfColumn {
  const column = dto.columns[position]!;
  const hasMark =
    column.kind === 'difference' &&
    lines.some((line) => shownFavor(dto.cells[line.index]![position]!, texts.text(line, position)) !== null);
  const longest = Math.max(column.width ?? 0, ...lines.map((line) => texts.text(line, position).length));
  const word = Math.max(...column.heading.split(/\s+/).map(({ length }) => length));
  const own = columnsIn(dto, column.block);
  const { heading } = dto.blocks[column.block]!;
  // a long heading over one column takes up to three lines
  const ofBlock = heading.length > SHORT_HEADING ? headingWidth(heading, size) / 2.4 : headingWidth(heading, size);
  const swatch = column.scenario === null ? 0 : SWATCH + SWATCH_GAP;
  const ruled = Math.max(24, (longest * DIGIT + HANG) * size, word * LETTER * size + swatch);
  const figures = Math.max(ruled, own === 1 ? ofBlock : 0);
  const before = dto.columns[position - 1]?.block;
  const isNarrow = own === 1 && before !== undefined && columnsIn(dto, before) === 1;
  const gap = before === undefined || before === column.block ? 0 : isNarrow ? NARROW_GAP : BLOCK_GAP;
  return {
    position,
    block: column.block,
    ruled,
    figures,
    hasMark,
    gap,
    width: figures + 2 * PADDING + gap + (hasMark ? MARK : 0),
  };
}
