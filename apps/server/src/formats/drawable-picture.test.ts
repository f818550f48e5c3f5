import { crc32, deflateSync } from 'node:zlib';

import { describe, expect, it } from 'vitest';

import { canBeDrawn } from './drawable-picture.ts';

const SIDE = 4;
function chunk(name: string, content: Buffer): Buffer {
  const length = Buffer.alloc(4);
  length.writeUInt32BE(content.length);
  const named = Buffer.concat([Buffer.from(name), content]);
  const sum = Buffer.alloc(4);
  sum.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, sum]);
}
/** A PNG of 4 by 4 pixels of 8 bits, of a color type, with the data given. */
function png(color: number, data: Buffer, side = SIDE): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  header[8] = 8;
  header[9] = color;
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', header),
    chunk('IDAT', data),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
const pixels = (channels: number) => deflateSync(Buffer.alloc(SIDE * (1 + SIDE * channels), 0));
const [RGB, RGBA] = [2, 6];

describe('a picture that can be drawn', () => {
  it.each([
    ['true color', RGB, 3],
    ['with alpha', RGBA, 4],
    ['gray', 0, 1],
  ] as const)('%s', async (_, color, channels) => expect(await canBeDrawn('image/png', png(color, pixels(channels)))).toBe(true));
});

describe('a damaged picture is refused, and ends nothing', () => {
  it.each([
    ['data cut off', png(RGBA, pixels(4).subarray(0, 6))],
    ['data that is none', png(RGBA, Buffer.from('garbage!'))],
    ['the same without alpha', png(RGB, Buffer.from('garbage!'))],
    ['fewer pixels than announced', png(RGBA, pixels(1))],
    ['more pixels than memory', png(RGBA, pixels(4), 200_000)],
    ['a chunk longer than the file', png(RGBA, pixels(4)).subarray(0, 40)],
    ['an unknown color type', png(5, pixels(4))],
    ['a signature alone', png(RGBA, pixels(4)).subarray(0, 8)],
  ])('%s', async (_, bytes) => expect(await canBeDrawn('image/png', bytes)).toBe(false));
});
