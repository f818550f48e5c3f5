import { isFigureColumn, reportCellText } from '@wise-margin/presentation';
import { Bookmark, type FileChild, ImageRun, InternalHyperlink, PageReference, Paragraph, TabStopType, TextRun } from 'docx';

import { textWidth } from '../../formats/font-metrics.ts';
import type { Surface } from '../../formats/surface.ts';
import { svgPicture } from '../../formats/svg-picture.ts';
import { heading, roomOf, softParagraph, wordDocument, type WordSection } from '../../formats/word-document.ts';
import { twips, type WordRow, WordTable } from '../../formats/word-table.ts';
import { ReportTable } from '../../ledger/files.ts';
import type { WholeReport } from '../../ledger/index.ts';
import { fitsUpright, statementTables } from '../../statements/files.ts';
import type { ContentBlock, FilledSection, PackContent } from '../content/content.ts';
import { chartDrawings } from './chart-drawings.ts';
import { titleOf } from './pack-pdf.ts';

/** Measures only: nothing is drawn. */
const nothing = (): void => undefined;
const MEASURING: Surface = { widthOf: textWidth, text: nothing, line: nothing, rect: nothing, tagged: (_, draw) => draw() };
const SIZE = 8;
const HALF_POINTS = 2;
const COPPER = '97491B';
// pictures are in points, the library counts pixels
const PIXELS_PER_POINT = 96 / 72;
const REPORT_SPARE = 1.3;

/** A pack as a word-processor document: native headings and page numbers, real tables, charts as pictures with their words. */
export async function packDocument(content: PackContent): Promise<Buffer> {
  const sections = content.sections.filter(({ omissionReason }) => omissionReason === '');
  const made: WordSection[] = [];
  for (const [at, section] of sections.entries()) {
    const isPortrait = section.orientation === 'auto' ? section.blocks.every(fitsPortrait) : section.orientation === 'portrait';
    const children = await sectionChildren(section, { content, sections, isPortrait });
    const last = made.at(-1);
    // what shares a page, or follows on a page of the same orientation, is in one part of the document
    if (last && last.isPortrait === isPortrait && at > 0) made[made.length - 1] = { isPortrait, children: [...last.children, ...children] };
    else made.push({ isPortrait, children });
  }
  if (made.length === 0) made.push({ isPortrait: true, children: [softParagraph('No section of the pack is included.')] });
  const foot = [content.company, titleOf(content), content.stateWords].join(' · ');
  if (content.fingerprint !== '') {
    const last = made.at(-1)!;
    made[made.length - 1] = { ...last, children: [...last.children, softParagraph(`Checksum ${content.fingerprint}`)] };
  }
  return wordDocument(made, { title: titleOf(content), author: content.company, foot });
}

function fitsPortrait(block: ContentBlock): boolean {
  if (block.kind === 'statement') return fitsUpright(block.statement);
  return block.kind !== 'report' || reportWidths(block.report).reduce((sum, width) => sum + width, 0) <= roomOf(true);
}

type Place = { readonly content: PackContent; readonly sections: readonly FilledSection[]; readonly isPortrait: boolean };

async function sectionChildren(section: FilledSection, place: Place): Promise<FileChild[]> {
  const { id, kind, title, dateWords, notes } = section;
  if (kind === 'cover') return coverChildren(section, place.content);
  const startsPage = section.startsPage && place.sections[0] !== section;
  const head: FileChild[] = [
    new Paragraph({
      heading: 'Heading1',
      keepNext: true,
      pageBreakBefore: startsPage,
      children: [new Bookmark({ id: bookmarkOf(id), children: [new TextRun(title)] })],
    }),
    ...(dateWords === '' ? [] : [softParagraph(dateWords, { color: COPPER, keepNext: true })]),
  ];
  const body: FileChild[] = kind === 'contents' ? contentsChildren(place) : [];
  for (const block of section.blocks) body.push(...(await blockChildren(block, { isPortrait: place.isPortrait })));
  return [...head, ...body, ...notes.map((note) => softParagraph(note, { italic: true }))];
}

const bookmarkOf = (id: string): string => `section_${id.replaceAll('-', '_')}`;

/** Titles with the pages they are on, which the word processor counts. */
const contentsChildren = ({ sections, isPortrait }: Place): FileChild[] =>
  sections
    .filter(({ kind }) => kind !== 'cover' && kind !== 'contents')
    .map(
      ({ id, title }) =>
        new Paragraph({
          tabStops: [{ type: TabStopType.RIGHT, position: twips(roomOf(isPortrait)) }],
          children: [
            new InternalHyperlink({ anchor: bookmarkOf(id), children: [new TextRun(title)] }),
            new TextRun('\t'),
            new PageReference(bookmarkOf(id)),
          ],
        }),
    );

