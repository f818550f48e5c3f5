import { PdfWriter } from './pdf-writer.ts';

/** Whether a PNG or JPEG picture can be drawn on a page: it is put on one. */
export async function canBeDrawn(_type: string, bytes: Buffer): Promise<boolean> {
  try {
    const writer = new PdfWriter({ title: 'Picture', author: '' });
    writer.addPage(true);
    writer.picture(bytes, { x: 0, y: 0, width: 10, height: 10 });
    await writer.finish();
    return true;
  } catch {
    return false; // the finding itself: a picture that breaks off
  }
}
