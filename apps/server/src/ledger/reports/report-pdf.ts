import { isFigureColumn, reportCellText } from '@wise-margin/presentation';

import { baselineOf, INK, lineOf, LONG, MARGIN, SHORT, SOFT } from '../../formats/pdf-type.ts';
import { type PdfFont, PdfWriter, type TextStyle, wrapped } from '../../formats/pdf-writer.ts';
import type { WholeReport } from './report.ts';

const SIZE = 8;
const GAP = 8;
const MOST_TEXT = 150;
const LEAST_TEXT = 40;
// rows whose texts columns are measured by: a file of many pages is measured by its first
const MEASURED = 3000;
const THIN = 0.5;
const HEAD = { font: 'sansBold', size: SIZE, color: INK } as const satisfies TextStyle;
const PLAIN = { font: 'sans', size: SIZE, color: SOFT } as const satisfies TextStyle;

/** Rows of one page, as positions from and up to. */
type Page = { readonly from: number; readonly to: number };

/** A report as a PDF: headings on every page, page numbers, a page for each part where there are parts; landscape where it needs the width. */
export function reportPdf(report: WholeReport): Promise<Buffer> {
  const writer = new PdfWriter({ title: `${report.title}, ${report.words[0] ?? ''}`, author: report.company });
  new ReportPages(writer, report).draw();
  return writer.finish();
}

class ReportPages {
  readonly #writer: PdfWriter;
  readonly #report: WholeReport;
  readonly #texts: readonly (readonly string[])[];
  readonly #widths: readonly number[];
  readonly #isPortrait: boolean;
  readonly #width: number;
  readonly #bottom: number;
  readonly #headings: readonly (readonly string[])[];
  readonly #words: readonly string[];

  constructor(writer: PdfWriter, report: WholeReport) {
    this.#writer = writer;
    this.#report = report;
    this.#texts = report.rows.map(({ cells }) => report.columns.map((column, at) => reportCellText(cells[at]!, column, report)));
    const natural = report.columns.map((column, at) => this.#naturalWidth(at, isFigureColumn(column)));
    const needed = natural.reduce((sum, width) => sum + width + GAP, 0);
    this.#isPortrait = needed <= SHORT - 2 * MARGIN;
    this.#width = this.#isPortrait ? SHORT : LONG;
    this.#bottom = (this.#isPortrait ? LONG : SHORT) - MARGIN;
    this.#widths = this.#fitted(natural, this.#width - 2 * MARGIN - GAP * natural.length);
    this.#headings = report.columns.map(({ heading }, at) =>
      wrapped(writer, heading, { font: 'sansBold', size: SIZE, width: this.#widths[at]! }),
    );
    const notes = report.notes.map(({ text }) => text);
    this.#words = [...report.words, ...notes].flatMap((text) => wrapped(writer, text, { ...PLAIN, width: this.#width - 2 * MARGIN }));
  }

  draw(): void {
    const pages = this.#pages();
    pages.forEach(({ from, to }, index) => {
      this.#writer.addPage(this.#isPortrait);
      let y = this.#startPage(index, pages.length);
      for (let row = from; row < to; row += 1) {
        this.#drawRow(row, y);
        y += this.#heightOf(row);
      }
    });
  }

  /** At least one page; parts begin a page of their own. */
  #pages(): Page[] {
    const { rows, parts } = this.#report;
    const starts = new Set(parts?.map(({ from }) => from));
    const pages: Page[] = [];
    let from = 0;
    let left = this.#room(0);
    rows.forEach((_, row) => {
      const height = this.#heightOf(row);
      if (row > from && (height > left || starts.has(row))) {
        pages.push({ from, to: row });
        from = row;
        left = this.#room(1);
      }
      left -= height;
    });
    return [...pages, { from, to: rows.length }];
  }

  #room(page: number): number {
    return this.#bottom - this.#topOf(page) - this.#headHeight;
  }

