import fc from 'fast-check';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';

import { PdfWriter, wrapped } from './pdf-writer.ts';

const made = () => {
  const writer = new PdfWriter({ title: 'T', author: 'A' });
  writer.addPage(true);
  return writer;
};
const SANS = { font: 'sans', size: 8 } as const;

describe('a text in lines', () => {
  it('is broken between words, and within a word wider than a line; nothing is lost', () => {
    const writer = made();
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 0, maxLength: 30 }), { maxLength: 12 }),
        fc.integer({ min: 12, max: 120 }),
        (words, width) => {
          const text = words.join(' ');
          const lines = wrapped(writer, text, { ...SANS, width });
          expect(lines.join('').replaceAll(' ', '')).toBe(text.replaceAll(' ', ''));
          for (const line of lines)
            if ([...line.trim()].length > 1) expect(writer.widthOf(line.trim(), SANS)).toBeLessThanOrEqual(width + 0.01);
        },
      ),
    );
  });
  it('of 10,000 characters takes no time to speak of', () => {
    const lines = wrapped(made(), 'x'.repeat(10_000), { ...SANS, width: 100 });
    expect(lines.join('')).toHaveLength(10_000);
  });
});

describe('a text on a page', () => {
  it('is where it was put, in its size, and is read out again with its accents', async () => {
    const writer = made();
    writer.text('(1,234.50)', { x: 300, y: 100, align: 'right' }, { ...SANS, color: '#1E2833' });
    writer.text('Café Münch − 3%', { x: 40, y: 200 }, { font: 'serifBold', size: 16, color: '#1E2833' });
    const page = await (await getDocument({ data: new Uint8Array(await writer.finish()), verbosity: 0 }).promise).getPage(1);
    const { items } = await page.getTextContent();
    const texts = items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item] : []));
    const at = ({ transform, width }: (typeof texts)[number]) => {
      const [, , , size, x, y] = transform as number[];
      return { size: Math.round(size!), right: Math.round(x! + width), top: Math.round(792 - y!) };
    };
    expect(at(texts[0]!)).toEqual({ size: 8, right: 300, top: 100 });
    expect(texts.map(({ str }) => str).join(' ')).toBe('(1,234.50) Café Münch − 3%');
  });
  it('is the same in documents written by turns, though they share the fonts they embed parts of', async () => {
    const words = ['Revenue 1,234', 'Größe – net', 'Fjord (5.6 %)'];
    const writers = words.map(made);
    for (const font of ['sans', 'serifBold'] as const)
      writers.forEach((writer, at) => writer.text(words[at]!, { x: 40, y: 100 }, { font, size: 9, color: '#1E2833' }));
    for (const [at, writer] of writers.entries()) {
      const page = await (await getDocument({ data: new Uint8Array(await writer.finish()), verbosity: 0 }).promise).getPage(1);
      const { items } = await page.getTextContent();
      const texts = items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item] : []));
      expect(texts.map(({ str }) => str)).toEqual([words[at], words[at]]);
      const alone = made();
      expect(texts.map(({ width }) => width)).toEqual(
        (['sans', 'serifBold'] as const).map((font) => expect.closeTo(alone.widthOf(words[at]!, { font, size: 9 }), 1)),
      );
    }
  });
});
