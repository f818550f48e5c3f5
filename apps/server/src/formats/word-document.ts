import {
  AlignmentType,
  BorderStyle,
  Document,
  type FileChild,
  Footer,
  HeadingLevel,
  type IBorderOptions,
  type ISectionOptions,
  Packer,
  PageNumber,
  PageOrientation,
  Paragraph,
  TableCell,
  TabStopType,
  TextRun,
  VerticalAlign,
} from 'docx';

import { LONG, MARGIN, SHORT } from './pdf-type.ts';

const TWIPS = 20;
const HALF_POINTS = 2;
const FONT = 'Arial';
const NO_BORDER: IBorderOptions = { style: BorderStyle.NONE, size: 0, color: 'auto' };

/** Points as a word-processor document counts them. */
export const twips = (points: number): number => Math.round(points * TWIPS);
/** The room between the margins of a page, in points. */
export const roomOf = (isPortrait: boolean): number => (isPortrait ? SHORT : LONG) - 2 * MARGIN;

/** Pages of one orientation with what is on them. */
export type WordSection = { readonly isPortrait: boolean; readonly children: readonly FileChild[] };

/** A word-processor document with native headings and page numbers. @param foot what stands at the foot of every page */
export function wordDocument(
  sections: readonly WordSection[],
  { title, author, foot }: { readonly title: string; readonly author: string; readonly foot: string },
): Promise<Buffer> {
  const document = new Document({
    title,
    creator: author,
    styles: {
      default: {
        document: { run: { font: FONT, size: 10.5 * HALF_POINTS } },
        heading1: {
          run: { font: 'Georgia', size: 16 * HALF_POINTS, bold: true, color: '1E2833' },
          paragraph: { spacing: { before: 240, after: 40 } },
        },
        heading2: {
          run: { font: 'Georgia', size: 13 * HALF_POINTS, bold: true, color: '1E2833' },
          paragraph: { spacing: { before: 160, after: 40 } },
        },
        heading3: {
          run: { font: 'Georgia', size: 11 * HALF_POINTS, bold: true, color: '1E2833' },
          paragraph: { spacing: { before: 120, after: 20 } },
        },
      },
    },
    sections: sections.map(({ isPortrait, children }): ISectionOptions => ({
      properties: {
        page: {
          // the library takes the sides of an upright page and turns them itself
          size: {
            orientation: isPortrait ? PageOrientation.PORTRAIT : PageOrientation.LANDSCAPE,
            width: twips(SHORT),
            height: twips(LONG),
          },
          margin: { top: twips(MARGIN), bottom: twips(MARGIN), left: twips(MARGIN), right: twips(MARGIN) },
        },
      },
      footers: { default: new Footer({ children: [footParagraph(foot, roomOf(isPortrait))] }) },
      children: [...children],
    })),
  });
  return Packer.toBuffer(document);
}

const footParagraph = (foot: string, room: number): Paragraph =>
  new Paragraph({
    tabStops: [{ type: TabStopType.RIGHT, position: twips(room) }],
    children: [
      new TextRun({ text: foot, size: 8 * HALF_POINTS, color: '5E5A50' }),
      new TextRun({
        children: ['\t', 'Page ', PageNumber.CURRENT, ' of ', PageNumber.TOTAL_PAGES],
        size: 8 * HALF_POINTS,
        color: '5E5A50',
      }),
    ],
  });

/** A heading of level 1 to 3. */
export const heading = (text: string, level: 1 | 2 | 3, options: { readonly startsPage?: boolean } = {}): Paragraph =>
  new Paragraph({
    text,
    heading: [HeadingLevel.HEADING_1, HeadingLevel.HEADING_2, HeadingLevel.HEADING_3][level - 1]!,
    keepNext: true,
    pageBreakBefore: options.startsPage ?? false,
  });

/** A line of small, soft type. */
export const softParagraph = (
  text: string,
  options: { readonly italic?: boolean; readonly color?: string; readonly keepNext?: boolean } = {},
): Paragraph =>
  new Paragraph({
    spacing: { after: 40 },
    keepNext: options.keepNext ?? false,
    children: [new TextRun({ text, size: 8.5 * HALF_POINTS, color: options.color ?? '5E5A50', italics: options.italic ?? false })],
  });

export type WordCell = {
  readonly text: string;
  readonly isRight?: boolean;
  readonly bold?: boolean;
  readonly italic?: boolean;
  readonly color?: string;
  readonly span?: number;
  readonly indent?: number;
  /** rules above and below */
  readonly above?: boolean;
  readonly below?: 'single' | 'double';
  /** of the type, in points */
  readonly size: number;
  /** in points */
  readonly width: number;
};

const rule = (style: 'single' | 'double'): IBorderOptions => ({
  style: style === 'single' ? BorderStyle.SINGLE : BorderStyle.DOUBLE,
  size: 4,
  color: '1E2833',
});

/** A cell of a table without lines of its own but its accounting rules. */
export function wordCell({
  text,
  isRight = false,
  bold = false,
  italic = false,
  color = '1E2833',
  span,
  indent = 0,
  above,
  below,
  size,
  width,
}: WordCell): TableCell {
  return new TableCell({
    ...(span === undefined ? {} : { columnSpan: span }),
    width: { size: twips(width), type: 'dxa' },
    verticalAlign: VerticalAlign.BOTTOM,
    margins: { top: 10, bottom: 10, left: 40, right: 40 },
    borders: { left: NO_BORDER, right: NO_BORDER, top: above ? rule('single') : NO_BORDER, bottom: below ? rule(below) : NO_BORDER },
    children: [
      new Paragraph({
        alignment: isRight ? AlignmentType.RIGHT : AlignmentType.LEFT,
        indent: { left: twips(indent) },
        spacing: { before: 0, after: 0 },
        children: [new TextRun({ text, size: size * HALF_POINTS, bold, italics: italic, color })],
      }),
    ],
  });
}