  #topOf(page: number): number {
    return page === 0 ? MARGIN + 38 + this.#words.length * lineOf(SIZE) + 8 : MARGIN + 12;
  }

  get #headHeight(): number {
    return Math.max(...this.#headings.map(({ length }) => length)) * lineOf(SIZE) + 6;
  }

  #heightOf(row: number): number {
    const { kind } = this.#report.rows[row]!;
    return lineOf(SIZE) + (kind === 'section' ? 8 : kind === 'line' ? 1.5 : 5);
  }

  /** Title or running head, headings and page number. @returns where the rows begin */
  #startPage(page: number, count: number): number {
    const { company, title, words } = this.#report;
    const writer = this.#writer;
    if (page === 0) {
      writer.text(company, { x: MARGIN, y: MARGIN + 10 }, { font: 'sans', size: 10, color: SOFT });
      writer.text(title, { x: MARGIN, y: MARGIN + 30 }, { font: 'serifBold', size: 16, color: INK });
      this.#words.forEach((text, index) => writer.text(text, { x: MARGIN, y: MARGIN + 38 + (index + 1) * lineOf(SIZE) - 2 }, PLAIN));
    } else writer.text(`${company}: ${title}, ${words[0] ?? ''}`, { x: MARGIN, y: MARGIN }, PLAIN);
    writer.text(`Page ${page + 1} of ${count}`, { x: this.#width - MARGIN, y: this.#bottom + 16, align: 'right' }, PLAIN);
    const top = this.#topOf(page);
    const under = top + this.#headHeight - 4;
    this.#headings.forEach((lines, at) =>
      lines.forEach((text, index) => {
        const y = under - 3 - (lines.length - index) * lineOf(SIZE) + baselineOf(SIZE);
        this.#write(text, { at, y }, HEAD);
      }),
    );
    writer.line([MARGIN, under], [this.#width - MARGIN, under], { weight: THIN, color: INK });
    return top + this.#headHeight;
  }

  #drawRow(row: number, y: number): void {
    const { columns, rows } = this.#report;
    const { kind } = rows[row]!;
    const font: PdfFont = kind === 'line' ? 'sans' : 'sansBold';
    const style: TextStyle = { font, size: SIZE, color: INK };
    const baseline = y + baselineOf(SIZE) + (kind === 'section' ? 6 : kind === 'line' ? 0 : 2);
    this.#texts[row]!.forEach((text, at) => {
      if (text === '') return;
      const isFigure = isFigureColumn(columns[at]!);
      // a section's name has the whole line
      const shown = isFigure || kind === 'section' ? text : this.#cut(text, at, font);
      this.#write(shown, { at, y: baseline }, style);
      if (isFigure && (kind === 'subtotal' || kind === 'total')) this.#rule(at, y + 1, kind === 'total' ? y + lineOf(SIZE) + 3 : null);
    });
  }

  /** Above a sum, and twice below a total. */
  #rule(at: number, above: number, below: number | null): void {
    const { left, right } = this.#sides(at);
    const line = (y: number) => this.#writer.line([left, y], [right, y], { weight: THIN, color: INK });
    line(above);
    if (below === null) return;
    line(below);
    line(below + 1.5);
  }

  #write(text: string, { at, y }: { readonly at: number; readonly y: number }, style: TextStyle): void {
    const { left, right } = this.#sides(at);
    const isFigure = isFigureColumn(this.#report.columns[at]!);
    // a closing parenthesis hangs outside the column, so that digits line up
    const hang = isFigure && text.endsWith(')') ? this.#writer.widthOf(')', style) : 0;
    this.#writer.text(text, isFigure ? { x: right + hang, y, align: 'right' } : { x: left, y }, style);
  }

  #sides(at: number): { readonly left: number; readonly right: number } {
    const left = MARGIN + this.#widths.slice(0, at).reduce((sum, width) => sum + width + GAP, 0);
    return { left, right: left + this.#widths[at]! };
  }

  #naturalWidth(at: number, isFigure: boolean): number {
    const style = { font: 'sansBold', size: SIZE } as const;
    const heading = Math.max(...this.#report.columns[at]!.heading.split(' ').map((word) => this.#writer.widthOf(word, style)));
    let widest = heading;
    for (const [row, { kind }] of this.#report.rows.slice(0, MEASURED).entries())
      if (isFigure || kind !== 'section') widest = Math.max(widest, this.#writer.widthOf(this.#texts[row]![at]!, style));
    return isFigure ? widest : Math.min(MOST_TEXT, Math.max(widest, Math.min(LEAST_TEXT, heading)));
  }

  /** Widths that share a page: figures keep theirs, texts give way or take what is left. */
  #fitted(natural: readonly number[], room: number): number[] {
    const isFigure = this.#report.columns.map(isFigureColumn);
    const figures = natural.reduce((sum, width, at) => sum + (isFigure[at]! ? width : 0), 0);
    const texts = natural.reduce((sum, width, at) => sum + (isFigure[at]! ? 0 : width), 0);
    const share = texts === 0 ? 1 : Math.max(0.3, Math.min(1.5, (room - figures) / texts));
    return natural.map((width, at) => (isFigure[at]! ? width : width * share));
  }

  /** A text that fits its column, its end left out with an ellipsis where it does not. */
  #cut(text: string, at: number, font: PdfFont): string {
    const width = this.#widths[at]!;
    const style = { font, size: SIZE } as const;
    if (this.#writer.widthOf(text, style) <= width) return text;
    let end = text.length;
    while (end > 1 && this.#writer.widthOf(`${text.slice(0, end)}…`, style) > width) end -= 1;
    return `${text.slice(0, end).trimEnd()}…`;
  }
}
