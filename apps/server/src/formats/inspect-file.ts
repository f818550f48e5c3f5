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
  /** bytes that are not UTF-8 in a file that otherwise is, with the first rows they are on; null where there are none */
  readonly strayBytes: { readonly count: number; readonly rows: readonly number[] } | null;
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
  const stray = isUtf8 ? null : await strayBytesIn(path);
  const signature = SIGNATURES.find(([start]) => start.every((byte, position) => head[position] === byte));
  const wide = wideEncoding(head);
  const strayBytes = wide === null ? stray : null;
  const encoding: TextEncoding = wide ?? (isUtf8 || strayBytes ? 'utf-8' : 'windows-1252');
  const isPage = /^\s{0,100}<(!doctype|html|\?xml)/i.test(head.subarray(0, 300).toString('latin1'));
  return {
    bytes,
    sha256: hash.digest('hex'),
    encoding,
    delimiter: delimiterOf(new TextDecoder(encoding).decode(head)),
    notText: signature?.[1] ?? (isPage ? 'a web page' : zeros > 0 && wide === null ? 'a binary file' : null),
    strayBytes,
  };
}

const MOST_STRAY = 100;
const ROWS_NAMED = 5;

/**
 * Bytes that are not UTF-8, where the file also has characters that are: a file of Latin-1 alone has none.
 * Null when there are too many to be slips, or no sequence of UTF-8 beside them.
 */
async function strayBytesIn(path: string): Promise<InspectedFile['strayBytes']> {
  let [row, count, sequences, expected, length] = [1, 0, 0, 0, 0];
  const rows: number[] = [];
  const stray = () => {
    count += 1;
    if (rows.length < ROWS_NAMED && rows.at(-1) !== row) rows.push(row);
  };
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>) {
    for (const byte of chunk) {
      if (expected > 0) {
        if ((byte & 0xc0) === 0x80) {
          expected -= 1;
          if (expected === 0) sequences += 1;
          continue;
        }
        for (let left = length - expected; left > 0; left -= 1) stray();
        expected = 0;
      }
      if (byte === 0x0a) row += 1;
      if (byte < 0x80) continue;
      length = byte >= 0xc2 && byte <= 0xdf ? 2 : byte >= 0xe0 && byte <= 0xef ? 3 : byte >= 0xf0 && byte <= 0xf4 ? 4 : 0;
      if (length === 0) stray();
      else expected = length - 1;
    }
    if (count > MOST_STRAY) return null;
  }
  return sequences > 0 && count > 0 && count <= sequences ? { count, rows } : null;
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
