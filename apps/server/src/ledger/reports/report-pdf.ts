import { INK, lineOf, LONG, MARGIN, SHORT, SOFT, type TextStyle } from '../../formats/pdf-type.ts';
import { PdfWriter, wrapped } from '../../formats/pdf-writer.ts';
import type { WholeReport } from './report.ts';
import { ReportTable } from './report-table.ts';

const SIZE = 8;
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
  readonly #table: ReportTable;
  readonly #isPortrait: boolean;
  readonly #width: number;
  readonly #bottom: number;
  readonly #words: readonly string[];

  constructor(writer: PdfWriter, report: WholeReport) {
    this.#writer = writer;
    this.#report = report;
    this.#table = new ReportTable(writer, report);
    this.#isPortrait = this.#table.naturalWidth <= SHORT - 2 * MARGIN;
    this.#width = this.#isPortrait ? SHORT : LONG;
    this.#bottom = (this.#isPortrait ? LONG : SHORT) - MARGIN;
    this.#table.fit(this.#width - 2 * MARGIN);
    const notes = report.notes.map(({ text }) => text);
    this.#words = [...report.words, ...notes].flatMap((text) => wrapped(writer, text, { ...PLAIN, width: this.#width - 2 * MARGIN }));
  }

  draw(): void {
    const pages = this.#pages();
    pages.forEach(({ from, to }, index) => {
      this.#writer.addPage(this.#isPortrait);
      let y = this.#startPage(index, pages.length);
      for (let row = from; row < to; row += 1) {
        this.#table.drawRow(row, { x: MARGIN, y });
        y += this.#table.heightOf(row);
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
      const height = this.#table.heightOf(row);
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
    return this.#bottom - this.#topOf(page) - this.#table.headHeight;
  }

  #topOf(page: number): number {
    return page === 0 ? MARGIN + 38 + this.#words.length * lineOf(SIZE) + 8 : MARGIN + 12;
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
    this.#table.drawHead({ x: MARGIN, y: top }, this.#width - 2 * MARGIN);
    return top + this.#table.headHeight;
  }
}
