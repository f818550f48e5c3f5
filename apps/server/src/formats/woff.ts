import { inflateSync } from 'node:zlib';

const SIGNATURE = 0x774f4646;
const WOFF_HEADER = 44;
const WOFF_ENTRY = 20;
const SFNT_HEADER = 12;
const SFNT_ENTRY = 16;
const padded = (length: number): number => (length + 3) & ~3;

/**
 * A font as its plain tables (sfnt) from a WOFF 1.0 file (W3C recommendation), whose tables are compressed one by one:
 * readers of fonts inflate them by JavaScript each time a document is written, which takes longer than all the rest of it.
 * @throws RangeError for a file that is no WOFF
 */
export function sfntOfWoff(woff: Buffer): Buffer {
  if (woff.length < WOFF_HEADER || woff.readUInt32BE(0) !== SIGNATURE) throw new RangeError('the font is no WOFF file');
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, index) => {
    const entry = WOFF_HEADER + index * WOFF_ENTRY;
    const [tag, offset, stored, length, checksum] = [0, 4, 8, 12, 16].map((at) => woff.readUInt32BE(entry + at)) as [
      number,
      number,
      number,
      number,
      number,
    ];
    const bytes = woff.subarray(offset, offset + stored);
    return { tag, checksum, bytes: stored < length ? inflateSync(bytes) : bytes };
  });
  const power = Math.floor(Math.log2(count));
  const header = Buffer.alloc(SFNT_HEADER + count * SFNT_ENTRY);
  header.writeUInt32BE(woff.readUInt32BE(4), 0);
  header.writeUInt16BE(count, 4);
  header.writeUInt16BE(2 ** power * SFNT_ENTRY, 6);
  header.writeUInt16BE(power, 8);
  header.writeUInt16BE((count - 2 ** power) * SFNT_ENTRY, 10);
  let offset = header.length;
  const parts: Buffer[] = [header];
  tables.forEach(({ tag, checksum, bytes }, index) => {
    const entry = SFNT_HEADER + index * SFNT_ENTRY;
    header.writeUInt32BE(tag, entry);
    header.writeUInt32BE(checksum, entry + 4);
    header.writeUInt32BE(offset, entry + 8);
    header.writeUInt32BE(bytes.length, entry + 12);
    parts.push(bytes, Buffer.alloc(padded(bytes.length) - bytes.length));
    offset += padded(bytes.length);
  });
  return Buffer.concat(parts);
}
