import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';

import PdfKit from 'pdfkit';

import { LONG, type PdfFont, SHORT, type TextStyle } from './pdf-type.ts';
import type { Surface, Tag, TagOptions } from './surface.ts';
import { sfntOfWoff } from './woff.ts';

const { resolve } = createRequire(import.meta.url);
const SANS = dirname(resolve('source-sans/TTF/SourceSans3-Regular.ttf'));
const SERIF = dirname(resolve('@fontsource/source-serif-4/files/source-serif-4-latin-600-normal.woff'));
const FONTS = {
  sans: `${SANS}/SourceSans3-Regular.ttf`,
  sansBold: `${SANS}/SourceSans3-Semibold.ttf`,
  sansItalic: `${SANS}/SourceSans3-It.ttf`,
  sansBoldItalic: `${SANS}/SourceSans3-SemiboldIt.ttf`,
  serif: `${SERIF}/source-serif-4-latin-400-normal.woff`,
  serifItalic: `${SERIF}/source-serif-4-latin-400-italic.woff`,
  serifBold: `${SERIF}/source-serif-4-latin-600-normal.woff`,
  serifBoldItalic: `${SERIF}/source-serif-4-latin-600-italic.woff`,
} as const satisfies Readonly<Record<PdfFont, string>>;

function fontFile(name: PdfFont): Buffer {
  const bytes = readFileSync(FONTS[name]);
  return FONTS[name].endsWith('.woff') ? sfntOfWoff(bytes) : bytes;
}

const TAGGED = {
  tagged: true,
  lang: 'en-US',
  displayTitle: true,
  pdfVersion: '1.7',
  subset: 'PDF/A-2a',
} as unknown as PDFKit.PDFDocumentOptions;

/** A font as the document embeds it. `encode` gives the codes of a text's glyphs and how far each moves on, in thousandths. */
type EmbeddedFont = {
  readonly id: string;
  readonly ref: () => unknown;
  readonly encode: (text: string) => readonly [codes: readonly string[], positions: readonly { readonly advanceWidth: number }[]];
  /** the characters a reader finds behind each glyph of the document */
  readonly unicode: (readonly number[])[];
  /** the font as it was read */
  readonly font: object;
};
/** What a document knows of its fonts. */
type FontDocument = { _font: EmbeddedFont; _fontCount: number; readonly _fontFamilies: Record<string, EmbeddedFont> };
type ReadFont = { readonly font: object; readonly Embedded: new (document: unknown, font: object, id: string) => EmbeddedFont };
/** Fonts as they were read, for the whole process: each document embeds its own part of them. To read their tables again takes longer than a page. */
const readFonts = new Map<PdfFont, ReadFont>();
/** The document as it is tagged. */
type StructureElement = { readonly add: (child: unknown) => void; readonly end: () => void };
type TaggedDocument = {
  readonly struct: (role: string, options: object) => StructureElement;
  readonly addStructure: (element: StructureElement) => void;
  readonly markContent: (tag: string, options: object) => void;
  readonly markStructureContent: (tag: string) => unknown;
  readonly endMarkedContent: () => void;
};
type Glyph = { readonly code: string; readonly advance: number };
/** The glyph of every character that a font does not have. */
const MISSING = 0;
/** A font of one document: its glyphs by character, and those that have their character for a reader. */
type Font = { readonly embedded: EmbeddedFont; readonly glyphs: Map<string, Glyph>; readonly named: Set<number> };

/**
 * A PDF in points from the top left. A text is set glyph by glyph, each shaped once for each font: figures are mostly
 * different from one another, and to shape each of a hundred thousand costs twenty times what writing it does.
 */
export class PdfWriter implements Surface {
  readonly #document: PDFKit.PDFDocument;
  readonly #fonts = new Map<PdfFont, Font>();
  readonly #bytes: Promise<Buffer>;
  #fill = '';

