import type { PdfFont } from './pdf-type.ts';
import { PdfWriter } from './pdf-writer.ts';

// a document that is never written: its fonts are read once for the whole process
let measured: PdfWriter | null = null;

/** The width of a text on one line in one of the document fonts, in points. */
export function textWidth(text: string, style: { readonly font: PdfFont; readonly size: number }): number {
  measured ??= new PdfWriter({ title: '', author: '' });
  return measured.widthOf(text, style);
}
