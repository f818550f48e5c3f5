import { PageRecorder } from '../../formats/page-recorder.ts';
import { LONG, MARGIN, SHORT } from '../../formats/pdf-type.ts';

export const TOP = MARGIN + 6;
// what the foot of a page takes
const FOOT = 20;

/** Where on its pages a section is. */
export type Region = { readonly page: number; readonly section: string; readonly top: number; bottom: number };

/** Pages that are filled from top to bottom. */
export class PageFlow {
  readonly recorder = new PageRecorder();
  readonly regions: Region[] = [];
  #isPortrait = true;
  #section = '';
  #onNewPage: (() => void) | null = null;
  /** where the next thing goes */
  y = TOP;

  get isPortrait(): boolean {
    return this.#isPortrait;
  }
  get width(): number {
    return this.#isPortrait ? SHORT : LONG;
  }
  /** between the margins */
  get room(): number {
    return this.width - 2 * MARGIN;
  }
  get bottom(): number {
    return (this.#isPortrait ? LONG : SHORT) - MARGIN - FOOT;
  }
  get left(): number {
    return this.bottom - this.y;
  }
  get pageCount(): number {
    return this.recorder.pages.length;
  }

  /** Begins a page; within a section its running head is drawn. */
  newPage(isPortrait = this.#isPortrait): void {
    this.#endRegion();
    this.#isPortrait = isPortrait;
    this.recorder.addPage(isPortrait ? SHORT : LONG, isPortrait ? LONG : SHORT);
    this.y = TOP;
    if (this.#section !== '') this.#startRegion();
    this.#onNewPage?.();
  }

  /** Makes sure of some room, on a new page if need be. */
  ensure(height: number): void {
    if (this.left < height && this.y > TOP) this.newPage();
  }

  /** What follows belongs to a section. @param onNewPage draws the head of its further pages */
  section(id: string, onNewPage: (() => void) | null, draw: () => void): void {
    this.#section = id;
    this.#startRegion();
    this.#onNewPage = onNewPage;
    draw();
    this.#endRegion();
    this.#section = '';
    this.#onNewPage = null;
  }

  #startRegion(): void {
    this.regions.push({ page: this.pageCount - 1, section: this.#section, top: this.y, bottom: this.y });
  }
  #endRegion(): void {
    const last = this.regions.at(-1);
    if (this.#section !== '' && last) last.bottom = this.y;
  }
}
