import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import pdfmake from 'pdfmake';
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js';

const { resolve } = createRequire(import.meta.url);
const SANS = dirname(resolve('source-sans/TTF/SourceSans3-Regular.ttf'));
const SERIF = dirname(resolve('@fontsource/source-serif-4/files/source-serif-4-latin-600-normal.woff'));

pdfmake.setFonts({
  Sans: {
    normal: `${SANS}/SourceSans3-Regular.ttf`,
    bold: `${SANS}/SourceSans3-Semibold.ttf`,
    italics: `${SANS}/SourceSans3-It.ttf`,
    bolditalics: `${SANS}/SourceSans3-SemiboldIt.ttf`,
  },
  Serif: {
    normal: `${SERIF}/source-serif-4-latin-400-normal.woff`,
    bold: `${SERIF}/source-serif-4-latin-600-normal.woff`,
  },
});
// nothing is fetched, and no file is read but the fonts
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => path.startsWith(SANS) || path.startsWith(SERIF));

/** A document as PDF, its fonts embedded. */
export function writePdf(document: TDocumentDefinitions): Promise<Buffer> {
  return pdfmake.createPdf(document).getBuffer();
}
