import { type GridDto } from '@wise-margin/contract';
import { figureFormat, figureText, shownFavor, type ShownLine } from '@wise-margin/presentation';

import { type PdfFont } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import type { Surface } from '../../formats/surface.ts';
import type { ExportedStatement } from './exported-statement.ts';

const SIZE = 8;
// what the type may shrink to before a statement breaks over pages
export const LEAST_SIZE = 7;
// the room a closing parenthesis hangs in, as a part of the type size
export const HANG = 0.3;
export const PADDING = 3;
const BLOCK_GAP = 8;
// between blocks of one column each, which need no more room than columns do
const NARROW_GAP = 2;
export const MARK = 8.5;
const NAMES = { least: 110, most: 190 };
export const INDENT = 8;
export const SWATCH = 6;
export const SWATCH_GAP = 3;
const LEAST_COLUMN = 24;
// a block heading over one column takes up to this many lines, unless it is as short as a month
const SHORT_HEADING = 14;
const HEADING_LINES = 3;
// what a column and the names may take of a page's spare width
const MOST_SPARE = { column: 30, names: 120 };
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
  /** before the first column of a block, in addition to the padding */
  readonly gap: number;
};

/** The size of type, and the room above and beneath a line, in points. */
export type Type = { readonly size: number; readonly pad: number };
/** From what reads best to what holds most. */
export const TYPES: readonly Type[] = [
  { size: SIZE, pad: 0.8 },
  { size: SIZE - 0.5, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.4 },
  { size: LEAST_SIZE, pad: 0.1 },
];

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

const columnsIn = (dto: GridDto, block: number): number => dto.columns.filter((column) => column.block === block).length;

/** How a line's name and figures are set. */
export const fontOf = ({ emphasis, kind }: ShownLine['line']): PdfFont =>
  emphasis === 'italic' ? 'sansItalic' : emphasis === 'bold' || kind === 'section' ? 'sansBold' : 'sans';

/** A line's name as it is written, its account number before it. */
export const nameOf = ({ account, name }: ShownLine['line']): string => (account ? `${account}  ${name}` : name);

/** What a statement's columns and names need, measured once; widths grow with the size of type. */
export class PdfMeasures {
  readonly #dto: GridDto;
  /** of each column, at a size of one point */
  readonly #natural: readonly { readonly figures: number; readonly heading: number; readonly hasMark: boolean }[];
  /** of each block's heading over a single column, at a size of one point */
  readonly #headings: readonly number[];
  readonly #names: readonly { readonly width: number; readonly indent: number }[];

  constructor(writer: Pick<Surface, 'widthOf'>, { dto, lines }: ExportedStatement, texts: Figures) {
    const bold = { font: 'sansBold', size: 1 } as const;
    const serif = { font: 'serifBold', size: 1 } as const;
    const widest = (parts: readonly string[], style: typeof bold | typeof serif) =>
      parts.reduce((most, part) => Math.max(most, writer.widthOf(part, style)), 0);
    this.#dto = dto;
    this.#natural = dto.columns.map((column, position) => {
      const written = lines.map((line) => texts.text(line, position));
      return {
        figures: Math.max(widest(written, bold), writer.widthOf('0'.repeat(column.width ?? 0), bold)),
        heading: widest(column.heading.split(' '), bold),
        hasMark:
          column.kind === 'difference' && lines.some((line, row) => shownFavor(dto.cells[line.index]![position]!, written[row]!) !== null),
      };
    });
    this.#headings = dto.blocks.map(({ heading }) => narrowest(writer, heading, widest(heading.split(' '), serif)));
    this.#names = lines.map(({ line }) => ({
      width: writer.widthOf(nameOf(line), { font: fontOf(line), size: 1 }),
      indent: line.depth * INDENT,
    }));
  }

  /** The width of the line names, within what is left to them beside figures. */
  names(size: number): number {
    const most = this.#names.reduce((widest, { width, indent }) => Math.max(widest, indent + width * size), 0);
    return Math.min(NAMES.most, Math.max(NAMES.least, most + 2 * PADDING));
  }

  columns(size: number): readonly PdfColumn[] {
    const dto = this.#dto;
    return this.#natural.map(({ figures: digits, heading, hasMark }, position) => {
      const { block, scenario } = dto.columns[position]!;
      const swatch = scenario === null ? 0 : SWATCH + SWATCH_GAP;
      const ruled = Math.max(LEAST_COLUMN, (digits + HANG) * size, heading * size + swatch);
      const isAlone = columnsIn(dto, block) === 1;
      const figures = Math.max(ruled, isAlone ? this.#headings[block]! * (size + 1) : 0);
      const before = dto.columns[position - 1]?.block;
      const isNarrow = isAlone && before !== undefined && columnsIn(dto, before) === 1;
      const gap = before === undefined || before === block ? 0 : isNarrow ? NARROW_GAP : BLOCK_GAP;
      return { position, block, ruled, figures, hasMark, gap, width: figures + 2 * PADDING + gap + (hasMark ? MARK : 0) };
    });
  }
}

/** The width in which a block's heading takes no more lines than it may, at a size of one point; its longest word at least. */
function narrowest(writer: Pick<Surface, 'widthOf'>, heading: string, longestWord: number): number {
  const style = { font: 'serifBold', size: 1 } as const;
  const whole = writer.widthOf(heading, style);
  const step = whole / 20;
  if (heading.length <= SHORT_HEADING) return whole;
  let width = longestWord;
  while (width < whole && wrapped(writer, heading, { ...style, width }).length > HEADING_LINES) width += step;
  // a little more, so that rounding breaks no line
  return width * 1.01;
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