  /** @param isTagged whether the document says what its parts are, and keeps to PDF/A-2 */
  constructor({ title, author, isTagged = false }: { readonly title: string; readonly author: string; readonly isTagged?: boolean }) {
    const document = new PdfKit({
      autoFirstPage: false,
      margin: 0,
      ...(isTagged ? TAGGED : {}),
      info: { Title: title, Author: author, Creator: 'Wise Margin', Producer: 'Wise Margin' },
    });
    this.#document = document;
    this.#bytes = new Promise((resolve, refuse) => {
      const chunks: Buffer[] = [];
      document.on('data', (chunk: Buffer) => chunks.push(chunk));
      document.on('end', () => resolve(Buffer.concat(chunks)));
      document.on('error', refuse);
    });
  }

  addPage(isPortrait: boolean): void {
    this.#document.addPage({ size: isPortrait ? [SHORT, LONG] : [LONG, SHORT], margin: 0 });
    this.#fill = '';
  }

  addPageOf(width: number, height: number): void {
    this.#document.addPage({ size: [width, height], margin: 0 });
    this.#fill = '';
  }

  /** Names the current page in the list of bookmarks. */
  bookmark(title: string): void {
    this.#document.outline.addItem(title);
  }

  /** The parts of a tagged document: what is drawn between `begin` and `end` belongs to one of them, or to none for -1. */
  parts(tags: readonly Tag[]): { readonly begin: (tag: number) => void; readonly end: () => void; readonly close: () => void } {
    const document = this.#document as unknown as TaggedDocument;
    const elements = tags.map(({ role, alt, scope }) =>
      document.struct(role, { ...(alt === '' ? {} : { alt }), ...(scope === null ? {} : { scope }) }),
    );
    tags.forEach(({ parent }, at) => (parent < 0 ? document.addStructure(elements[at]!) : elements[parent]!.add(elements[at]!)));
    return {
      begin: (tag) => {
        if (tag < 0) document.markContent('Artifact', { type: 'Layout' });
        else elements[tag]!.add(document.markStructureContent(tags[tag]!.role));
      },
      end: () => document.endMarkedContent(),
      close: () => elements.forEach((element) => element.end()),
    };
  }

  /** The width of a text on one line, in points. */
  widthOf(text: string, { font, size }: Pick<TextStyle, 'font' | 'size'>): number {
    let width = 0;
    for (const character of text) width += this.#glyph(font, character).advance;
    return (width * size) / 1000;
  }

  /** Writes a text on one line; `y` is its baseline, `x` its left end, or with `align` its right end or middle. */
  text(
    text: string,
    { x, y, align = 'left' }: { readonly x: number; readonly y: number; readonly align?: 'left' | 'right' | 'center' },
    style: TextStyle,
  ): void {
    if (text === '') return;
    const left = align === 'left' ? x : x - this.widthOf(text, style) / (align === 'right' ? 1 : 2);
    const { embedded } = this.#font(style.font);
    const page = this.#document.page as unknown as { fonts: Record<string, unknown> };
    page.fonts[embedded.id] ??= embedded.ref();
    this.#fillWith(style.color);
    let codes = '';
    for (const character of text) codes += this.#glyph(style.font, character).code;
    // the page counts from its top, text from its bottom
    this.#write(`BT /${embedded.id} ${style.size} Tf 1 0 0 -1 ${decimal(left)} ${decimal(y)} Tm <${codes}> Tj ET`);
  }

  line(
    from: readonly [number, number],
    to: readonly [number, number],
    { weight, color }: { readonly weight: number; readonly color: string },
  ): void {
    this.#document
      .moveTo(...from)
      .lineTo(...to)
      .lineWidth(weight)
      .stroke(color);
  }

  /** Without `fill` it is open, without `stroke` it has no edge. */
  rect(
    { x, y, width, height }: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
    { fill, stroke, weight }: { readonly fill: string | null; readonly stroke: string | null; readonly weight: number },
  ): void {
    if (fill === null && stroke === null) return;
    const drawn = this.#document.rect(x, y, width, height).lineWidth(weight);
    if (fill === null) return void drawn.stroke(stroke!);
    if (stroke === null) drawn.fill(fill);
    else drawn.fillAndStroke(fill, stroke);
    this.#fill = '';
  }

  /** Draws a part of the page. What it is goes into tagged documents only. */
  tagged(_: TagOptions, draw: () => void): void {
    draw();
  }

  /** A picture within a box, at its top right. @throws Error when it cannot be read */
  picture(
    bytes: Buffer,
    { x, y, width, height }: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  ): void {
    this.#document.image(bytes, x, y, { fit: [width, height], align: 'right' });
  }

  /** Ends the document. */
  finish(): Promise<Buffer> {
    this.#document.end();
    return this.#bytes;
  }

  #font(name: PdfFont) {
    const known = this.#fonts.get(name);
    if (known) return known;
    // the embedded font behind the document's current one: its glyph codes are asked for one by one
    const document = this.#document as unknown as FontDocument;
    const read = readFonts.get(name);
    if (read) document._fontFamilies[name] = new read.Embedded(document, read.font, `F${++document._fontCount}`);
    else this.#document.registerFont(name, fontFile(name));
    this.#document.font(name);
    const { _font: embedded } = document;
    if (!read) readFonts.set(name, { font: embedded.font, Embedded: embedded.constructor as ReadFont['Embedded'] });
    const made: Font = { embedded, glyphs: new Map(), named: new Set() };
    this.#fonts.set(name, made);
    return made;
  }

  #glyph(name: PdfFont, character: string): Glyph {
    const { embedded, glyphs, named } = this.#font(name);
    const known = glyphs.get(character);
    if (known) return known;
    const [codes, positions] = embedded.encode(character);
    // a font that documents share knows a glyph by the first character that any of them had for it, or by none
    const glyph = codes.length === 1 ? parseInt(codes[0]!, 16) : MISSING;
    if (glyph !== MISSING && !named.has(glyph)) {
      embedded.unicode[glyph] = [character.codePointAt(0)!];
      named.add(glyph);
    }
    const made = { code: codes.join(''), advance: positions.reduce((sum, { advanceWidth }) => sum + advanceWidth, 0) };
    glyphs.set(character, made);
    return made;
  }

  #fillWith(color: string): void {
    if (this.#fill === color) return;
    this.#document.fillColor(color);
    this.#fill = color;
  }

  #write(content: string): void {
    (this.#document as unknown as { readonly addContent: (content: string) => void }).addContent(content);
  }
}

