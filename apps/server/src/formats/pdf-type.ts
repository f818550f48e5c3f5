export type PdfFont = 'sans' | 'sansBold' | 'sansItalic' | 'sansBoldItalic' | 'serif' | 'serifItalic' | 'serifBold' | 'serifBoldItalic';
export type TextStyle = { readonly font: PdfFont; readonly size: number; readonly color: string };

// US Letter, in points
export const LONG = 792;
export const SHORT = 612;
export const MARGIN = 36;

export const INK = '#1E2833';
export const SOFT = '#5E5A50';
export const PINE = '#1C664D';
export const BRICK = '#A1302A';
export const STONE = '#A79F8E';
export const COPPER = '#97491B';
export const HAIRLINE = '#DCD4C4';

/** The height of a line of type, and where its baseline is from its top, as parts of its size. */
const LINE = 1.33;
const BASELINE = 0.98;
export const lineOf = (size: number): number => size * LINE;
export const baselineOf = (size: number): number => size * BASELINE;
