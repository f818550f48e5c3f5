import { promisify } from 'node:util';
import { inflate } from 'node:zlib';

const inflated = promisify(inflate);
const SIGNATURE = 8;
const MOST_PIXELS = 25_000_000;
/** Values of a pixel by color type: gray, true color, palette, gray with alpha, true color with alpha. */
const CHANNELS: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/** Whether a PNG or JPEG picture can be drawn on a page: its pixels are there, and it is put on one. */
export async function canBeDrawn(type: string, bytes: Buffer): Promise<boolean> {
  // read when a picture comes: a server starts without it
  const { PdfWriter } = await import('./pdf-writer.ts');
  try {
    if (type === 'image/png' && !(await hasPixels(bytes))) return false;
    const writer = new PdfWriter({ title: 'Picture', author: '' });
    writer.addPage(true);
    writer.picture(bytes, { x: 0, y: 0, width: 10, height: 10 });
    await writer.finish();
    return true;
  } catch {
    return false; // the finding itself: a picture that breaks off
  }
}

/**
 * Whether the data of a PNG inflates to what its header announces. Whatever draws it inflates it later, out of reach of
 * whoever asked, so that a damaged one would end the process.
 * @throws Error when the file breaks off or its data is damaged
 */
async function hasPixels(bytes: Buffer): Promise<boolean> {
  const data: Buffer[] = [];
  let header: Buffer | null = null;
  for (let at = SIGNATURE; at < bytes.length;) {
    const length = bytes.readUInt32BE(at);
    const name = bytes.toString('latin1', at + 4, at + 8);
    const content = bytes.subarray(at + 8, at + 8 + length);
    if (content.length < length) return false;
    if (name === 'IHDR') header = content;
    if (name === 'IDAT') data.push(content);
    at += 12 + length;
  }
  if (!header) return false;
  const [width, height] = [header.readUInt32BE(0), header.readUInt32BE(4)];
  const [depth, color, interlace] = [header[8]!, header[9]!, header[12]!];
  const channels = CHANNELS[color];
  if (channels === undefined || width * height === 0 || width * height > MOST_PIXELS) return false;
  const expected = height * (1 + Math.ceil((width * channels * depth) / 8));
  // interlaced pictures come in seven passes, each with rows of its own
  const most = interlace === 0 ? expected : 2 * expected + 8 * 7;
  const pixels = await inflated(Buffer.concat(data), { maxOutputLength: most });
  return interlace === 0 ? pixels.length === expected : pixels.length >= expected;
}
