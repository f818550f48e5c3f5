import { type GridDto } from '@wise-margin/contract';
import type { RuleWeight } from '@wise-margin/core';
import { cellReasonWords, shownFavor, type ShownLine } from '@wise-margin/presentation';

import { baselineOf, BRICK, INK, lineOf, PINE, SOFT, STONE } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import type { Surface } from '../../formats/surface.ts';
import type { ExportedStatement } from './exported-statement.ts';
import {
  type Figures,
  fontOf,
  HANG,
  INDENT,
  LEAST_SIZE,
  MARK,
  nameOf,
  PADDING,
  type PdfColumn,
  SECTION_GAP,
  SWATCH,
  SWATCH_GAP,
} from './pdf-layout.ts';

// a name keeps at least this much, however deep its line is
const LEAST_NAME = 40;
const HEAD_RULE = 0.7;
const THIN = 0.5;
const UNDER_BLOCK = 3;
const UNDER_HEAD = 2;
const DOUBLE = 1.5;
type Place = { readonly x: number; readonly y: number };
type Options = {
  readonly columns: readonly PdfColumn[];
  /** width of the line names */
  readonly names: number;
  readonly lines: readonly ShownLine[];
  readonly texts: Figures;
  readonly size: number;
  readonly pad: number;
  /** whether other parts of the columns are on other pages */
  readonly isPart: boolean;
};

/** A part of a statement's columns beside the names of its lines: measured first, then drawn page by page. */
export class PdfTable {
  readonly #writer: Surface;
  readonly #dto: GridDto;
  readonly #options: Options;
  readonly #nameLines: readonly (readonly string[])[];
  readonly #headings: readonly (readonly string[])[];
  readonly #blocks: readonly { readonly left: number; readonly right: number; readonly lines: readonly string[] }[];
  /** the right end of each column's figures, from the left of the table */
  readonly #rights: readonly number[];
  /** of every row, in order */
  readonly rowHeights: readonly number[];

