import { recordedPdf, type RecordedPdfOptions } from '../../formats/recorded-pdf.ts';
import type { PackContent } from '../content/content.ts';
import { packPages } from '../pages/pack-pages.ts';

/** A pack as a tagged PDF with bookmarks. */
export function packPdf(content: PackContent): Promise<Buffer> {
  const pages = packPages(content);
  const bookmarks: RecordedPdfOptions['bookmarks'] = content.sections.flatMap(({ id, title }) => {
    const page = pages.starts.get(id);
    return page === undefined ? [] : [{ title, page }];
  });
  return recordedPdf(pages, {
    title: titleOf(content),
    author: content.company,
    bookmarks,
    picture: content.logo ? Buffer.from(content.logo.base64, 'base64') : null,
  });
}

/** What a document is called: `Monthly management review, Oct 2026`. */
export const titleOf = ({ name, slice, monthWords }: Pick<PackContent, 'name' | 'slice' | 'monthWords'>): string =>
  [name, slice, monthWords].filter((text) => text !== '').join(', ');
