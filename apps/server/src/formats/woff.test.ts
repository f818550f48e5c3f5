import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

// it comes with pdfkit and has no types of its own
// @ts-expect-error -- see above
import * as fontkit from 'fontkit';
import { describe, expect, it } from 'vitest';

import { sfntOfWoff } from './woff.ts';

const { resolve } = createRequire(import.meta.url);
type Font = {
  readonly postscriptName: string;
  readonly numGlyphs: number;
  readonly unitsPerEm: number;
  readonly layout: (text: string) => {
    readonly glyphs: readonly { readonly id: number; readonly path: { readonly toSVG: () => string } }[];
    readonly advanceWidth: number;
  };
};
const opened = (bytes: Buffer): Font => fontkit.create(bytes) as Font;

// checked against fontkit (from the npm registry), which reads both kinds
describe('the plain tables of a WOFF font', () => {
  it.each([
    '@fontsource/source-serif-4/files/source-serif-4-latin-400-normal.woff',
    '@fontsource/source-serif-4/files/source-serif-4-latin-600-italic.woff',
    '@fontsource/source-serif-4/files/source-serif-4-latin-600-normal.woff',
  ])('of %s are the same font', (name) => {
    const woff = readFileSync(resolve(name));
    const [before, after] = [opened(woff), opened(sfntOfWoff(woff))];
    const text = 'Operating income (1,234.56) fi — Ångström';
    const shape = ({ postscriptName, numGlyphs, unitsPerEm, layout }: Font, font: Font) => {
      const { glyphs, advanceWidth } = layout.call(font, text);
      return [postscriptName, numGlyphs, unitsPerEm, advanceWidth, glyphs.map(({ id, path }) => [id, path.toSVG()])];
    };
    expect(shape(after, after)).toEqual(shape(before, before));
  });

  it('are refused of anything else', () => {
    expect(() => sfntOfWoff(Buffer.from('OTTO'))).toThrow(RangeError);
    expect(() => sfntOfWoff(Buffer.alloc(100))).toThrow('no WOFF');
  });
});
