import { closeSync, createReadStream, openSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

/** The files an import waits in between its check and its posting, in a folder of its own. */
export const stagedPath = (
  directory: string,
  name: 'accounts.csv' | 'ledger.csv' | 'entries.ndjson' | 'lines.ndjson' | 'balances.ndjson' | 'issues.ndjson' | 'setup.json',
): string => join(directory, name);

const ROWS_IN_CHUNK = 4000;

/** Writes rows as lines of JSON arrays, each line a chunk that is later posted as it stands. */
export class ChunkWriter {
  readonly #file: number;
  #rows: unknown[] = [];

  constructor(path: string) {
    this.#file = openSync(path, 'w');
  }
  add(row: unknown): void {
    this.#rows.push(row);
    if (this.#rows.length >= ROWS_IN_CHUNK) this.#flush();
  }
  close(): void {
    this.#flush();
    closeSync(this.#file);
  }
  #flush(): void {
    if (this.#rows.length > 0) writeSync(this.#file, `${JSON.stringify(this.#rows)}\n`);
    this.#rows = [];
  }
}

/** The chunks of a staged file, in order, as the JSON text they were written in. */
export function stagedChunks(path: string): AsyncIterable<string> {
  return createInterface({ input: createReadStream(path, { encoding: 'utf8', highWaterMark: 1 << 20 }), crlfDelay: Infinity });
}

const CHARACTERS_HELD = 1 << 16;

/** Writes one JSON object a line, gathered so that a file of nothing but faults is still quick. */
export class LineWriter {
  readonly #file: number;
  #text = '';
  #count = 0;

  constructor(path: string) {
    this.#file = openSync(path, 'w');
  }
  get count(): number {
    return this.#count;
  }
  add(value: object): void {
    this.#count += 1;
    this.#text += `${JSON.stringify(value)}\n`;
    if (this.#text.length > CHARACTERS_HELD) this.#flush();
  }
  close(): void {
    this.#flush();
    closeSync(this.#file);
  }
  #flush(): void {
    writeSync(this.#file, this.#text);
    this.#text = '';
  }
}
