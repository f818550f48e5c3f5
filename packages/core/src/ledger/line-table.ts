import type { Minor } from '../money/minor.ts';

/** A line of an entry as the table takes it. Numbers stand for names: positions in lists that the owner of the table keeps. */
export type TableLine = {
  readonly line: number;
  readonly entry: number;
  /** days since 1970-01-01 */
  readonly day: number;
  readonly slot: number;
  /** position in the chart */
  readonly account: number;
  /** debit positive */
  readonly amount: Minor;
  readonly combination: number;
  /** position in the parties in alphabetical order; -1 for none */
  readonly party: number;
  readonly source: number;
  readonly isDraft: boolean;
  /** of an entry that closes income accounts at the end of a year */
  readonly isClosing: boolean;
  /** entered by a person, not read from a file */
  readonly isManual: boolean;
  /** what a search by text looks in: number, document, memo and party */
  readonly text: string;
};

const [DRAFT, MANUAL, CLOSING] = [1, 2, 4];
/** The columns of a table, each with one value for every line. */
export type LineColumns = Pick<
  LineTable,
  'line' | 'entry' | 'day' | 'slot' | 'account' | 'amount' | 'combination' | 'party' | 'source' | 'flags' | 'texts' | 'starts'
>;

/**
 * Every line of a ledger as columns, in order of date, entry and line, so that any filter over a million
 * lines is one pass over numbers. Made once, and copied with the lines that change.
 */
export class LineTable {
  readonly count: number;
  readonly line: Float64Array;
  readonly entry: Float64Array;
  readonly day: Int32Array;
  readonly slot: Int16Array;
  readonly account: Int32Array;
  readonly amount: Float64Array;
  readonly combination: Int32Array;
  readonly party: Int32Array;
  readonly source: Int32Array;
  readonly flags: Uint8Array;
  /** the texts of all lines in lower case, each ended by a line feed */
  readonly texts: string;
  /** where the text of each line starts, and the end after the last */
  readonly starts: Int32Array;

  private constructor(columns: LineColumns) {
    this.count = columns.line.length;
    ({
      line: this.line,
      entry: this.entry,
      day: this.day,
      slot: this.slot,
      account: this.account,
      amount: this.amount,
      combination: this.combination,
      party: this.party,
      source: this.source,
      flags: this.flags,
      texts: this.texts,
      starts: this.starts,
    } = columns);
  }

  isDraft(position: number): boolean {
    return (this.flags[position]! & DRAFT) !== 0;
  }

  isManual(position: number): boolean {
    return (this.flags[position]! & MANUAL) !== 0;
  }

  isClosing(position: number): boolean {
    return (this.flags[position]! & CLOSING) !== 0;
  }

  /** A table of lines in any order. */
  static of(lines: Iterable<TableLine>): LineTable {
    const builder = new LineTableBuilder();
    for (const line of [...lines].sort((a, b) => a.day - b.day || a.entry - b.entry || a.line - b.line)) builder.add(line);
    return builder.finish();
  }

  /** @param columns in order of day, entry and line */
  static fromColumns(columns: LineColumns): LineTable {
    return new LineTable(columns);
  }

  /** The table without the lines of some entries, and with others. */
  with(change: { readonly without: ReadonlySet<number>; readonly added: readonly TableLine[] }): LineTable {
    const added = LineTable.of(change.added);
    const runs: Run[] = [];
    let from = 0;
    const keepTo = (to: number): void => {
      if (to > from) runs.push({ table: this, from, to });
    };
    for (let position = 0; position < this.count; position += 1) {
      if (!change.without.has(this.entry[position]!)) continue;
      keepTo(position);
      from = position + 1;
    }
    keepTo(this.count);
    return LineTable.#joined(runs.length === 0 ? wholeOf(added) : withAdded(runs, added));
  }

  /** Runs of lines one after the other, copied as blocks. */
  static #joined(runs: readonly Run[]): LineTable {
    const count = runs.reduce((sum, { from, to }) => sum + to - from, 0);
    const columns = newColumns(count);
    const starts = new Int32Array(count + 1);
    const texts: string[] = [];
    let at = 0;
    for (const { table, from, to } of runs) {
      for (const name of COLUMN_NAMES) columns[name].set(table[name].subarray(from, to), at);
      const shift = starts[at]! - table.starts[from]!;
      for (let position = from; position < to; position += 1) starts[at + position - from + 1] = table.starts[position + 1]! + shift;
      texts.push(table.texts.slice(table.starts[from]!, table.starts[to]!));
      at += to - from;
    }
    return new LineTable({ ...columns, texts: texts.join(''), starts });
  }
}

