import { sidesOfForm, type ShownLine } from '@wise-margin/contract';
import type { ExportedStatement } from '../statements/exported-statement.ts';
import { pageParts, pageRows } from './page-parts.ts';
import { Figures, LONG, MARGIN, measured, nameWidth, paperOf, SHORT, widened, type PdfColumn } from './pdf-layout.ts';
import { PdfTable } from './pdf-table.ts';
import { INK, lineOf, SOFT } from './pdf-type.ts';
import { PdfWriter, wrapped, type TextStyle } from './pdf-writer.ts';

const TOP = MARGIN + 6;
const SIDES_APART = 16;
// lines of the end of a statement that stay together
const LAST_LINES = 5;
const LOGO = { width: 120, height: 44 };
const UNDER_TITLE = 8;

/** A line above the first table, and the room it takes. */
type TitleLine = { readonly text: string; readonly style: TextStyle; readonly height: number };
/** A table at its place on a page, with the rows it shows there. */
type Placed = { readonly table: PdfTable; readonly x: number; readonly from: number; readonly to: number };

/**
 * A statement as a PDF of exactly what is shown: line names beside every part of the columns, headings
 * on every page, page numbers, rules under each column by itself, notes of not meaningful figures left to
 * the screen. Portrait where the columns allow it.
 */
export function statementPdf(statement: ExportedStatement): Promise<Buffer> {
  const { dto, company } = statement;
  const writer = new PdfWriter({ title: `${dto.head.title}, ${dto.asOfWords}`, author: company });
  new StatementPages(writer, statement).draw();
  return writer.finish();
}

class StatementPages {
  readonly #writer: PdfWriter;
  readonly #statement: ExportedStatement;
  readonly #isPortrait: boolean;
  readonly #pad: number;
  readonly #plain: TextStyle;
  readonly #columns: readonly PdfColumn[];
  readonly #names: number;
  readonly #texts: Figures;
  readonly #sides: readonly (readonly ShownLine[])[];

  constructor(writer: PdfWriter, statement: ExportedStatement) {
    const { dto, lines } = statement;
    this.#writer = writer;
    this.#statement = statement;
    this.#texts = new Figures(statement);
    this.#sides = sidesOfForm(dto, lines);
    const { size, pad, isPortrait } = paperOf(statement, this.#texts, this.#sides.length);
    this.#isPortrait = isPortrait;
    this.#pad = pad;
    this.#plain = { font: 'sans', size, color: SOFT };
    this.#columns = dto.columns.map((_, position) => measured(dto, lines, { texts: this.#texts, position, size }));
    this.#names = nameWidth(lines, size);
  }

  get #width(): number {
    return this.#isPortrait ? SHORT : LONG;
  }
  get #bottom(): number {
    return (this.#isPortrait ? LONG : SHORT) - MARGIN;
  }

