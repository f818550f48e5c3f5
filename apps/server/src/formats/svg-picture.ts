import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

import { initWasm, Resvg } from '@resvg/resvg-wasm';

const { resolve } = createRequire(import.meta.url);
// 180 dots to an inch: sharp when it is printed at its own size
const DOTS_PER_POINT = 2.5;
// what charts are lettered in
const FACES = ['Regular', 'Semibold'];

let ready: Promise<readonly Uint8Array[]> | null = null;
/** The drawing library, started once for each thread, with the fonts of the documents. */
const started = (): Promise<readonly Uint8Array[]> =>
  (ready ??= initWasm(readFile(resolve('@resvg/resvg-wasm/index_bg.wasm'))).then(() =>
    FACES.map((face) => readFileSync(resolve(`source-sans/TTF/SourceSans3-${face}.ttf`))),
  ));

/** A drawing as a PNG picture on white, two and a half dots to a point. */
export async function svgPicture(svg: string): Promise<Buffer> {
  const fontBuffers = [...(await started())];
  const drawing = new Resvg(svg, {
    fitTo: { mode: 'zoom', value: DOTS_PER_POINT },
    background: '#FFFFFF',
    font: { fontBuffers, defaultFontFamily: 'Source Sans 3', loadSystemFonts: false } as never,
  });
  const picture = drawing.render();
  const png = Buffer.from(picture.asPng());
  picture.free();
  drawing.free();
  return png;
}
