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
// a bold digit; the room a closing parenthesis hangs in
const DIGIT = SIZE * 0.52;
const HANG = SIZE * 0.3;
const LETTER = SIZE * 0.54;
const PADDING = 3;
const BLOCK_GAP = 8;
const MARK = 7;
const NAMES = { least: 110, most: 190 };
const SWATCH = 6;
const INK = '#1E2833';
const SOFT = '#5E5A50';
const PINE = '#1C664D';
const BRICK = '#A1302A';

type PdfColumn = {
  readonly position: number;
  readonly block: number;
  /** of the figures, without padding */
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
  const columns = dto.columns.map((_, position) => measured(dto, lines, { texts, position }));
  const names = nameWidth(lines);
  const total = names + columns.reduce((sum, { width }) => sum + width, 0);
  const sides = sidesOfForm(dto, lines);
  const isPortrait = total * sides.length <= SHORT - 2 * MARGIN;
  const room = (isPortrait ? SHORT : LONG) - 2 * MARGIN - names;
  const parts = pageParts(columns, room).map((part) => part.map((position) => columns[position]!));
  const draw = (part: readonly PdfColumn[], of: readonly ShownLine[]): ContentTable =>
    table(statement, { columns: part, lines: of, names, texts, of: columns.length });
  const beside = sides.length > 1 && 2 * total <= LONG - 2 * MARGIN;
  const body: Content[] = beside
    ? [{ columns: sides.map((side) => draw(columns, side)), columnGap: 16 }]
    : parts.map((part, index): Content => (index === 0 ? draw(part, lines) : { ...draw(part, lines), pageBreak: 'before' }));
  return {
    pageSize: 'LETTER',
    pageOrientation: isPortrait ? 'portrait' : 'landscape',
    pageMargins: [MARGIN, MARGIN + 6, MARGIN, MARGIN],
    defaultStyle: { font: 'Sans', fontSize: SIZE, color: INK, lineHeight: 1 },
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

function nameWidth(lines: readonly ShownLine[]): number {
  const longest = Math.max(0, ...lines.map(({ line }) => line.depth * 2 + line.name.length + (line.account ? line.account.length + 2 : 0)));
  return Math.min(NAMES.most, Math.max(NAMES.least, longest * LETTER * 0.9 + 2 * PADDING));
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
  { texts, position }: { readonly texts: Figures; readonly position: number },
): PdfColumn {
  const column = dto.columns[position]!;
  const hasMark =
    column.kind === 'difference' &&
    lines.some((line) => shownFavor(dto.cells[line.index]![position]!, texts.text(line, position)) !== null);
  const longest = Math.max(column.width ?? 0, ...lines.map((line) => texts.text(line, position).length));
  const word = Math.max(...column.heading.split(/\s+/).map(({ length }) => length));
  const own = dto.columns.filter(({ block }) => block === column.block).length;
  const ofBlock = (dto.blocks[column.block]!.heading.length * (SIZE + 1) * 0.6) / own;
  const figures = Math.max(24, longest * DIGIT + HANG, word * LETTER, own === 1 ? ofBlock : 0);
  const startsBlock = position > 0 && dto.columns[position - 1]!.block !== column.block;
  return {
    position,
    block: column.block,
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
  }: {
    readonly columns: readonly PdfColumn[];
    readonly lines: readonly ShownLine[];
    readonly names: number;
    readonly texts: Figures;
    readonly of: number;
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
    [{ text: '' }, ...blockHeadings(dto, columns)],
    [
      { text: inPart, color: SOFT },
      ...columns.flatMap((column) => cellsOf(column, { stack: columnHeading(dto, column), alignment: 'right' }, { text: '' })),
    ],
    ...lines.map(({ line, index }, row): TableCell[] => {
      const bold = line.emphasis === 'bold' || line.kind === 'section';
      const style = { bold, italics: line.emphasis === 'italic' };
      const name: TableCell = {
        text: [...(line.account ? [{ text: `${line.account}  `, color: SOFT }] : []), { text: line.name }],
        margin: [line.depth * 8, line.kind === 'section' ? 3 : 0, 0, 0],
        ...style,
      };
      return [
        name,
        ...columns.flatMap((column) => {
          const cell = dto.cells[index]![column.position]!;
          const text = texts.text(lines[row]!, column.position);
          const favor = shownFavor(cell, text);
          const mark: TableCell = favor ? { text: favor, fontSize: 6, color: favor === 'F' ? PINE : BRICK, margin: [0, 1.5, 0, 0] } : '';
          return cellsOf(column, figure(text, { cell, line, column, style, isRed: dto.display.negatives === 'red' }), mark);
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
      paddingTop: () => 0.8,
      paddingBottom: () => 0.8,
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
function blockHeadings(dto: GridDto, columns: readonly PdfColumn[]): TableCell[] {
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
        { text: dto.blocks[block]!.heading, font: 'Serif', bold: true, fontSize: SIZE + 1, alignment: 'center' },
        { canvas: [{ type: 'line', x1: 0, y1: 1, x2: rule, y2: 1, lineWidth: 0.5, lineColor: SOFT }] },
      ],
      ...(from > 0 ? { margin: [0, 0, 0, 0] as [number, number, number, number] } : {}),
    });
    for (let rest = 1; rest < own; rest += 1) cells.push('');
  }
  return cells;
}

/** A heading with the mark of its scenario: actual solid, prior grey, budget outlined, projection hatched. */
function columnHeading(dto: GridDto, { position, figures }: PdfColumn): Content[] {
  const column = dto.columns[position]!;
  const isSoft = column.kind === 'share' || column.kind === 'percentDifference';
  const text: Content = { text: column.heading, bold: !isSoft, ...(isSoft ? { color: SOFT } : {}) };
  if (column.scenario === null) return [{ text: ' ', fontSize: SWATCH * 0.8 }, text];
  const x = figures - SWATCH;
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
  return [drawn[column.scenario], text];
}

/** A figure at the right of its column, its closing parenthesis outside, with its own rules above and below. */
function figure(
  text: string,
  {
    cell,
    line,
    column,
    style,
    isRed,
  }: {
    readonly cell: CellDto;
    readonly line: ShownLine['line'];
    readonly column: PdfColumn;
    readonly style: object;
    readonly isRed: boolean;
  },
): TableCell {
  const isNegative = text.startsWith('(') || text.startsWith('−');
  const words: Content & object = {
    text,
    alignment: 'right',
    ...style,
    ...(isNegative && isRed ? { color: BRICK } : cell.kind === 'notMeaningful' ? { color: SOFT } : {}),
    margin: [0, 0, text.endsWith(')') ? 0 : HANG, 0],
    noWrap: true,
  };
  if (line.rule === null || text === '' || cellReasonWords(cell) !== '') return words;
  const rule = (y: number) => ({ type: 'line', x1: 0, y1: y, x2: column.figures, y2: y, lineWidth: 0.5, lineColor: INK }) as const;
  return {
    stack: [{ canvas: [rule(0)] }, words, ...(line.rule === 'double' ? [{ canvas: [rule(0.5), rule(2)] }] : [])],
  };
}
