import type { Content, ContentTable, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js';
import {
  cellReasonWords,
  figureFormat,
  figureText,
  shownFavor,
  sidesOfForm,
  type CellDto,
  type GridDto,
  type ShownLine,
} from '@wise-margin/contract';
import type { ExportedStatement } from '../statements/exported-statement.ts';
import { pageParts } from './page-parts.ts';
import { writePdf } from './pdf-writer.ts';

// US Letter in points, and sizes of type
const LONG = 792;
const SHORT = 612;
const MARGIN = 36;
const SIZE = 8;
// what the type may shrink to before a statement breaks over pages
const LEAST_SIZE = 7;
// parts of the type size: a bold digit, the room a closing parenthesis hangs in, a letter
const DIGIT = 0.52;
const HANG = 0.3;
const LETTER = 0.54;
const PADDING = 3;
const BLOCK_GAP = 8;
const MARK = 7;
const NAMES = { least: 110, most: 190 };
const SWATCH = 6;
// what a column and the names may take of a page's spare width
const MOST_SPARE = { column: 30, names: 120 };
// lines of the end of a statement that stay together
const LAST_LINES = 5;
const HEADING_ROWS = 30;
const SECTION_GAP = 3;
const INK = '#1E2833';
const SOFT = '#5E5A50';
const PINE = '#1C664D';
const BRICK = '#A1302A';

type PdfColumn = {
  readonly position: number;
  readonly block: number;
  /** of the figures, without padding, as they need it, which rules are as wide as; and with its part of the page's spare width */
  readonly ruled: number;
  readonly figures: number;
  /** with padding, the gap before a block and the mark of favor */
  readonly width: number;
  readonly hasMark: boolean;
};

/**
 * A statement as a PDF of exactly what is shown: line names beside every part of the columns, headings
 * on every page, page numbers, rules under each column by itself, notes of not meaningful figures left to
 * the screen. Portrait where the columns allow it.
 */
export function statementPdf(statement: ExportedStatement): Promise<Buffer> {
  return writePdf(statementPages(statement));
}

/** The document that the PDF is made of. */
export function statementPages(statement: ExportedStatement): TDocumentDefinitions {
  const { dto, lines, company } = statement;
  const texts = new Figures(statement);
  const sides = sidesOfForm(dto, lines);
  const { size, pad, isPortrait } = paperOf(statement, texts, sides.length);
  const columns = dto.columns.map((_, position) => measured(dto, lines, { texts, position, size }));
  const names = nameWidth(lines, size);
  const total = names + columns.reduce((sum, { width }) => sum + width, 0);
  const room = (isPortrait ? SHORT : LONG) - 2 * MARGIN - names;
  const parts = pageParts(columns, room).map((part) => part.map((position) => columns[position]!));
  const draw = (part: readonly PdfColumn[], of: readonly ShownLine[], spare = 0): ContentTable => {
    const wide = widened(part, { names, spare });
    return table(statement, { columns: wide.columns, lines: of, names: wide.names, texts, of: columns.length, size, pad });
  };
  const spareOf = (part: readonly PdfColumn[]) => room - part.reduce((sum, { width }) => sum + width, 0);
  const beside = sides.length > 1 && 2 * total <= LONG - 2 * MARGIN;
  const body: Content[] = beside
    ? [{ columns: sides.map((side) => draw(columns, side)), columnGap: 16 }]
    : parts.flatMap((part, index) =>
        stretches(lines, {
          row: rowHeight({ size, pad }),
          height: (isPortrait ? LONG : SHORT) - 2 * MARGIN - 6,
          first: index === 0 ? headingHeight(statement) : 0,
        }).map((stretch, at): Content =>
          index === 0 && at === 0 ? draw(part, stretch, spareOf(part)) : { ...draw(part, stretch, spareOf(part)), pageBreak: 'before' },
        ),
      );
  return {
    pageSize: 'LETTER',
    pageOrientation: isPortrait ? 'portrait' : 'landscape',
    pageMargins: [MARGIN, MARGIN + 6, MARGIN, MARGIN],
    defaultStyle: { font: 'Sans', fontSize: size, color: INK, lineHeight: 1 },
    info: { title: `${dto.head.title}, ${dto.asOfWords}`, author: company, creator: 'Wise Margin', producer: 'Wise Margin' },
    header: (page) =>
      page === 1 ? null : { text: `${company}: ${dto.head.title}, ${dto.asOfWords}`, color: SOFT, margin: [MARGIN, 22, MARGIN, 0] },
    footer: (page, pages) => ({
      text: `Page ${page} of ${pages}`,
      alignment: 'right',
      color: SOFT,
      margin: [MARGIN, 12, MARGIN, 0],
    }),
    content: [...heading(statement), ...body, ...footnotes(dto)],
  };
}

/** The size of type, and the room above and beneath a line, in points. */
type Type = { readonly size: number; readonly pad: number };
// from what reads best to what holds most
const TYPES: readonly Type[] = [
  { size: SIZE, pad: 0.8 },
  { size: SIZE - 0.5, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.8 },
  { size: LEAST_SIZE, pad: 0.4 },
];

/**
 * The paper and the size of type: portrait where it fits, else landscape, the type smaller by up to an eighth
 * where that keeps the columns on one page, or on fewer.
 */
function paperOf(statement: ExportedStatement, texts: Figures, sides: number): Type & { readonly isPortrait: boolean } {
  const { dto, lines } = statement;
  const at = ({ size }: Type) => {
    const columns = dto.columns.map((_, position) => measured(dto, lines, { texts, position, size }));
    const names = nameWidth(lines, size);
    return { columns, names, total: names + columns.reduce((sum, { width }) => sum + width, 0) };
  };
  const sections = lines.filter(({ line }) => line.kind === 'section').length;
  const heightOf = (type: Type) => headingHeight(statement) + HEADING_ROWS + lines.length * rowHeight(type) + sections * SECTION_GAP;
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
function widened(
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

const rowHeight = ({ size, pad }: Type): number => size * 1.35 + 2 * pad;
const headingHeight = ({ title, logo }: ExportedStatement): number => Math.max(logo ? 44 : 0, 36 + Math.max(0, title.length - 2) * 12) + 8;

/**
 * The lines of each page where the end would be left alone: what runs past a page takes at least the last
 * lines with it. One stretch where the lines fit, or where more than a page is needed anyway.
 */
function stretches(
  lines: readonly ShownLine[],
  { row, height, first }: { readonly row: number; readonly height: number; readonly first: number },
): readonly (readonly ShownLine[])[] {
  const held = Math.floor((height - first - HEADING_ROWS) / row);
  const past = lines.length - held;
  if (past <= 0 || past >= LAST_LINES || lines.length <= 2 * LAST_LINES) return [lines];
  return [lines.slice(0, -LAST_LINES), lines.slice(-LAST_LINES)];
}

function heading({ title, logo }: ExportedStatement): Content[] {
  const [company, name, ...rest] = title;
  const words: Content = {
    stack: [
      { text: company!, color: SOFT, fontSize: 10 },
      { text: name!, font: 'Serif', bold: true, fontSize: 16, margin: [0, 1, 0, 2] },
      ...rest.map((text): Content => ({ text, color: SOFT })),
    ],
    margin: [0, 0, 0, 8],
  };
  if (!logo) return [words];
  return [{ columns: [words, { image: `data:${logo.type};base64,${logo.base64}`, fit: [120, 44], width: 120, alignment: 'right' }] }];
}

const footnotes = (dto: GridDto): Content[] =>
  dto.head.footnotes.map((text, index): Content => ({ text, color: SOFT, margin: [0, index === 0 ? 8 : 1, 0, 0] }));

function nameWidth(lines: readonly ShownLine[], size: number): number {
  const longest = Math.max(0, ...lines.map(({ line }) => line.depth * 2 + line.name.length + (line.account ? line.account.length + 2 : 0)));
  return Math.min(NAMES.most, Math.max(NAMES.least, longest * LETTER * size * 0.9 + 2 * PADDING));
}

/** The texts of the figures, each made once. */
class Figures {
  readonly #statement: ExportedStatement;

  constructor(statement: ExportedStatement) {
    this.#statement = statement;
  }

  text(line: ShownLine, position: number): string {
    const { dto, exponent, currencySign, signed } = this.#statement;
    const format = figureFormat(dto, position, {
      exponent,
      sign: signed.has(line.line.key) ? currencySign : '',
      isFormula: line.line.kind === 'formula',
    });
    return figureText(dto.cells[line.index]![position]!, format);
  }
}

function measured(
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
  const own = dto.columns.filter(({ block }) => block === column.block).length;
  const ofBlock = (dto.blocks[column.block]!.heading.length * (size + 1) * 0.6) / own;
  const swatch = column.scenario === null ? 0 : SWATCH + 2;
  const ruled = Math.max(24, (longest * DIGIT + HANG) * size, word * LETTER * size + swatch);
  const figures = Math.max(ruled, own === 1 ? ofBlock : 0);
  const startsBlock = position > 0 && dto.columns[position - 1]!.block !== column.block;
  return {
    position,
    block: column.block,
    ruled,
    figures,
    hasMark,
    width: figures + 2 * PADDING + (startsBlock ? BLOCK_GAP : 0) + (hasMark ? MARK : 0),
  };
}

function table(
  { dto }: ExportedStatement,
  {
    columns,
    lines,
    names,
    texts,
    of,
    size,
    pad,
  }: {
    readonly columns: readonly PdfColumn[];
    readonly lines: readonly ShownLine[];
    readonly names: number;
    readonly texts: Figures;
    readonly of: number;
    readonly size: number;
    readonly pad: number;
  },
): ContentTable {
  // positions in the table: the names, then each column and its mark
  const cellsOf = (column: PdfColumn, figure: TableCell, mark: TableCell): TableCell[] => (column.hasMark ? [figure, mark] : [figure]);
  const startsAt = new Set<number>();
  let next = 1;
  columns.forEach((column, index) => {
    if (index > 0 && columns[index - 1]!.block !== column.block) startsAt.add(next);
    next += column.hasMark ? 2 : 1;
  });
  const inPart = columns.length < of ? `Columns ${columns[0]!.position + 1} to ${columns.at(-1)!.position + 1} of ${of}` : '';
  const body: TableCell[][] = [
    [{ text: '' }, ...blockHeadings(dto, columns, size)],
    [
      { text: inPart, color: SOFT },
      ...columns.flatMap((column) => cellsOf(column, { stack: columnHeading(dto, column, size), alignment: 'right' }, { text: '' })),
    ],
    ...lines.map(({ line, index }, row): TableCell[] => {
      const bold = line.emphasis === 'bold' || line.kind === 'section';
      const style = { bold, italics: line.emphasis === 'italic' };
      const name: TableCell = {
        text: [...(line.account ? [{ text: `${line.account}  `, color: SOFT }] : []), { text: line.name }],
        margin: [line.depth * 8, line.kind === 'section' ? SECTION_GAP : 0, 0, 0],
        ...style,
      };
      return [
        name,
        ...columns.flatMap((column) => {
          const cell = dto.cells[index]![column.position]!;
          const text = texts.text(lines[row]!, column.position);
          const favor = shownFavor(cell, text);
          const mark: TableCell = favor ? { text: favor, fontSize: 6, color: favor === 'F' ? PINE : BRICK, margin: [0, 1.5, 0, 0] } : '';
          return cellsOf(column, figure(text, { cell, line, column, style, size, isRed: dto.display.negatives === 'red' }), mark);
        }),
      ];
    }),
  ];
  return {
    table: {
      headerRows: 2,
      dontBreakRows: true,
      widths: [names - 2 * PADDING, ...columns.flatMap((column) => (column.hasMark ? [column.figures, MARK - PADDING] : [column.figures]))],
      body,
    },
    layout: {
      hLineWidth: (row) => (row === 2 ? 0.7 : 0),
      hLineColor: () => INK,
      vLineWidth: () => 0,
      paddingLeft: (column) => (startsAt.has(column) ? PADDING + BLOCK_GAP : isMark(column) ? 0 : PADDING),
      paddingRight: () => PADDING,
      paddingTop: () => pad,
      paddingBottom: () => pad,
    },
  };

  function isMark(at: number): boolean {
    let seen = 1;
    for (const column of columns) {
      if (column.hasMark && at === seen + 1) return true;
      seen += column.hasMark ? 2 : 1;
    }
    return false;
  }
}

/** The headings of blocks over their columns, each with its own rule. */
function blockHeadings(dto: GridDto, columns: readonly PdfColumn[], size: number): TableCell[] {
  const cells: TableCell[] = [];
  for (let index = 0; index < columns.length;) {
    const { block } = columns[index]!;
    let own = 0;
    let width = 0;
    const from = index;
    for (; columns[index]?.block === block; index += 1) {
      own += columns[index]!.hasMark ? 2 : 1;
      width += columns[index]!.figures + 2 * PADDING + (columns[index]!.hasMark ? MARK : 0);
    }
    const rule = width - 2 * PADDING;
    cells.push({
      colSpan: own,
      stack: [
        { text: dto.blocks[block]!.heading, font: 'Serif', bold: true, fontSize: size + 1, alignment: 'center' },
        { canvas: [{ type: 'line', x1: 0, y1: 1, x2: rule, y2: 1, lineWidth: 0.5, lineColor: SOFT }] },
      ],
      ...(from > 0 ? { margin: [0, 0, 0, 0] as [number, number, number, number] } : {}),
    });
    for (let rest = 1; rest < own; rest += 1) cells.push('');
  }
  return cells;
}

/** A heading with the mark of its scenario: actual solid, prior grey, budget outlined, projection hatched. */
function columnHeading(dto: GridDto, { position, figures }: PdfColumn, size: number): Content[] {
  const column = dto.columns[position]!;
  const isSoft = column.kind === 'share' || column.kind === 'percentDifference';
  const text: Content = { text: column.heading, bold: !isSoft, ...(isSoft ? { color: SOFT } : {}) };
  if (column.scenario === null) return [text];
  const x = 0;
  const square = { type: 'rect', x, y: 0, w: SWATCH, h: SWATCH, lineWidth: 0.6, lineColor: INK } as const;
  const drawn: Record<NonNullable<typeof column.scenario>, Content> = {
    actual: { canvas: [{ ...square, color: INK }] },
    prior: { canvas: [{ ...square, color: '#A79F8E', lineColor: '#A79F8E' }] },
    budget: { canvas: [square] },
    projection: {
      canvas: [
        square,
        ...[2, 4, 6].map((step) => ({ type: 'line', x1: x, y1: step, x2: x + step, y2: 0, lineWidth: 0.5, lineColor: INK }) as const),
        ...[2, 4].map((step) => ({ type: 'line', x1: x + step, y1: 6, x2: x + 6, y2: step, lineWidth: 0.5, lineColor: INK }) as const),
      ],
    },
  };
  // the mark stands before the heading's first line
  const room = figures - SWATCH - 2;
  const words = Math.min(room, column.heading.length * LETTER * size + 1);
  return [
    {
      columns: [
        { width: room - words, text: '' },
        { width: SWATCH + 2, stack: [drawn[column.scenario]], margin: [0, size * 0.2, 0, 0] },
        { ...text, width: words, alignment: 'right' },
      ],
    },
  ];
}

/** A figure at the right of its column, its closing parenthesis outside, with its own rules above and below. */
function figure(
  text: string,
  {
    cell,
    line,
    column,
    style,
    size,
    isRed,
  }: {
    readonly cell: CellDto;
    readonly line: ShownLine['line'];
    readonly column: PdfColumn;
    readonly style: object;
    readonly size: number;
    readonly isRed: boolean;
  },
): TableCell {
  const isNegative = text.startsWith('(') || text.startsWith('−');
  const words: Content & object = {
    text,
    alignment: 'right',
    ...style,
    ...(isNegative && isRed ? { color: BRICK } : cell.kind === 'notMeaningful' ? { color: SOFT } : {}),
    margin: [0, 0, text.endsWith(')') ? 0 : HANG * size, 0],
    noWrap: true,
  };
  if (line.rule === null || text === '' || cellReasonWords(cell) !== '') return words;
  const rule = (y: number) =>
    ({ type: 'line', x1: column.figures - column.ruled, y1: y, x2: column.figures, y2: y, lineWidth: 0.5, lineColor: INK }) as const;
  return {
    stack: [{ canvas: [rule(0)] }, words, ...(line.rule === 'double' ? [{ canvas: [rule(0.5), rule(2)] }] : [])],
  };
}
