import type { PlacedLine } from './budget-books.ts';
import { isSameMonth } from './budget-line.ts';

/** A line as it was and as it is; `before` is null for one that was not there. */
export type LineChange = { readonly before: PlacedLine | null; readonly after: PlacedLine };

/** Where lines stand that are changed. */
type Lines = {
  readonly line: (id: number) => PlacedLine | undefined;
  readonly put: (line: PlacedLine) => void;
  readonly remove: (id: number) => void;
};

/** The lines of a worksheet as they were before a change, so that it can be described and undone. */
export class LineTrace {
  readonly #worksheet: Lines;
  readonly #before = new Map<number, PlacedLine | null>();

  constructor(worksheet: Lines) {
    this.#worksheet = worksheet;
  }

  get isEmpty(): boolean {
    return this.#before.size === 0;
  }
  put(line: PlacedLine): void {
    if (!this.#before.has(line.id)) this.#before.set(line.id, this.#worksheet.line(line.id) ?? null);
    this.#worksheet.put(line);
  }

  /** What differs by now. */
  changes(): LineChange[] {
    return [...this.#before].flatMap(([id, before]): LineChange[] => {
      const after = this.#worksheet.line(id);
      return after === undefined || (before !== null && isSame(before, after)) ? [] : [{ before, after }];
    });
  }

  undo(): void {
    for (const [id, line] of this.#before) {
      if (line) this.#worksheet.put(line);
      else this.#worksheet.remove(id);
    }
  }
}

function isSame(a: PlacedLine, b: PlacedLine): boolean {
  return JSON.stringify(a.basis) === JSON.stringify(b.basis) && a.months.every((month, index) => isSameMonth(month, b.months[index]!));
}