/** A coordinate in hundredths of a point. */
const decimal = (value: number): number => Math.round(value * 100) / 100;

/** How lines are set, and how wide they may be. */
type LineStyle = Pick<TextStyle, 'font' | 'size'> & { readonly width: number };

/** A text in lines no wider than a width, broken between words, and within a word that is wider than a line. */
export function wrapped(writer: Pick<Surface, 'widthOf'>, text: string, line: LineStyle): string[] {
  const { width, ...style } = line;
  const space = writer.widthOf(' ', style);
  const lines: string[] = [];
  let row = '';
  let used = 0;
  for (const word of text.split(' ').flatMap((each) => pieces(writer, each, line))) {
    const wide = writer.widthOf(word, style);
    if (row !== '' && used + space + wide > width) {
      lines.push(row);
      row = word;
      used = wide;
    } else {
      used += (row === '' ? 0 : space) + wide;
      row = row === '' ? word : `${row} ${word}`;
    }
  }
  return [...lines, row];
}

/** A word that is wider than a line, in pieces that fit; every other as it is. */
function pieces(writer: Pick<Surface, 'widthOf'>, word: string, { width, ...style }: LineStyle): string[] {
  if (writer.widthOf(word, style) <= width) return [word];
  const made: string[] = [];
  let piece = '';
  let used = 0;
  for (const character of word) {
    const wide = writer.widthOf(character, style);
    if (piece !== '' && used + wide > width) {
      made.push(piece);
      piece = '';
      used = 0;
    }
    piece += character;
    used += wide;
  }
  return [...made, piece];
}
