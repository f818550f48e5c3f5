import type { PdfFont } from '../../formats/pdf-type.ts';

// characters of the serif as it is shipped; names beyond them are set in the sans, which has many more
const SERIF_CHARACTERS =
  /^[\n\u0020-\u00ff\u0131\u0152\u0153\u02bb\u02bc\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]*$/;
const SANS: Readonly<Partial<Record<PdfFont, PdfFont>>> = {
  serif: 'sans',
  serifItalic: 'sansItalic',
  serifBold: 'sansBold',
  serifBoldItalic: 'sansBoldItalic',
};

/** The font a text is set in: the serif asked for, or the sans where the serif lacks a character. */
export const fontFor = (text: string, serif: PdfFont): PdfFont => (SERIF_CHARACTERS.test(text) ? serif : (SANS[serif] ?? serif));
