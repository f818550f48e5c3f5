import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

export type TextEncoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
/** What a chosen file is, found by reading it once in a stream. */
export type InspectedFile = {
  readonly bytes: number;
  readonly sha256: string;
  readonly encoding: TextEncoding;
  readonly delimiter: ',' | ';' | '\t';
  /** in words, when the file is no text: "a PNG picture" */
  readonly notText: string | null;
};

const SIGNATURES: readonly (readonly [readonly number[], string])[] = [
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a GIF picture'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF document'],
  [[0x50, 0x4b, 0x03, 0x04], 'a spreadsheet or another zipped file'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old binary spreadsheet'],
  [[0x1f, 0x8b], 'a compressed file'],
];

/** Reads a file once: its size, fingerprint, encoding and the character between its columns. */
export async function inspectFile(path: string): Promise<InspectedFile> {
  const hash = createHash('sha256');
  let bytes = 0;
  let head = Buffer.alloc(0);
  let zeros = 0;
  const utf8 = new TextDecoder('utf-8', { fatal: true });
  let isUtf8 = true;
  const decode = (chunk?: Buffer) => {
    if (!isUtf8) return;
    try {
      utf8.decode(chunk, { stream: chunk !== undefined });
    } catch {
      isUtf8 = false; // the finding itself: bytes that are no UTF-8 are read as Latin-1
    }
  };
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>) {
    hash.update(chunk);
    bytes += chunk.length;
    if (head.length < 65536) head = Buffer.concat([head, chunk.subarray(0, 65536)]);
    if (zeros === 0 && chunk.includes(0)) zeros += 1;
    decode(chunk);
  }
  decode();
  const signature = SIGNATURES.find(([start]) => start.every((byte, position) => head[position] === byte));
  const wide = wideEncoding(head);
  const encoding: TextEncoding = wide ?? (isUtf8 ? 'utf-8' : 'windows-1252');
  return {
    bytes,
    sha256: hash.digest('hex'),
    encoding,
    delimiter: delimiterOf(new TextDecoder(encoding).decode(head)),
    notText: signature?.[1] ?? (zeros > 0 && wide === null ? 'a binary file' : null),
  };
}

/** UTF-16 by its mark, or by zero bytes on one side only, as plain western text has them. */
function wideEncoding(head: Buffer): 'utf-16le' | 'utf-16be' | null {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  const sample = head.subarray(0, 400 & ~1);
  if (sample.length < 20) return null;
  let even = 0;
  let odd = 0;
  sample.forEach((byte, position) => {
    if (byte !== 0) return;
    if (position % 2 === 0) even += 1;
    else odd += 1;
  });
  const half = sample.length / 2;
  if (odd > half * 0.8 && even === 0) return 'utf-16le';
  return even > half * 0.8 && odd === 0 ? 'utf-16be' : null;
}

function delimiterOf(text: string): InspectedFile['delimiter'] {
  const header = text.split(/\r?\n|\r/, 1)[0] ?? '';
  const count = (sign: string) => header.split(sign).length - 1;
  const choices = [',', ';', '\t'] as const;
  return choices.reduce((best, sign) => (count(sign) > count(best) ? sign : best), ',' as InspectedFile['delimiter']);
}
