import type { PageMark } from '@wise-margin/contract';

import type { PdfFont } from './pdf-type.ts';

const SANS = `'Source Sans 3', 'Source Sans 3 Variable', 'Segoe UI', Arial, sans-serif`;
const SERIF = `'Source Serif 4', 'Source Serif 4 Variable', Georgia, serif`;
const FACES: Readonly<Record<PdfFont, string>> = {
  sans: `font-family="${SANS}"`,
  sansBold: `font-family="${SANS}" font-weight="600"`,
  sansItalic: `font-family="${SANS}" font-style="italic"`,
  sansBoldItalic: `font-family="${SANS}" font-weight="600" font-style="italic"`,
  serif: `font-family="${SERIF}"`,
  serifItalic: `font-family="${SERIF}" font-style="italic"`,
  serifBold: `font-family="${SERIF}" font-weight="600"`,
  serifBoldItalic: `font-family="${SERIF}" font-weight="600" font-style="italic"`,
};

/** A text as it is written in XML and HTML. */
export const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** Marks as a drawing by itself. @param alt what it shows, in words */
export function marksSvg(
  marks: readonly PageMark[],
  { width, height, alt }: { readonly width: number; readonly height: number; readonly alt: string },
): string {
  const drawn = marks.map(markSvg).join('');
  const size = `viewBox="0 0 ${width} ${height}" width="${width}" height="${height}"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size} role="img" aria-label="${escaped(alt)}">${drawn}</svg>`;
}

function markSvg(mark: PageMark): string {
  switch (mark.kind) {
    case 'text':
      return `<text x="${mark.x}" y="${mark.y}" textLength="${mark.width}" lengthAdjust="spacingAndGlyphs" font-size="${mark.size}" fill="${mark.color}" ${FACES[mark.font]}>${escaped(mark.text)}</text>`;
    case 'line':
      return `<line x1="${mark.x1}" y1="${mark.y1}" x2="${mark.x2}" y2="${mark.y2}" stroke="${mark.color}" stroke-width="${mark.weight}"/>`;
    case 'rect': {
      const edge = mark.stroke === null ? '' : ` stroke="${mark.stroke}" stroke-width="${mark.weight}"`;
      return `<rect x="${mark.x}" y="${mark.y}" width="${mark.width}" height="${mark.height}" fill="${mark.fill ?? 'none'}"${edge}/>`;
    }
    // only pages have a logo, and they are not written this way
    case 'picture':
      return '';
  }
}
