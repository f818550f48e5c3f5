import { FileChild, type IXmlableObject } from 'docx';

const TWIPS = 20;
const HALF_POINTS = 2;
const INK = '1E2833';
const MARGINS = { top: 10, left: 40, bottom: 10, right: 40 };
const SIDES = ['top', 'left', 'bottom', 'right'] as const;

export type WordCell = {
  readonly text: string;
  readonly isRight?: boolean;
  readonly bold?: boolean;
  readonly italic?: boolean;
  readonly color?: string;
  readonly span?: number;
  /** in points */
  readonly indent?: number;
  /** rules above and below */
  readonly above?: boolean;
  readonly below?: 'single' | 'double';
};
export type WordRow = { readonly isHead?: boolean; readonly cells: readonly WordCell[] };
export type WordTableShape = {
  /** of the columns, in points */
  readonly widths: readonly number[];
  /** of the type, in points */
  readonly size: number;
  readonly rows: readonly WordRow[];
};

/** Points as a word-processor document counts them. */
export const twips = (points: number): number => Math.round(points * TWIPS);

/**
 * A table without lines of its own but the accounting rules of its cells; heading rows repeat on every page. It is written as the
 * elements of the standard (ECMA-376, 17.4), at once: a component of the library for every property of every cell took more
 * than half of a pack's document.
 */
export class WordTable extends FileChild {
  readonly #shape: WordTableShape;

  constructor(shape: WordTableShape) {
    super('w:tbl');
    this.#shape = shape;
  }

  /** The table as elements, in the order the standard has them. */
  override prepForXml(): IXmlableObject {
    const { widths, rows } = this.#shape;
    const columns = widths.map(twips);
    const whole = columns.reduce((sum, width) => sum + width, 0);
    return {
      'w:tbl': [
        {
          'w:tblPr': [
            element('tblW', { type: 'dxa', w: whole }),
            { 'w:tblBorders': [...SIDES, 'insideH', 'insideV'].map((side) => element(side, { val: 'none', color: 'auto', sz: 0 })) },
            element('tblLayout', { type: 'fixed' }),
            { 'w:tblCellMar': SIDES.map((side) => element(side, { w: MARGINS[side], type: 'dxa' })) },
          ],
        },
        { 'w:tblGrid': columns.map((w) => element('gridCol', { w })) },
        ...rows.map((row) => this.#row(row, columns)),
      ],
    };
  }

  #row({ isHead = false, cells }: WordRow, columns: readonly number[]): IXmlableObject {
    let at = 0;
    const written = cells.map((cell) => {
      const from = at;
      at += cell.span ?? 1;
      return this.#cell(
        cell,
        columns.slice(from, at).reduce((sum, width) => sum + width, 0),
      );
    });
    return { 'w:tr': [{ 'w:trPr': [element('cantSplit'), ...(isHead ? [element('tblHeader')] : [])] }, ...written] };
  }

  #cell({ text, isRight, bold, italic, color = INK, span, indent = 0, above, below }: WordCell, width: number): IXmlableObject {
    const size = this.#shape.size * HALF_POINTS;
    const rules = [...(above ? [rule('top', 'single')] : []), ...(below ? [rule('bottom', below)] : [])];
    return {
      'w:tc': [
        {
          'w:tcPr': [
            element('tcW', { w: width, type: 'dxa' }),
            ...(span === undefined ? [] : [element('gridSpan', { val: span })]),
            ...(rules.length === 0 ? [] : [{ 'w:tcBorders': rules }]),
            element('vAlign', { val: 'bottom' }),
          ],
        },
        {
          'w:p': [
            {
              'w:pPr': [
                element('spacing', { before: 0, after: 0 }),
                ...(indent === 0 ? [] : [element('ind', { left: twips(indent) })]),
                ...(isRight ? [element('jc', { val: 'right' })] : []),
              ],
            },
            {
              'w:r': [
                {
                  'w:rPr': [
                    ...(bold ? [element('b'), element('bCs')] : []),
                    ...(italic ? [element('i'), element('iCs')] : []),
                    element('color', { val: color }),
                    element('sz', { val: size }),
                    element('szCs', { val: size }),
                  ],
                },
                { 'w:t': [{ _attr: { 'xml:space': 'preserve' } }, text] },
              ],
            },
          ],
        },
      ],
    };
  }
}

const element = (name: string, attributes: Readonly<Record<string, string | number>> = {}): IXmlableObject => ({
  [`w:${name}`]: { _attr: Object.fromEntries(Object.entries(attributes).map(([key, value]) => [`w:${key}`, value])) },
});
const rule = (side: 'top' | 'bottom', style: 'single' | 'double'): IXmlableObject => element(side, { val: style, color: INK, sz: 4 });
