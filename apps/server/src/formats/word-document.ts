import {
  Document,
  type FileChild,
  Footer,
  HeadingLevel,
  type ISectionOptions,
  Packer,
  PageNumber,
  PageOrientation,
  Paragraph,
  TabStopType,
  TextRun,
} from 'docx';

import { LONG, MARGIN, SHORT } from './pdf-type.ts';
import { twips } from './word-table.ts';

const HALF_POINTS = 2;
const FONT = 'Arial';

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
