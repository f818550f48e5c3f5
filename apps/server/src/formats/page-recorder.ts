import type { PageMark } from '@wise-margin/contract';

import { textWidth } from './font-metrics.ts';
import type { TextStyle } from './pdf-type.ts';
import type { Surface, Tag, TagOptions } from './surface.ts';

/** What is drawn, with the part of the document it belongs to (-1 for decoration). */
export type RecordedMark = { readonly mark: PageMark; readonly tag: number };
export type RecordedPage = { readonly width: number; readonly height: number; readonly marks: RecordedMark[] };
/** Pages that can be drawn again: on screen, or in a PDF. */
export type Recording = { readonly pages: readonly RecordedPage[]; readonly tags: readonly Tag[] };

const rounded = (value: number): number => Math.round(value * 100) / 100;

/** Takes down what is drawn, page by page. */
export class PageRecorder implements Surface {
  readonly pages: RecordedPage[] = [];
  readonly tags: Tag[] = [];
  readonly #byKey = new Map<string, number>();
  #page: RecordedPage | null = null;
  #tag = -1;

  addPage(width: number, height: number): void {
    this.#page = { width, height, marks: [] };
    this.pages.push(this.#page);
  }

  /** Draws on a page made before, such as its number when all pages are there. */
  onPage(index: number, draw: () => void): void {
    const before = this.#page;
    this.#page = this.pages[index]!;
    draw();
    this.#page = before;
  }

  widthOf(text: string, style: Pick<TextStyle, 'font' | 'size'>): number {
    return textWidth(text, style);
  }

  text(
    text: string,
    { x, y, align = 'left' }: { readonly x: number; readonly y: number; readonly align?: 'left' | 'right' | 'center' },
    { font, size, color }: TextStyle,
  ): void {
    if (text === '') return;
    const width = textWidth(text, { font, size });
    const left = align === 'left' ? x : x - width / (align === 'right' ? 1 : 2);
    this.#add({ kind: 'text', text, x: rounded(left), y: rounded(y), width: rounded(width), size, font, color });
  }

  line(
    [x1, y1]: readonly [number, number],
    [x2, y2]: readonly [number, number],
    { weight, color }: { readonly weight: number; readonly color: string },
  ): void {
    this.#add({ kind: 'line', x1: rounded(x1), y1: rounded(y1), x2: rounded(x2), y2: rounded(y2), weight, color });
  }

  rect(
    { x, y, width, height }: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
    { fill, stroke, weight }: { readonly fill: string | null; readonly stroke: string | null; readonly weight: number },
  ): void {
    this.#add({ kind: 'rect', x: rounded(x), y: rounded(y), width: rounded(width), height: rounded(height), fill, stroke, weight });
  }

  /** The logo, within a box. */
  picture({ x, y, width, height }: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }): void {
    this.#add({ kind: 'picture', x, y, width, height });
  }

  tagged({ role, key, alt = '', scope }: TagOptions, draw: () => void): void {
    const before = this.#tag;
    // what is drawn as decoration is no part of the document, whatever is within it
    if (role === 'Artifact') this.#tag = -1;
    else {
      const known = key === undefined ? undefined : this.#byKey.get(key);
      this.#tag = known ?? this.tags.push({ role, parent: before, alt, scope: scope ?? null }) - 1;
      if (key !== undefined) this.#byKey.set(key, this.#tag);
    }
    draw();
    this.#tag = before;
  }

  #add(mark: PageMark): void {
    this.#page!.marks.push({ mark, tag: this.#tag });
  }
}
