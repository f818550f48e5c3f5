import { sidesOfForm } from '@wise-margin/presentation';

import { LONG, MARGIN, SHORT } from '../../formats/pdf-type.ts';
import { Figures, pageParts, pageRows, type PdfColumn, PdfMeasures, PdfTable, type Type, TYPES, widened } from '../../statements/files.ts';
import type { ExportedStatement } from '../../statements/index.ts';
import type { PageFlow } from './page-flow.ts';

// lines of the end of a statement that stay together
const LAST_LINES = 5;
// a table is not begun for fewer rows than this
const LEAST_ROWS = 6;
const AFTER = 10;
const SIDES_APART = 16;

/** A statement within a section: over pages and, where its columns need it, in parts with the line names repeated. */
export class StatementBlock {
  readonly #flow: PageFlow;
  readonly #statement: ExportedStatement;
  readonly #texts: Figures;
  readonly #measures: PdfMeasures;

  constructor(flow: PageFlow, statement: ExportedStatement) {
    this.#flow = flow;
    this.#statement = statement;
    this.#texts = new Figures(statement);
    this.#measures = new PdfMeasures(flow.recorder, statement, this.#texts);
  }

  /** Whether it is wider than an upright page in the type that reads best. */
  get needsLandscape(): boolean {
    return this.#width(TYPES[0]!) > SHORT - 2 * MARGIN;
  }

  draw(key: string): void {
    const sides = sidesOfForm(this.#statement.dto, this.#statement.lines);
    const type = this.#bestType();
    const half = (this.#flow.room - SIDES_APART) / 2;
    if (sides.length > 1 && this.#width(type) <= half) return this.#drawSides(sides, { type, half, key });
    const all = this.#measures.columns(type.size);
    const parts = pageParts(all, this.#flow.room - this.#measures.names(type.size));
    parts.forEach((part, index) => {
      const columns = part.map((position) => all[position]!);
      const table = this.#table(columns, { type, lines: this.#statement.lines, room: this.#flow.room, isPart: parts.length > 1 });
      this.#drawRows(table, { key: `${key}/${index}`, startsPage: index > 0 });
      this.#flow.y += AFTER;
    });
  }

  #width({ size }: Type): number {
    return this.#measures.names(size) + this.#measures.columns(size).reduce((sum, { width }) => sum + width, 0);
  }

  /** Of the sizes that need the fewest parts, the first in which all rows fit what is left of the page, else the one that reads best. */
  #bestType(): Type {
    const room = this.#flow.room;
    const partsOf = ({ size }: Type) => pageParts(this.#measures.columns(size), room - this.#measures.names(size)).length;
    const fewest = Math.min(...TYPES.map(partsOf));
    const types = TYPES.filter((type) => partsOf(type) === fewest);
    if (this.#statement.lines.length * TYPES.at(-1)!.size > LONG) return types[0]!;
    const whole = (type: Type): boolean => {
      const table = this.#table(this.#measures.columns(type.size), { type, lines: this.#statement.lines, room, isPart: false });
      return table.height(0, table.rowHeights.length) <= this.#flow.left;
    };
    return types.find(whole) ?? types[0]!;
  }

  #table(
    part: readonly PdfColumn[],
    {
      type,
      lines,
      room,
      isPart,
    }: { readonly type: Type; readonly lines: ExportedStatement['lines']; readonly room: number; readonly isPart: boolean },
  ): PdfTable {
    const narrow = this.#measures.names(type.size);
    const spare = room - narrow - part.reduce((sum, { width }) => sum + width, 0);
    const { columns, names } = widened(part, { names: narrow, spare });
    return new PdfTable(this.#flow.recorder, this.#statement, { columns, names, lines, texts: this.#texts, ...type, isPart });
  }

  #drawRows(table: PdfTable, { key, startsPage }: { readonly key: string; readonly startsPage: boolean }): void {
    const flow = this.#flow;
    const least = table.height(0, Math.min(LEAST_ROWS, table.rowHeights.length));
    if (startsPage && flow.left < table.height(0, table.rowHeights.length)) flow.newPage();
    else flow.ensure(least);
    const first = flow.left - table.headHeight;
    // a page that follows has the running head of its section
    const next = flow.bottom - MARGIN - 24 - table.headHeight;
    pageRows(table.rowHeights, { first, next, together: LAST_LINES }).forEach(({ from, to }, index) => {
      if (index > 0) flow.newPage();
      flow.recorder.tagged({ role: 'Table', key }, () => table.draw({ x: MARGIN, y: flow.y }, from, to));
      flow.y += table.height(from, to);
    });
  }

  /** Two sides next to each other, as account form has them. */
  #drawSides(
    sides: readonly ExportedStatement['lines'][],
    { type, half, key }: { readonly type: Type; readonly half: number; readonly key: string },
  ): void {
    const flow = this.#flow;
    const columns = this.#measures.columns(type.size);
    const tables = sides.map((lines) => this.#table(columns, { type, lines, room: half, isPart: false }));
    const next = flow.bottom - MARGIN - 24;
    const rows = tables.map((table) =>
      pageRows(table.rowHeights, { first: flow.left - table.headHeight, next: next - table.headHeight, together: LAST_LINES }),
    );
    const most = Math.max(...rows.map(({ length }) => length));
    for (let page = 0; page < most; page += 1) {
      if (page > 0) flow.newPage();
      let lowest = flow.y;
      tables.forEach((table, side) => {
        const shown = rows[side]![page];
        if (!shown) return;
        const at = { x: MARGIN + side * (half + SIDES_APART), y: flow.y };
        flow.recorder.tagged({ role: 'Table', key: `${key}/side${side}` }, () => table.draw(at, shown.from, shown.to));
        lowest = Math.max(lowest, flow.y + table.height(shown.from, shown.to));
      });
      flow.y = lowest;
    }
    flow.y += AFTER;
  }
}
