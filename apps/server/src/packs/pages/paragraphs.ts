import { INK, MARGIN, type PdfFont, SOFT, type TextStyle } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import type { TagRole } from '../../formats/surface.ts';
import type { ContentBlock, ParagraphStyle, TextRun } from '../content/content.ts';
import type { PageFlow } from './page-flow.ts';
import { fontFor } from './serif.ts';

type Paragraph = Extract<ContentBlock, { readonly kind: 'paragraph' }>;
type Typography = {
  readonly size: number;
  readonly line: number;
  readonly before: number;
  readonly after: number;
  readonly color: string;
  readonly role: TagRole;
};
const TYPOGRAPHY: Readonly<Record<ParagraphStyle, Typography>> = {
  body: { size: 10.5, line: 15, before: 0, after: 6, color: INK, role: 'P' },
  heading: { size: 13, line: 18, before: 8, after: 3, color: INK, role: 'H2' },
  subheading: { size: 11, line: 15, before: 6, after: 2, color: INK, role: 'H3' },
  item: { size: 10.5, line: 15, before: 0, after: 3, color: INK, role: 'P' },
  soft: { size: 9, line: 13, before: 0, after: 4, color: SOFT, role: 'P' },
};
const INDENT = 14;
// lines are easier to read when they are not as wide as a landscape page
const MOST_WIDTH = 560;
// a heading stays with this many lines after it
const KEPT = 3;

/** A word, or a part of one, in its font; `space` is drawn before it within a line. */
type Word = { readonly text: string; readonly font: PdfFont; readonly width: number; readonly space: number };

/** Draws a paragraph, over pages where it is longer than one. */
export function drawParagraph(flow: PageFlow, { style, runs, label, depth }: Paragraph): void {
  const typography = TYPOGRAPHY[style];
  const { size, line, before, after, color, role } = typography;
  const isHeading = role === 'H2' || role === 'H3';
  const indent = depth * INDENT;
  const width = Math.min(MOST_WIDTH, flow.room) - indent;
  const lines = linesOf(flow, { runs, typography, width, isBold: isHeading });
  flow.y += before;
  flow.ensure(line * (isHeading ? KEPT : Math.min(2, lines.length)));
  const key = `paragraph ${flow.pageCount} ${flow.y}`;
  const { recorder } = flow;
  lines.forEach((words, at) => {
    flow.ensure(line);
    const y = flow.y + size;
    recorder.tagged({ role, key }, () => {
      if (at === 0 && label !== '') {
        const style: TextStyle = { font: 'sans', size, color };
        recorder.text(label, { x: MARGIN + indent - 4, y, align: 'right' }, style);
      }
      let x = MARGIN + indent;
      words.forEach(({ text, font, width: wide, space }, index) => {
        if (index > 0) x += space;
        recorder.text(text, { x, y }, { font, size, color });
        x += wide;
      });
    });
    flow.y += line;
  });
  flow.y += after;
}

function linesOf(
  flow: PageFlow,
  {
    runs,
    typography,
    width,
    isBold,
  }: { readonly runs: readonly TextRun[]; readonly typography: Typography; readonly width: number; readonly isBold: boolean },
): Word[][] {
  const { size } = typography;
  const lines: Word[][] = [[]];
  let used = 0;
  const start = (): void => {
    lines.push([]);
    used = 0;
  };
  for (const { text, bold, italic } of runs) {
    const serif: PdfFont = bold || isBold ? (italic ? 'serifBoldItalic' : 'serifBold') : italic ? 'serifItalic' : 'serif';
    const font = fontFor(text, serif);
    const style = { font, size };
    const blank = flow.recorder.widthOf(' ', style);
    for (const [at, row] of text.split('\n').entries()) {
      if (at > 0) start();
      for (const [index, typed] of row.split(' ').entries())
        // a word wider than the page is broken where it must be
        for (const [part, piece] of wrapped(flow.recorder, typed, { ...style, width }).entries()) {
          const wide = flow.recorder.widthOf(piece, style);
          const space = index > 0 ? blank : 0;
          if (part > 0 || (used > 0 && used + space + wide > width)) start();
          lines.at(-1)!.push({ text: piece, font, width: wide, space: used > 0 ? space : 0 });
          used += (used > 0 ? space : 0) + wide;
        }
    }
  }
  return lines;
}
