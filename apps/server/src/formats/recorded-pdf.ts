import type { Recording } from './page-recorder.ts';
import { PdfWriter } from './pdf-writer.ts';

export type RecordedPdfOptions = {
  readonly title: string;
  readonly author: string;
  /** titles with the page each begins on, from 0 */
  readonly bookmarks: readonly { readonly title: string; readonly page: number }[];
  /** drawn for every picture mark */
  readonly picture: Buffer | null;
};

/** Recorded pages as a tagged PDF/A-2 document with bookmarks, its fonts embedded and its drawings as vectors. */
export function recordedPdf({ pages, tags }: Recording, options: RecordedPdfOptions): Promise<Buffer> {
  const writer = new PdfWriter({ title: options.title, author: options.author, isTagged: true });
  const parts = writer.parts(tags);
  pages.forEach(({ width, height, marks }, index) => {
    writer.addPageOf(width, height);
    for (const { title, page } of options.bookmarks) if (page === index) writer.bookmark(title);
    let open: number | null = null;
    for (const { mark, tag } of marks) {
      if (tag !== open) {
        if (open !== null) parts.end();
        parts.begin(tag);
        open = tag;
      }
      switch (mark.kind) {
        case 'text':
          writer.text(mark.text, mark, mark);
          break;
        case 'line':
          writer.line([mark.x1, mark.y1], [mark.x2, mark.y2], mark);
          break;
        case 'rect':
          writer.rect(mark, mark);
          break;
        case 'picture':
          if (options.picture) writer.picture(options.picture, mark);
      }
    }
    if (open !== null) parts.end();
  });
  parts.close();
  return writer.finish();
}
