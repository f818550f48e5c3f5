import { type ShownLine, sidesOfForm } from '@wise-margin/presentation';

import { INK, lineOf, LONG, MARGIN, SHORT, SOFT, type TextStyle } from '../../formats/pdf-type.ts';
import { PdfWriter, wrapped } from '../../formats/pdf-writer.ts';
import type { ExportedStatement } from './exported-statement.ts';
import { pageParts, pageRows } from './page-parts.ts';
import { Figures, LEAST_SIZE, type PdfColumn, PdfMeasures, type Type, TYPES, widened } from './pdf-layout.ts';
import { PdfTable } from './pdf-table.ts';

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

/** The pages of a statement in one size of type. */
type Plan = {
  readonly pages: readonly (readonly Placed[])[];
  readonly title: readonly TitleLine[];
  readonly notes: readonly string[];
  readonly plain: TextStyle;
  readonly isPortrait: boolean;
  /** of the paper; and where its bottom margin begins */
  readonly width: number;
  readonly bottom: number;
};

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
  readonly #texts: Figures;
  readonly #measures: PdfMeasures;
  readonly #sides: readonly (readonly ShownLine[])[];
  readonly #plan: Plan;

  constructor(writer: PdfWriter, statement: ExportedStatement) {
    this.#writer = writer;
    this.#statement = statement;
    this.#texts = new Figures(statement);
    this.#measures = new PdfMeasures(writer, statement, this.#texts);
    this.#sides = sidesOfForm(statement.dto, statement.lines);
    this.#plan = this.#bestPlan();
  }

  draw(): void {
    const { pages, title, notes, width, bottom, plain } = this.#plan;
    const titleHeight = this.#titleHeight(title);
    const lastTop = pages.length === 1 ? TOP + titleHeight : TOP;
    const lastBottom = lastTop + Math.max(0, ...pages.at(-1)!.map(({ table, from, to }) => table.height(from, to)));
    const notesFit = notes.length === 0 || lastBottom + UNDER_TITLE + notes.length * lineOf(plain.size) <= bottom;
    const count = pages.length + (notesFit ? 0 : 1);
    pages.forEach((tables, index) => {
      this.#startPage(index + 1, count);
      if (index === 0) this.#drawTitle(title, width);
      const top = index === 0 ? TOP + titleHeight : TOP;
      for (const { table, x, from, to } of tables) table.draw({ x, y: top }, from, to);
    });
    if (!notesFit) this.#startPage(count, count);
    notes.forEach((text, index) => {
      const y = (notesFit ? lastBottom + UNDER_TITLE : TOP) + (index + 1) * lineOf(plain.size);
      this.#writer.text(text, { x: MARGIN, y }, plain);
    });
  }

  /**
   * Portrait where it fits, else landscape; of the sizes of type that need the fewest parts of the columns, the first
   * that has every part on one page, or else the one that reads best.
   */
  #bestPlan(): Plan {
    const isPortrait = this.#fits(SHORT, TYPES[0]!);
    const partsOf = ({ size }: Type) => (isPortrait ? 1 : this.#parts(LONG, size).length);
    const fewest = Math.min(...TYPES.map(partsOf));
    const types = TYPES.filter((type) => partsOf(type) === fewest);
    // what is longer than a page at any size is not tried at each
    const tries = this.#statement.lines.length * lineOf(LEAST_SIZE) > LONG ? types.slice(0, 1) : types;
    for (const type of tries) {
      const plan = this.#planOf(type, isPortrait);
      if (plan.pages.length <= fewest) return plan;
    }
    return this.#planOf(types[0]!, isPortrait);
  }

  #fits(paper: number, { size }: Type): boolean {
    return this.#tableWidth(size) * this.#sides.length <= paper - 2 * MARGIN;
  }
  #tableWidth(size: number): number {
    return this.#measures.names(size) + this.#measures.columns(size).reduce((sum, { width }) => sum + width, 0);
  }
  #parts(paper: number, size: number): number[][] {
    return pageParts(this.#measures.columns(size), paper - 2 * MARGIN - this.#measures.names(size));
  }

  /** What each page shows: two sides next to each other, or one part of the columns with as many lines as fit. */
  #planOf({ size, pad }: Type, isPortrait: boolean): Plan {
    const { dto, lines } = this.#statement;
    const [width, bottom] = isPortrait ? [SHORT, LONG - MARGIN] : [LONG, SHORT - MARGIN];
    const plain: TextStyle = { font: 'sans', size, color: SOFT };
    const title = this.#titleLines(width, plain);
    const notes = dto.head.footnotes.flatMap((text) => wrapped(this.#writer, text, { ...plain, width: width - 2 * MARGIN }));
    const titleHeight = this.#titleHeight(title);
    const all = this.#measures.columns(size);
    const narrow = this.#measures.names(size);
    const tableOf = (part: readonly PdfColumn[], of: readonly ShownLine[], spare: number) => {
      const { columns, names } = widened(part, { names: narrow, spare });
      const isPart = part.length < all.length;
      return new PdfTable(this.#writer, this.#statement, { columns, names, lines: of, texts: this.#texts, size, pad, isPart });
    };
    const rowsOf = (table: PdfTable, taken: number) => {
      const next = bottom - TOP - table.headHeight;
      return pageRows(table.rowHeights, { first: next - taken, next, together: LAST_LINES });
    };
    const common = { title, notes, width, bottom, plain, isPortrait };
    const sideWidth = (width - 2 * MARGIN - SIDES_APART) / 2;
    const total = this.#tableWidth(size);
    if (this.#sides.length > 1 && total <= sideWidth) {
      const tables = this.#sides.map((side) => tableOf(all, side, sideWidth - total));
      const rows = tables.map((table) => rowsOf(table, titleHeight));
      const most = Math.max(...rows.map(({ length }) => length));
      const pages = Array.from({ length: most }, (_, page) =>
        tables.flatMap((table, side) => {
          const shown = rows[side]![page];
          return shown ? [{ table, x: MARGIN + side * (sideWidth + SIDES_APART), ...shown }] : [];
        }),
      );
      return { ...common, pages };
    }
    const room = width - 2 * MARGIN - narrow;
    const pages = this.#parts(width, size).flatMap((part, index) => {
      const columns = part.map((position) => all[position]!);
      const table = tableOf(columns, lines, room - columns.reduce((sum, column) => sum + column.width, 0));
      return rowsOf(table, index === 0 ? titleHeight : 0).map((shown) => [{ table, x: MARGIN, ...shown }]);
    });
    return { ...common, pages };
  }

  #startPage(page: number, pages: number): void {
    const { company, dto } = this.#statement;
    const { width, bottom, plain, isPortrait } = this.#plan;
    this.#writer.addPage(isPortrait);
    if (page > 1) {
      const [head] = wrapped(this.#writer, `${company}: ${dto.head.title}, ${dto.asOfWords}`, { ...plain, width: width - 2 * MARGIN });
      this.#writer.text(head!, { x: MARGIN, y: 22 + plain.size }, plain);
    }
    this.#writer.text(`Page ${page} of ${pages}`, { x: width - MARGIN, y: bottom + 12 + plain.size, align: 'right' }, plain);
  }

  /** The lines above the first table, each with its style and the room it takes. */
  #titleLines(paper: number, { size }: TextStyle): TitleLine[] {
    const { title, logo } = this.#statement;
    const width = paper - 2 * MARGIN - (logo ? LOGO.width + UNDER_TITLE : 0);
    return title.flatMap((text, index) => {
      const style: TextStyle =
        index === 0
          ? { font: 'sans', size: 10, color: SOFT }
          : index === 1
            ? { font: 'serifBold', size: 16, color: INK }
            : { font: 'sans', size, color: SOFT };
      const height = index === 0 ? 13 : index === 1 ? 24 : lineOf(size);
      return wrapped(this.#writer, text, { ...style, width }).map((line) => ({ text: line, style, height }));
    });
  }

  #titleHeight(lines: readonly { readonly height: number }[]): number {
    const words = lines.reduce((sum, { height }) => sum + height, 0);
    return Math.max(words, this.#statement.logo ? LOGO.height : 0) + UNDER_TITLE;
  }

  #drawTitle(lines: readonly TitleLine[], width: number): void {
    let y = TOP;
    for (const { text, style, height } of lines) {
      y += height;
      this.#writer.text(text, { x: MARGIN, y: y - height * 0.25 }, style);
    }
    const { logo } = this.#statement;
    if (logo) this.#writer.picture(Buffer.from(logo.base64, 'base64'), { x: width - MARGIN - LOGO.width, y: TOP, ...LOGO });
  }
}
