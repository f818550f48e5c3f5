import { isFigureColumn, reportCellText } from '@wise-margin/presentation';

import { baselineOf, INK, lineOf, type PdfFont, type TextStyle } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import type { Surface } from '../../formats/surface.ts';
import type { WholeReport } from './report.ts';

const SIZE = 8;
const GAP = 8;
const MOST_TEXT = 150;
const LEAST_TEXT = 40;
const SHORT_HEADING = 44;
// rows whose texts columns are measured by: a file of many pages is measured by its first
const MEASURED = 3000;
const THIN = 0.5;
const HEAD = { font: 'sansBold', size: SIZE, color: INK } as const satisfies TextStyle;
type Place = { readonly x: number; readonly y: number };

/** The rows of a report as a table: measured first, then drawn where there is room. */
export class ReportTable {
  readonly #surface: Surface;
  readonly #report: WholeReport;
  readonly #texts: readonly (readonly string[])[];
  readonly #natural: readonly number[];
  #widths: readonly number[] = [];
  #headings: readonly (readonly string[])[] = [];

  constructor(surface: Surface, report: WholeReport) {
    this.#surface = surface;
    this.#report = report;
    this.#texts = report.rows.map(({ cells }) => report.columns.map((column, at) => reportCellText(cells[at]!, column, report)));
    this.#natural = report.columns.map((column, at) => this.#naturalWidth(at, isFigureColumn(column)));
  }

  /** The width each column takes best, in points. */
  get naturalWidths(): readonly number[] {
    return this.#natural;
  }

  /** The width it takes best, in points. */
  get naturalWidth(): number {
    return this.#natural.reduce((sum, width) => sum + width + GAP, 0);
  }

  /** Sets the width the table is drawn in: figures keep theirs, texts give way or take what is left. */
  fit(width: number): void {
    this.#widths = this.#fitted(width - GAP * this.#natural.length);
    this.#headings = this.#report.columns.map(({ heading }, at) =>
      wrapped(this.#surface, heading, { font: 'sansBold', size: SIZE, width: this.#widths[at]! }),
    );
  }

  /** The height of the headings, which every page repeats. */
  get headHeight(): number {
    return Math.max(...this.#headings.map(({ length }) => length)) * lineOf(SIZE) + 6;
  }

  heightOf(row: number): number {
    const { kind } = this.#report.rows[row]!;
    return lineOf(SIZE) + (kind === 'section' ? 8 : kind === 'line' ? 1.5 : 5);
  }

  /** Draws the headings with their rule, as wide as the table. */
  drawHead({ x, y }: Place, width: number): void {
    const under = y + this.headHeight - 4;
    this.#surface.tagged({ role: 'TR' }, () =>
      this.#headings.forEach((lines, at) =>
        this.#surface.tagged({ role: 'TH', scope: 'Column' }, () =>
          lines.forEach((text, index) => {
            const baseline = under - 3 - (lines.length - index) * lineOf(SIZE) + baselineOf(SIZE);
            this.#write(text, { at, x, y: baseline }, HEAD);
          }),
        ),
      ),
    );
    this.#surface.line([x, under], [x + width, under], { weight: THIN, color: INK });
  }

  drawRow(row: number, { x, y }: Place): void {
    const { columns, rows } = this.#report;
    const { kind } = rows[row]!;
    const font: PdfFont = kind === 'line' ? 'sans' : 'sansBold';
    const style: TextStyle = { font, size: SIZE, color: INK };
    const baseline = y + baselineOf(SIZE) + (kind === 'section' ? 6 : kind === 'line' ? 0 : 2);
    this.#surface.tagged({ role: 'TR' }, () =>
      this.#texts[row]!.forEach((text, at) =>
        this.#surface.tagged(at === 0 ? { role: 'TH', scope: 'Row' } : { role: 'TD' }, () => {
          if (text === '') return;
          const isFigure = isFigureColumn(columns[at]!);
          // a section's name has the whole line
          const shown = isFigure || kind === 'section' ? text : this.#cut(text, at, font);
          this.#write(shown, { at, x, y: baseline }, style);
          if (isFigure && (kind === 'subtotal' || kind === 'total'))
            this.#rule(at, { x, above: y + 1, below: kind === 'total' ? y + lineOf(SIZE) + 3 : null });
        }),
      ),
    );
  }

  /** Above a sum, and twice below a total. */
  #rule(at: number, { x, above, below }: { readonly x: number; readonly above: number; readonly below: number | null }): void {
    const { left, right } = this.#sides(at, x);
    const line = (y: number) => this.#surface.line([left, y], [right, y], { weight: THIN, color: INK });
    line(above);
    if (below === null) return;
    line(below);
    line(below + 1.5);
  }

  #write(text: string, { at, x, y }: Place & { readonly at: number }, style: TextStyle): void {
    const { left, right } = this.#sides(at, x);
    const isFigure = isFigureColumn(this.#report.columns[at]!);
    // a closing parenthesis hangs outside the column, so that digits line up
    const hang = isFigure && text.endsWith(')') ? this.#surface.widthOf(')', style) : 0;
    this.#surface.text(text, isFigure ? { x: right + hang, y, align: 'right' } : { x: left, y }, style);
  }

  #sides(at: number, x: number): { readonly left: number; readonly right: number } {
    const left = x + this.#widths.slice(0, at).reduce((sum, width) => sum + width + GAP, 0);
    return { left, right: left + this.#widths[at]! };
  }

  #naturalWidth(at: number, isFigure: boolean): number {
    const style = { font: 'sansBold', size: SIZE } as const;
    const { heading: words } = this.#report.columns[at]!;
    const heading = Math.max(...words.split(' ').map((word) => this.#surface.widthOf(word, style)));
    // a short heading such as `31 to 60` stays on one line, even over dashes
    let widest = Math.max(heading, isFigure ? Math.min(SHORT_HEADING, this.#surface.widthOf(words, style)) : 0);
    for (const [row, { kind }] of this.#report.rows.slice(0, MEASURED).entries())
      if (isFigure || kind !== 'section') widest = Math.max(widest, this.#surface.widthOf(this.#texts[row]![at]!, style));
    return isFigure ? widest : Math.min(MOST_TEXT, Math.max(widest, Math.min(LEAST_TEXT, heading)));
  }

  /** Widths that share a page. */
  #fitted(room: number): number[] {
    const isFigure = this.#report.columns.map(isFigureColumn);
    const figures = this.#natural.reduce((sum, width, at) => sum + (isFigure[at]! ? width : 0), 0);
    const texts = this.#natural.reduce((sum, width, at) => sum + (isFigure[at]! ? 0 : width), 0);
    const share = texts === 0 ? 1 : Math.max(0.3, Math.min(1.5, (room - figures) / texts));
    return this.#natural.map((width, at) => (isFigure[at]! ? width : width * share));
  }

  /** A text that fits its column, its end left out with an ellipsis where it does not. */
  #cut(text: string, at: number, font: PdfFont): string {
    const width = this.#widths[at]!;
    const style = { font, size: SIZE } as const;
    if (this.#surface.widthOf(text, style) <= width) return text;
    let end = text.length;
    while (end > 1 && this.#surface.widthOf(`${text.slice(0, end)}…`, style) > width) end -= 1;
    return `${text.slice(0, end).trimEnd()}…`;
  }
}