/** Lines of a table that follow one another, the last one left out. */
type Run = { readonly table: LineTable; readonly from: number; readonly to: number };
const wholeOf = (table: LineTable): Run[] => (table.count === 0 ? [] : [{ table, from: 0, to: table.count }]);

/** Runs cut where lines of another table come between. */
function withAdded(runs: readonly Run[], added: LineTable): Run[] {
  const joined: Run[] = [];
  let next = 0;
  for (const { table, from, to } of runs) {
    let start = from;
    while (next < added.count) {
      const place = firstAfter(table, { from: start, to }, [added, next]);
      if (place === to) break;
      if (place > start) joined.push({ table, from: start, to: place });
      joined.push({ table: added, from: next, to: next + 1 });
      next += 1;
      start = place;
    }
    if (to > start) joined.push({ table, from: start, to });
  }
  if (next < added.count) joined.push({ table: added, from: next, to: added.count });
  return joined;
}

const FIRST_CAPACITY = 1024;
const TEXTS_A_PIECE = 4096;

/** Takes lines one by one, so that a ledger of any length is read without holding its rows. */
export class LineTableBuilder {
  #count = 0;
  #numbers = newColumns(FIRST_CAPACITY);
  #starts = new Int32Array(FIRST_CAPACITY + 1);
  #piece: string[] = [];
  readonly #pieces: string[] = [];

  /** @param line the next one in order of day, entry and line */
  add(line: TableLine): void {
    const at = this.#count;
    if (at === this.#numbers.line.length) this.#grow();
    const numbers = this.#numbers;
    for (const name of FIELDS) numbers[name][at] = line[name];
    numbers.flags[at] = (line.isDraft ? DRAFT : 0) | (line.isManual ? MANUAL : 0) | (line.isClosing ? CLOSING : 0);
    const text = `${line.text.toLowerCase().replaceAll('\n', ' ')}\n`;
    this.#starts[at + 1] = this.#starts[at]! + text.length;
    this.#piece.push(text);
    if (this.#piece.length === TEXTS_A_PIECE) this.#closePiece();
    this.#count += 1;
  }

  finish(): LineTable {
    this.#closePiece();
    const count = this.#count;
    const columns = newColumns(count);
    for (const name of COLUMN_NAMES) columns[name].set(this.#numbers[name].subarray(0, count));
    return LineTable.fromColumns({ ...columns, texts: this.#pieces.join(''), starts: this.#starts.slice(0, count + 1) });
  }

  #closePiece(): void {
    this.#pieces.push(this.#piece.join(''));
    this.#piece = [];
  }

  #grow(): void {
    const larger = newColumns(this.#count * 2);
    for (const name of COLUMN_NAMES) larger[name].set(this.#numbers[name]);
    this.#numbers = larger;
    const starts = new Int32Array(this.#count * 2 + 1);
    starts.set(this.#starts);
    this.#starts = starts;
  }
}

const FIELDS = ['line', 'entry', 'day', 'slot', 'account', 'amount', 'combination', 'party', 'source'] as const;
const COLUMN_NAMES = [...FIELDS, 'flags'] as const;
const newColumns = (count: number) => ({
  line: new Float64Array(count),
  entry: new Float64Array(count),
  day: new Int32Array(count),
  slot: new Int16Array(count),
  account: new Int32Array(count),
  amount: new Float64Array(count),
  combination: new Int32Array(count),
  party: new Int32Array(count),
  source: new Int32Array(count),
  flags: new Uint8Array(count),
});

/** The first position of a range whose line comes after a line of another table; its end when there is none. */
function firstAfter(
  table: LineTable,
  range: { readonly from: number; readonly to: number },
  [other, there]: readonly [LineTable, number],
): number {
  let [low, high] = [range.from, range.to];
  while (low < high) {
    const middle = (low + high) >>> 1;
    const isAfter =
      table.day[middle]! - other.day[there]! || table.entry[middle]! - other.entry[there]! || table.line[middle]! - other.line[there]!;
    if (isAfter > 0) high = middle;
    else low = middle + 1;
  }
  return low;
}
