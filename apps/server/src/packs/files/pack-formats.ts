import { PACK_FORMATS, type PackFormat, type PackPreviewDto, type PackReading } from '@wise-margin/contract';

import { HTML_TYPE, PDF_TYPE, WORD_TYPE, WORKBOOK_TYPE } from '../../formats/media-types.ts';
import type { PdfFont } from '../../formats/pdf-type.ts';
import { lazyTask, type Task } from '../../work/task.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import type { PackContent, PackFile } from '../content/content.ts';

const MOST_MILLISECONDS = 60_000;
const MOST_ISSUE_MILLISECONDS = 4 * MOST_MILLISECONDS;
const PAGE_FONTS: readonly PdfFont[] = ['sans', 'sansBold', 'sansItalic', 'serif', 'serifBold', 'serifItalic'];
/** The pages of a pack, with the page each section begins on, by its position. */
export type LaidOut = { readonly pages: PackPreviewDto['pages']; readonly starts: readonly (number | null)[] };
/** What an issue freezes of a document, beside its figures. */
export type WholeIssue = { readonly laidOut: LaidOut; readonly reading: PackReading; readonly files: readonly PackFile[] };

const PACK_PAGES = lazyTask<PackContent, LaidOut>('packPages', async () => {
  const { packPages, pageDtos } = await import('../pages/pack-pages.ts');
  return (content) => {
    const made = packPages(content);
    return Promise.resolve({ pages: pageDtos(made), starts: content.sections.map(({ id }) => made.starts.get(id) ?? null) });
  };
});
const PACK_PDF = lazyTask('packPdf', async () => (await import('./pack-pdf.ts')).packPdf);
const PACK_DOCUMENT = lazyTask('packDocument', async () => (await import('./pack-document.ts')).packDocument);
const PACK_WORKBOOK = lazyTask('packWorkbook', async () => (await import('./pack-workbook.ts')).packWorkbook);
const PACK_HTML = lazyTask<PackContent, Buffer>('packHtml', async () => {
  const { packHtml } = await import('./pack-html.ts');
  return (content) => Promise.resolve(Buffer.from(packHtml(content), 'utf8'));
});
/** Reads what lays pages out and their fonts, which takes longer than a page. */
const PACK_READY = lazyTask<null, null>('packReady', async () => {
  const [{ textWidth }] = [await import('../../formats/font-metrics.ts'), await import('../pages/pack-pages.ts')];
  return () => {
    for (const font of PAGE_FONTS) textWidth('0', { font, size: 10 });
    return Promise.resolve(null);
  };
});
/** As much as a chart has, so that what draws it is compiled. */
const SAMPLE = `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="180">${Array.from(
  { length: 40 },
  (_, at) =>
    `<path d="M${at * 12} ${at}H${at * 12 + 8}V180" fill="none" stroke="#888"/><text x="${at * 12}" y="170" font-size="7" font-family="Source Sans 3">${at}</text>`,
).join('')}</svg>`;
/** Prepares chart drawing for documents: the first chart takes longer than a whole document does later. */
const DRAWING_READY = lazyTask<null, null>('drawingReady', async () => {
  const { svgPicture } = await import('../../formats/svg-picture.ts');
  return async () => {
    for (let times = 0; times < 4; times += 1) await svgPicture(SAMPLE);
    return null;
  };
});
type Format = { readonly type: string; readonly what: string; readonly task: Task<PackContent, Buffer> };
export const PACK_FILES: Readonly<Record<PackFormat, Format>> = {
  pdf: { type: PDF_TYPE, what: 'The PDF', task: PACK_PDF },
  docx: { type: WORD_TYPE, what: 'The document', task: PACK_DOCUMENT },
  xlsx: { type: WORKBOOK_TYPE, what: 'The spreadsheet', task: PACK_WORKBOOK },
  html: { type: HTML_TYPE, what: 'The web page', task: PACK_HTML },
};

/** Everything of an issue at once: its content crosses to a worker one time, which takes as long as a page. */
const PACK_ISSUE: Task<PackContent, WholeIssue> = {
  name: 'packIssue',
  run: async (content) => ({
    laidOut: await PACK_PAGES.run(content),
    reading: (await import('./pack-reading.ts')).packReading(content),
    files: await Promise.all(PACK_FORMATS.map(async (format) => ({ format, content: await PACK_FILES[format].task.run(content) }))),
  }),
};
/** Work on packs that a worker does. */
export const PACK_TASKS = [PACK_READY, DRAWING_READY, PACK_PAGES, PACK_ISSUE, PACK_PDF, PACK_DOCUMENT, PACK_WORKBOOK, PACK_HTML];

/** Gets a worker ready for pages, as soon as somebody looks at packs. */
export const readyForPages = (pool: WorkPool): void => pool.ready(PACK_READY);

/** Gets a worker ready for documents, once somebody reads a pack. */
export const readyForDocuments = (pool: WorkPool): void => pool.ready(DRAWING_READY);

/** The pages of a pack, laid out by a worker. */
export const layOut = (pool: WorkPool, content: PackContent, signal?: AbortSignal): Promise<LaidOut> =>
  pool.run(PACK_PAGES, content, { what: 'The preview', milliseconds: MOST_MILLISECONDS, ...(signal ? { signal } : {}) });

/** The pages, the reading and every file of a pack, made by one worker. */
export async function writeIssue(pool: WorkPool, content: PackContent): Promise<WholeIssue> {
  const { files, ...whole } = await pool.run(PACK_ISSUE, content, { what: 'The pack', milliseconds: MOST_ISSUE_MILLISECONDS });
  // bytes arrive from a thread as plain ones
  return { ...whole, files: files.map((file) => ({ ...file, content: Buffer.from(file.content) })) };
}

/** A pack in one format, written by a worker. */
export function writePack(
  pool: WorkPool,
  { content, format, signal }: { readonly content: PackContent; readonly format: PackFormat; readonly signal?: AbortSignal },
): Promise<Buffer> {
  const { what, task } = PACK_FILES[format];
  return pool.run(task, content, { what, milliseconds: MOST_MILLISECONDS, ...(signal ? { signal } : {}) });
}
