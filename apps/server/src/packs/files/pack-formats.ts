import type { PackFormat, PackPreviewDto, PackReading } from '@wise-margin/contract';

import { textWidth } from '../../formats/font-metrics.ts';
import { HTML_TYPE, PDF_TYPE, WORD_TYPE, WORKBOOK_TYPE } from '../../formats/media-types.ts';
import type { PdfFont } from '../../formats/pdf-type.ts';
import { svgPicture } from '../../formats/svg-picture.ts';
import type { Task } from '../../work/task.ts';
import type { WorkPool } from '../../work/work-pool.ts';
import type { PackContent } from '../content/content.ts';
import { packPages, pageDtos } from '../pages/pack-pages.ts';
import { packDocument } from './pack-document.ts';
import { packHtml } from './pack-html.ts';
import { packPdf } from './pack-pdf.ts';
import { packReading } from './pack-reading.ts';
import { packWorkbook } from './pack-workbook.ts';

const MOST_MILLISECONDS = 60_000;
const PAGE_FONTS: readonly PdfFont[] = ['sans', 'sansBold', 'sansItalic', 'serif', 'serifBold', 'serifItalic'];
/** The pages of a pack, with the page each section begins on, by its position. */
export type LaidOut = { readonly pages: PackPreviewDto['pages']; readonly starts: readonly (number | null)[] };

const PACK_PAGES: Task<PackContent, LaidOut> = {
  name: 'packPages',
  run: (content) => {
    const made = packPages(content);
    return Promise.resolve({ pages: pageDtos(made), starts: content.sections.map(({ id }) => made.starts.get(id) ?? null) });
  },
};
const PACK_PDF: Task<PackContent, Buffer> = { name: 'packPdf', run: packPdf };
const PACK_DOCUMENT: Task<PackContent, Buffer> = { name: 'packDocument', run: packDocument };
const PACK_WORKBOOK: Task<PackContent, Buffer> = { name: 'packWorkbook', run: packWorkbook };
const PACK_HTML: Task<PackContent, Buffer> = {
  name: 'packHtml',
  run: (content) => Promise.resolve(Buffer.from(packHtml(content), 'utf8')),
};
const PACK_READING: Task<PackContent, PackReading> = { name: 'packReading', run: (content) => Promise.resolve(packReading(content)) };
/** Reads the fonts of pages and the library that draws pictures, which takes longer than a page and a document. */
const PACK_READY: Task<null, null> = {
  name: 'packReady',
  run: async () => {
    for (const font of PAGE_FONTS) textWidth('0', { font, size: 10 });
    await svgPicture('<svg xmlns="http://www.w3.org/2000/svg" width="1" height="1"/>');
    return null;
  },
};
/** Work on packs that a worker does. */
export const PACK_TASKS = [PACK_READY, PACK_PAGES, PACK_READING, PACK_PDF, PACK_DOCUMENT, PACK_WORKBOOK, PACK_HTML];

type Format = { readonly type: string; readonly what: string; readonly task: Task<PackContent, Buffer> };
export const PACK_FILES: Readonly<Record<PackFormat, Format>> = {
  pdf: { type: PDF_TYPE, what: 'The PDF', task: PACK_PDF },
  docx: { type: WORD_TYPE, what: 'The document', task: PACK_DOCUMENT },
  xlsx: { type: WORKBOOK_TYPE, what: 'The spreadsheet', task: PACK_WORKBOOK },
  html: { type: HTML_TYPE, what: 'The web page', task: PACK_HTML },
};

/** Gets a worker ready for pages, as soon as somebody looks at packs. */
export const readyForPages = (pool: WorkPool): void => pool.ready(PACK_READY);

/** The pages of a pack, laid out by a worker. */
export const layOut = (pool: WorkPool, content: PackContent, signal?: AbortSignal): Promise<LaidOut> =>
  pool.run(PACK_PAGES, content, { what: 'The preview', milliseconds: MOST_MILLISECONDS, ...(signal ? { signal } : {}) });

/** A pack as it is read on a screen, made by a worker. */
export const readPack = (pool: WorkPool, content: PackContent): Promise<PackReading> =>
  pool.run(PACK_READING, content, { what: 'The pack', milliseconds: MOST_MILLISECONDS });

/** A pack in one format, written by a worker. */
export function writePack(
  pool: WorkPool,
  { content, format, signal }: { readonly content: PackContent; readonly format: PackFormat; readonly signal?: AbortSignal },
): Promise<Buffer> {
  const { what, task } = PACK_FILES[format];
  return pool.run(task, content, { what, milliseconds: MOST_MILLISECONDS, ...(signal ? { signal } : {}) });
}
