import { MARGIN, SHORT, SOFT } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import { ReportTable } from '../../ledger/files.ts';
import type { WholeReport } from '../../ledger/index.ts';
import type { PageFlow } from './page-flow.ts';

const PLAIN = { font: 'sans', size: 8, color: SOFT } as const;
const LINE = 11;
const LEAST_ROWS = 4;
const AFTER = 10;

/** Rows of a report within a section, their headings repeated on every page. */
export class ReportBlock {
  readonly #flow: PageFlow;
  readonly #report: WholeReport;
  readonly #table: ReportTable;

  constructor(flow: PageFlow, report: WholeReport) {
    this.#flow = flow;
    this.#report = report;
    this.#table = new ReportTable(flow.recorder, report);
  }

  get needsLandscape(): boolean {
    return this.#table.naturalWidth > SHORT - 2 * MARGIN;
  }

  draw(key: string): void {
    const flow = this.#flow;
    const { words, notes, rows } = this.#report;
    const said = [words.join('; '), ...notes.map(({ text }) => text)].filter((text) => text !== '');
    for (const text of said.flatMap((each) => wrapped(flow.recorder, each, { ...PLAIN, width: flow.room }))) {
      flow.recorder.tagged({ role: 'P' }, () => flow.recorder.text(text, { x: MARGIN, y: flow.y + PLAIN.size }, PLAIN));
      flow.y += LINE;
    }
    flow.y += 4;
    // no wider than it needs to be read well
    const width = Math.min(flow.room, this.#table.naturalWidth * 1.25);
    this.#table.fit(width);
    const least = rows.slice(0, LEAST_ROWS).reduce((sum, _, row) => sum + this.#table.heightOf(row), this.#table.headHeight);
    flow.ensure(least);
    const drawHead = (): void => {
      flow.recorder.tagged({ role: 'Table', key }, () => this.#table.drawHead({ x: MARGIN, y: flow.y }, width));
      flow.y += this.#table.headHeight;
    };
    drawHead();
    rows.forEach((_, row) => {
      const height = this.#table.heightOf(row);
      if (flow.left < height) {
        flow.newPage();
        drawHead();
      }
      flow.recorder.tagged({ role: 'Table', key }, () => this.#table.drawRow(row, { x: MARGIN, y: flow.y }));
      flow.y += height;
    });
    flow.y += AFTER;
  }
}
