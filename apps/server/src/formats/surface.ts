import type { PdfFont, TextStyle } from './pdf-type.ts';

/** What a part of a page is to a reader that cannot see it. */
export type TagRole = 'Sect' | 'H1' | 'H2' | 'H3' | 'P' | 'L' | 'LI' | 'Table' | 'TR' | 'TH' | 'TD' | 'Figure' | 'Note' | 'Artifact';
export type TagOptions = {
  readonly role: TagRole;
  /** the same key again continues the part, such as a table on its next page */
  readonly key?: string;
  /** of a figure: what it shows, in words */
  readonly alt?: string;
  /** of a heading cell: what it is over */
  readonly scope?: 'Row' | 'Column';
};
/** A part of a document: what it is, and the part it belongs to (-1 for none). */
export type Tag = {
  readonly role: TagRole;
  readonly parent: number;
  readonly alt: string;
  readonly scope: 'Row' | 'Column' | null;
};
type Point = readonly [x: number, y: number];

/** Somewhere to draw: a PDF, or pages that are drawn later. In points from the top left of the page. */
export type Surface = {
  readonly widthOf: (text: string, style: { readonly font: PdfFont; readonly size: number }) => number;
  /** Writes a text on one line; `y` is its baseline, `x` its left end, or with `align` its right end or middle. */
  readonly text: (
    text: string,
    at: { readonly x: number; readonly y: number; readonly align?: 'left' | 'right' | 'center' },
    style: TextStyle,
  ) => void;
  readonly line: (from: Point, to: Point, style: { readonly weight: number; readonly color: string }) => void;
  /** Without `fill` it is open, without `stroke` it has no edge. */
  readonly rect: (
    box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
    style: { readonly fill: string | null; readonly stroke: string | null; readonly weight: number },
  ) => void;
  /** Draws a part of the page and says what it is. */
  readonly tagged: (tag: TagOptions, draw: () => void) => void;
};