  constructor(writer: Surface, { dto }: ExportedStatement, options: Options) {
    const { columns, names, lines, size, pad } = options;
    this.#writer = writer;
    this.#dto = dto;
    this.#options = options;
    this.#nameLines = lines.map(({ line }) =>
      wrapped(writer, nameOf(line), { font: fontOf(line), size, width: names - 2 * PADDING - indentOf(line, names) }),
    );
    this.rowHeights = lines.map(
      ({ line }, row) => this.#nameLines[row]!.length * lineOf(size) + 2 * pad + (line.kind === 'section' ? SECTION_GAP : 0),
    );
    let x = names;
    this.#rights = columns.map(({ figures, hasMark, gap }, index) => {
      x += (index > 0 ? gap : 0) + PADDING + figures;
      const right = x;
      x += PADDING + (hasMark ? MARK : 0);
      return right;
    });
    this.#headings = columns.map(({ position, figures }) => {
      const { heading, scenario } = dto.columns[position]!;
      return wrapped(writer, heading, { font: 'sansBold', size, width: figures - (scenario === null ? 0 : SWATCH + SWATCH_GAP) });
    });
    const blocks = [...new Set(columns.map(({ block }) => block))];
    this.#blocks = blocks.map((block) => {
      const own = columns.flatMap((column, index) => (column.block === block ? [index] : []));
      const [first, last] = [own[0]!, own.at(-1)!];
      const left = this.#rights[first]! - columns[first]!.figures;
      const right = this.#rights[last]! + (columns[last]!.hasMark ? MARK : 0);
      return {
        left,
        right,
        lines: wrapped(writer, dto.blocks[block]!.heading, { font: 'serifBold', size: size + 1, width: right - left }),
      };
    });
  }

  get #blockLines(): number {
    return Math.max(1, ...this.#blocks.map(({ lines }) => lines.length));
  }

  /** The height of the headings, which every page repeats. */
  get headHeight(): number {
    const { size } = this.#options;
    const columnLines = Math.max(1, ...this.#headings.map(({ length }) => length));
    return this.#blockLines * lineOf(size + 1) + UNDER_BLOCK + columnLines * lineOf(size) + 2 * UNDER_HEAD;
  }

  /** The height of some of its rows with the headings above them. */
  height(from: number, to: number): number {
    return this.headHeight + this.rowHeights.slice(from, to).reduce((sum, each) => sum + each, 0);
  }

  draw(at: Place, from: number, to: number): void {
    this.#drawHead(at);
    let y = at.y + this.headHeight;
    for (let row = from; row < to; row += 1) {
      this.#writer.tagged({ role: 'TR' }, () => this.#drawRow(row, { x: at.x, y }));
      y += this.rowHeights[row]!;
    }
  }

  #drawHead({ x, y }: Place): void {
    const { columns, size, isPart } = this.#options;
    const writer = this.#writer;
    const under = y + this.#blockLines * lineOf(size + 1) + 1;
    const block = { font: 'serifBold', size: size + 1, color: INK } as const;
    const top = under + UNDER_BLOCK;
    writer.tagged({ role: 'TR' }, () => {
      writer.tagged({ role: 'TH', scope: 'Column' }, () => undefined);
      for (const { left, right, lines } of this.#blocks)
        writer.tagged({ role: 'TH', scope: 'Column' }, () => {
          // beside a heading of several lines the others keep to the lowest, so that the rules are level
          lines.forEach((text, index) => {
            const above = under - 1 - (lines.length - index) * lineOf(size + 1);
            writer.text(text, { x: x + (left + right) / 2, y: above + baselineOf(size + 1), align: 'center' }, block);
          });
          writer.line([x + left, under], [x + right, under], { weight: THIN, color: SOFT });
        });
    });
    writer.tagged({ role: 'TR' }, () => {
      writer.tagged({ role: 'TH', scope: 'Column' }, () => {
        if (!isPart) return;
        const words = `Columns ${columns[0]!.position + 1} to ${columns.at(-1)!.position + 1} of ${this.#dto.columns.length}`;
        writer.text(words, { x: x + PADDING, y: top + baselineOf(size) }, { font: 'sans', size, color: SOFT });
      });
      columns.forEach((_, index) => writer.tagged({ role: 'TH', scope: 'Column' }, () => this.#drawHeading(index, { x, y: top })));
    });
    const end = y + this.headHeight - UNDER_HEAD;
    const last = columns.length - 1;
    const right = last < 0 ? this.#options.names : this.#rights[last]! + PADDING + (columns[last]!.hasMark ? MARK : 0);
    writer.line([x, end], [x + right, end], { weight: HEAD_RULE, color: INK });
  }

  #drawHeading(index: number, { x, y }: Place): void {
    const { columns, size } = this.#options;
    const { kind, scenario } = this.#dto.columns[columns[index]!.position]!;
    const isSoft = kind === 'share' || kind === 'percentDifference';
    const style = { font: isSoft ? 'sans' : 'sansBold', size, color: isSoft ? SOFT : INK } as const;
    const right = x + this.#rights[index]!;
    const lines = this.#headings[index]!;
    lines.forEach((text, line) =>
      this.#writer.text(text, { x: right, y: y + line * lineOf(size) + baselineOf(size), align: 'right' }, style),
    );
    if (scenario)
      this.#drawSwatch(scenario, { x: right - this.#writer.widthOf(lines[0]!, style) - SWATCH - SWATCH_GAP, y: y + size * 0.35 });
  }

  /** The mark of a scenario: actual solid, prior grey, budget outlined, projection hatched. */
  #drawSwatch(scenario: NonNullable<GridDto['columns'][number]['scenario']>, { x, y }: Place): void {
    const fill = scenario === 'actual' ? INK : scenario === 'prior' ? STONE : null;
    this.#writer.rect({ x, y, width: SWATCH, height: SWATCH }, { fill, stroke: scenario === 'prior' ? STONE : INK, weight: 0.6 });
    if (scenario !== 'projection') return;
    const hatch = { weight: THIN, color: INK };
    for (const step of [2, 4, SWATCH]) this.#writer.line([x, y + step], [x + step, y], hatch);
    for (const step of [2, 4]) this.#writer.line([x + step, y + SWATCH], [x + SWATCH, y + step], hatch);
  }

  #drawRow(row: number, { x, y }: Place): void {
    const { columns, lines, names, size, pad } = this.#options;
    const { line } = lines[row]!;
    const top = y + pad + (line.kind === 'section' ? SECTION_GAP : 0);
    const left = x + PADDING + indentOf(line, names);
    const font = fontOf(line);
    const baseline = top + baselineOf(size);
    this.#writer.tagged({ role: 'TH', scope: 'Row' }, () =>
      this.#nameLines[row]!.forEach((text, index) => {
        const at = { x: left, y: baseline + index * lineOf(size) };
        const account = index === 0 && line.account ? `${line.account}  ` : '';
        if (account !== '' && text.startsWith(account)) {
          this.#writer.text(account, at, { font, size, color: SOFT });
          const rest = left + this.#writer.widthOf(account, { font, size });
          this.#writer.text(text.slice(account.length), { ...at, x: rest }, { font, size, color: INK });
        } else this.#writer.text(text, at, { font, size, color: INK });
      }),
    );
    columns.forEach((_, index) => this.#writer.tagged({ role: 'TD' }, () => this.#drawFigure(row, index, { x, y: baseline })));
  }

  /** A figure at the right of its column, its closing parenthesis outside, with its own rules and its mark. */
  #drawFigure(row: number, index: number, { x, y }: Place): void {
    const { columns, lines, texts, size } = this.#options;
    const { position, ruled } = columns[index]!;
    const { line, index: at } = lines[row]!;
    const cell = this.#dto.cells[at]![position]!;
    const text = texts.text(lines[row]!, position);
    if (text === '') return;
    const isRed = this.#dto.display.negatives === 'red' && (text.startsWith('(') || text.startsWith('−'));
    const color = isRed ? BRICK : cell.kind === 'notMeaningful' ? SOFT : INK;
    const right = x + this.#rights[index]!;
    this.#writer.text(text, { x: right - (text.endsWith(')') ? 0 : HANG * size), y, align: 'right' }, { font: fontOf(line), size, color });
    const favor = shownFavor(cell, text);
    if (favor) this.#writer.text(favor, { x: right + PADDING, y }, { font: 'sans', size: LEAST_SIZE, color: favor === 'F' ? PINE : BRICK });
    if (line.rule === null || cellReasonWords(cell) !== '') return;
    const rule = (weight: RuleWeight | undefined, at: number, step: number) => {
      if (weight === undefined) return;
      for (const each of weight === 'single' ? [at] : [at, at + step])
        this.#writer.line([right - ruled, each], [right, each], { weight: THIN, color: INK });
    };
    rule(line.rule.above, y - baselineOf(size) + 0.5, -DOUBLE);
    rule(line.rule.below, y + lineOf(size) - baselineOf(size) - 0.5, DOUBLE);
  }
}

const indentOf = ({ depth }: ShownLine['line'], names: number): number => Math.min(depth * INDENT, names - 2 * PADDING - LEAST_NAME);
