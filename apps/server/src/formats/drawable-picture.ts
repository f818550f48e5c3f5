import { writePdf } from './pdf-writer.ts';

/** Whether a PNG or JPEG picture can be drawn on a page: it is put on one. */
export async function canBeDrawn(type: string, bytes: Buffer): Promise<boolean> {
  try {
    await writePdf({
      content: [{ image: `data:${type};base64,${bytes.toString('base64')}`, fit: [10, 10] }],
      defaultStyle: { font: 'Sans' },
    });
    return true;
  } catch {
    return false; // the finding itself: a picture that breaks off
  }
}