function coverChildren({ title, cover }: FilledSection, { company, monthWords, slice, stateWords, logo }: PackContent): FileChild[] {
  const line = (text: string, size: number, color = '1E2833'): Paragraph =>
    new Paragraph({ spacing: { after: 80 }, children: [new TextRun({ text, size: size * HALF_POINTS, color, font: 'Georgia' })] });
  return [
    ...(logo
      ? [
          new Paragraph({
            children: [
              new ImageRun({
                type: logo.type === 'image/png' ? 'png' : 'jpg',
                data: Buffer.from(logo.base64, 'base64'),
                transformation: { width: 160, height: 60 },
                altText: { name: 'Logo', title: 'Logo', description: `Logo of ${company}` },
              }),
            ],
          }),
        ]
      : []),
    new Paragraph({ spacing: { before: 2400, after: 80 }, children: [new TextRun({ text: company, size: 28, color: '5E5A50' })] }),
    new Paragraph({ text: title, style: 'Title' }),
    line(slice === '' ? monthWords : `${slice}, ${monthWords}`, 17),
    ...(cover?.subtitle ? [softParagraph(cover.subtitle)] : []),
    ...(cover?.preparedBy ? [softParagraph(`Prepared by ${cover.preparedBy}`)] : []),
    softParagraph(stateWords, { color: COPPER }),
  ];
}

async function blockChildren(block: ContentBlock, { isPortrait }: { readonly isPortrait: boolean }): Promise<FileChild[]> {
  switch (block.kind) {
    case 'paragraph':
      return [paragraphOf(block)];
    case 'statement':
      return [
        ...block.statement.title.slice(2).map((text) => softParagraph(text)),
        ...statementTables(block.statement, isPortrait),
        ...block.statement.dto.head.footnotes.map((text) => softParagraph(text)),
      ];
    case 'report':
      return reportChildren(block.report, isPortrait);
    case 'charts':
    case 'bridge': {
      const pictures: ImageRun[] = [];
      for (const { svg, width, height, alt } of chartDrawings(block))
        pictures.push(
          new ImageRun({
            type: 'png',
            data: await svgPicture(svg),
            transformation: { width: width * PIXELS_PER_POINT, height: height * PIXELS_PER_POINT },
            altText: { name: 'Chart', title: 'Chart', description: alt },
          }),
        );
      const legend = block.kind === 'charts' ? [softParagraph('Solid: actual. Outlined: budget. Grey: prior year.')] : [];
      return [new Paragraph({ children: pictures.flatMap((picture) => [picture, new TextRun(' ')]) }), ...legend];
    }
  }
}

function paragraphOf({ style, runs, label, depth }: Extract<ContentBlock, { readonly kind: 'paragraph' }>): Paragraph {
  const text = runs.map((run) => run.text).join('');
  if (style === 'heading') return heading(text, 2);
  if (style === 'subheading') return heading(text, 3);
  if (style === 'soft') return softParagraph(text);
  const words = label === '' ? runs : [{ text: `${label}\t`, bold: false, italic: false }, ...runs];
  const indent = twips(depth * 14);
  return new Paragraph({
    spacing: { after: 100 },
    ...(depth > 0
      ? { indent: { left: indent, hanging: label === '' ? 0 : twips(14) }, tabStops: [{ type: TabStopType.LEFT, position: indent }] }
      : {}),
    children: words.flatMap((run) =>
      run.text
        .split('\n')
        .map((piece, at) => new TextRun({ text: piece, bold: run.bold, italics: run.italic, ...(at > 0 ? { break: 1 } : {}) })),
    ),
  });
}

const reportWidths = (report: WholeReport): number[] =>
  new ReportTable(MEASURING, report).naturalWidths.map((width) => width * REPORT_SPARE + 8);

function reportChildren(report: WholeReport, isPortrait: boolean): FileChild[] {
  const natural = reportWidths(report);
  const total = natural.reduce((sum, width) => sum + width, 0);
  const shrink = Math.min(1, roomOf(isPortrait) / total);
  const widths = natural.map((width) => width * shrink);
  const head: WordRow = {
    isHead: true,
    cells: report.columns.map((column) => ({ text: column.heading, bold: true, isRight: isFigureColumn(column), below: 'single' })),
  };
  const rows = report.rows.map(({ kind, cells }): WordRow => ({
    cells: report.columns.map((column, at) => {
      const text = reportCellText(cells[at]!, column, report);
      const isSum = (kind === 'subtotal' || kind === 'total') && isFigureColumn(column) && text !== '';
      return {
        text,
        bold: kind !== 'line',
        isRight: isFigureColumn(column),
        above: isSum,
        ...(isSum && kind === 'total' ? { below: 'double' as const } : {}),
      };
    }),
  }));
  return [
    softParagraph(report.words.join('; ')),
    ...report.notes.map(({ text }) => softParagraph(text)),
    new WordTable({ widths, size: SIZE, rows: [head, ...rows] }),
  ];
}
