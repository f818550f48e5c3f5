import type { Content, ContentTable, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js';
import type { RuleWeight } from '@wise-margin/core';
import { cellReasonWords, shownFavor, sidesOfForm, type CellDto, type GridDto, type ShownLine } from '@wise-margin/contract';
import type { ExportedStatement } from '../statements/exported-statement.ts';
import { pageParts } from './page-parts.ts';
import {
  Figures,
  HANG,
  headingHeight,
  headingLines,
  LEAST_SIZE,
  LETTER,
  LONG,
  MARGIN,
  MARK,
  measured,
  mostHeadingLines,
  nameWidth,
  PADDING,
  paperOf,
  rowHeight,
  SECTION_GAP,
  SERIF_LINE,
  SHORT,
  stretches,
  SWATCH,
  widened,
  type PdfColumn,
} from './pdf-layout.ts';
import { writePdf } from './pdf-writer.ts';

const INK = '#1E2833';
const SOFT = '#5E5A50';
const PINE = '#1C664D';
const BRICK = '#A1302A';

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
  const gapAt = new Map<number, number>();
  let next = 1;
  columns.forEach((column, index) => {
    if (index > 0) gapAt.set(next, column.gap);
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
          const mark: TableCell = favor
            ? { text: favor, fontSize: LEAST_SIZE, color: favor === 'F' ? PINE : BRICK, margin: [0, size - LEAST_SIZE, 0, 0] }
            : '';
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
      paddingLeft: (column) => (isMark(column) ? 0 : PADDING + (gapAt.get(column) ?? 0)),
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
  // beside a heading of several lines the others keep to the lowest, so that the rules are level
  const most = mostHeadingLines(dto, columns, size);
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
        {
          text: dto.blocks[block]!.heading,
          font: 'Serif',
          bold: true,
          fontSize: size + 1,
          alignment: 'center',
          margin: [0, (most - headingLines(dto.blocks[block]!.heading, size, rule)) * (size + 1) * SERIF_LINE, 0, 0],
        },
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
  const rules = (weight: RuleWeight | undefined) =>
    weight === undefined ? [] : [{ canvas: weight === 'single' ? [rule(0)] : [rule(0.5), rule(2)] }];
  return {
    stack: [...rules(line.rule.above), words, ...rules(line.rule.below)],
  };
}