  draw(): void {
    const title = this.#titleLines();
    const titleHeight = this.#titleHeight(title);
    const pages = this.#pages(titleHeight);
    const notes = this.#notes();
    const lastTop = pages.length === 1 ? TOP + titleHeight : TOP;
    const lastBottom = lastTop + Math.max(0, ...pages.at(-1)!.map(({ table, from, to }) => table.height(from, to)));
    const notesFit = notes.length === 0 || lastBottom + UNDER_TITLE + notes.length * lineOf(this.#plain.size) <= this.#bottom;
    const count = pages.length + (notesFit ? 0 : 1);
    pages.forEach((tables, index) => {
      this.#startPage(index + 1, count);
      if (index === 0) this.#drawTitle(title);
      const top = index === 0 ? TOP + titleHeight : TOP;
      for (const { table, x, from, to } of tables) table.draw({ x, y: top }, from, to);
    });
    if (!notesFit) this.#startPage(count, count);
    notes.forEach((text, index) => {
      const y = (notesFit ? lastBottom + UNDER_TITLE : TOP) + (index + 1) * lineOf(this.#plain.size);
      this.#writer.text(text, { x: MARGIN, y }, this.#plain);
    });
  }

  /** What each page shows: two sides beside each other, or one part of the columns with as many lines as fit. */
  #pages(titleHeight: number): Placed[][] {
    const { dto, lines } = this.#statement;
    const available = this.#width - 2 * MARGIN;
    const total = this.#names + this.#columns.reduce((sum, { width }) => sum + width, 0);
    const sideWidth = (available - SIDES_APART) / 2;
    if (this.#sides.length > 1 && total <= sideWidth) {
      const tables = this.#sides.map((side) => this.#table(this.#columns, side, sideWidth - total));
      const rows = tables.map((table) => this.#rows(table, titleHeight));
      const most = Math.max(...rows.map(({ length }) => length));
      return Array.from({ length: most }, (_, page) =>
        tables.flatMap((table, side) => {
          const shown = rows[side]![page];
          return shown ? [{ table, x: MARGIN + side * (sideWidth + SIDES_APART), ...shown }] : [];
        }),
      );
    }
    const room = available - this.#names;
    return pageParts(this.#columns, room).flatMap((part, index) => {
      const columns = part.map((position) => this.#columns[position]!);
      const spare = room - columns.reduce((sum, { width }) => sum + width, 0);
      const table = this.#table(columns, lines, spare, columns.length < dto.columns.length);
      return this.#rows(table, index === 0 ? titleHeight : 0).map((shown) => [{ table, x: MARGIN, ...shown }]);
    });
  }

  #table(part: readonly PdfColumn[], lines: readonly ShownLine[], spare: number, isPart = false): PdfTable {
    const { columns, names } = widened(part, { names: this.#names, spare });
    return new PdfTable(this.#writer, this.#statement, {
      columns,
      names,
      lines,
      texts: this.#texts,
      size: this.#plain.size,
      pad: this.#pad,
      isPart,
    });
  }

  #rows(table: PdfTable, titleHeight: number) {
    const next = this.#bottom - TOP - table.headHeight;
    return pageRows(table.rowHeights, { first: next - titleHeight, next, together: LAST_LINES });
  }

  #startPage(page: number, pages: number): void {
    const { company, dto } = this.#statement;
    const { size } = this.#plain;
    this.#writer.addPage(this.#isPortrait);
    if (page > 1) {
      const [head] = wrapped(this.#writer, `${company}: ${dto.head.title}, ${dto.asOfWords}`, this.#plain, this.#width - 2 * MARGIN);
      this.#writer.text(head!, { x: MARGIN, y: 22 + size }, this.#plain);
    }
    this.#writer.text(`Page ${page} of ${pages}`, { x: this.#width - MARGIN, y: this.#bottom + 12 + size, align: 'right' }, this.#plain);
  }

  /** The lines above the first table, each with its style and the room it takes. */
  #titleLines(): TitleLine[] {
    const { title, logo } = this.#statement;
    const width = this.#width - 2 * MARGIN - (logo ? LOGO.width + UNDER_TITLE : 0);
    const { size } = this.#plain;
    return title.flatMap((text, index) => {
      const style: TextStyle =
        index === 0
          ? { font: 'sans', size: 10, color: SOFT }
          : index === 1
            ? { font: 'serifBold', size: 16, color: INK }
            : { font: 'sans', size, color: SOFT };
      const height = index === 0 ? 13 : index === 1 ? 24 : lineOf(size);
      return wrapped(this.#writer, text, style, width).map((line) => ({ text: line, style, height }));
    });
  }

  #titleHeight(lines: readonly { readonly height: number }[]): number {
    const words = lines.reduce((sum, { height }) => sum + height, 0);
    return Math.max(words, this.#statement.logo ? LOGO.height : 0) + UNDER_TITLE;
  }

  #drawTitle(lines: readonly TitleLine[]): void {
    let y = TOP;
    for (const { text, style, height } of lines) {
      y += height;
      this.#writer.text(text, { x: MARGIN, y: y - height * 0.25 }, style);
    }
    const { logo } = this.#statement;
    if (logo) this.#writer.picture(Buffer.from(logo.base64, 'base64'), { x: this.#width - MARGIN - LOGO.width, y: TOP, ...LOGO });
  }

  #notes(): string[] {
    const width = this.#width - 2 * MARGIN;
    return this.#statement.dto.head.footnotes.flatMap((text) => wrapped(this.#writer, text, this.#plain, width));
  }
}
