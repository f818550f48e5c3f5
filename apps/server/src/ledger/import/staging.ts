import { closeSync, openSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';

import { Sequelize } from 'sequelize';

/** The files an import waits in between its check and its posting, in a folder of its own. */
export const stagedPath = (
  directory: string,
  name: 'accounts.csv' | 'ledger.csv' | 'staged.sqlite' | 'issues.ndjson' | 'setup.json',
): string => join(directory, name);

type Value = string | number | null;
/** The columns of each staged table, in the order rows are added in. */
export const STAGED_COLUMNS = {
  entries: ['id', 'number', 'date', 'period_code', 'source', 'kind', 'state'],
  lines: ['id', 'entry_id', 'account_id', 'period_code', 'amount', 'combination_id', 'party_id', 'memo', 'document', 'due'],
  balances: ['account_id', 'period_code', 'combination_id', 'layer', 'debit', 'credit'],
} as const;
export type StagedTable = keyof typeof STAGED_COLUMNS;

const ROWS_IN_CHUNK = 4000;
const CHUNKS_WAITING = 4;

/**
 * Writes staged rows into a database of their own beside the uploaded files, while the reading goes
 * on: SQLite works on another thread, so that a check costs no more for it.
 */
export class StagingWriter {
  readonly #database: Sequelize;
  readonly #rows: Record<StagedTable, (readonly Value[])[]> = { entries: [], lines: [], balances: [] };
  #waiting = 0;
  #written: Promise<unknown> = Promise.resolve();
  #failure: Error | null = null;
  #isClosed = false;

  private constructor(database: Sequelize) {
    this.#database = database;
  }

  /** Starts again; what an earlier check staged is dropped. */
  static async open(path: string): Promise<StagingWriter> {
    rmSync(path, { force: true });
    const database = new Sequelize({ dialect: 'sqlite', storage: path, logging: false });
    // the file is thrown away when a check is cut off, so it needs no journal
    await database.query('PRAGMA journal_mode = OFF');
    await database.query('PRAGMA synchronous = OFF');
    for (const [table, [first, ...columns]] of Object.entries(STAGED_COLUMNS))
      await database.query(`CREATE TABLE ${table} (${first}${first === 'id' ? ' INTEGER PRIMARY KEY' : ''}, ${columns.join(', ')})`);
    return new StagingWriter(database);
  }

  add(table: StagedTable, row: readonly Value[]): void {
    const rows = this.#rows[table];
    rows.push(row);
    if (rows.length >= ROWS_IN_CHUNK) this.#flush(table);
  }

  /** Whether so much waits to be written that reading on should wait too. */
  get isBehind(): boolean {
    return this.#waiting >= CHUNKS_WAITING;
  }

  /** Resolves when everything added so far is written. @throws what SQLite failed with */
  async settled(): Promise<void> {
    await this.#written;
    if (this.#failure) throw this.#failure;
  }

  /** Writes what is left and closes the file; closing it again does nothing. */
  async close(): Promise<void> {
    if (this.#isClosed) return;
    this.#isClosed = true;
    try {
      for (const table of Object.keys(this.#rows) as StagedTable[]) this.#flush(table);
      await this.settled();
    } finally {
      await this.#database.close();
    }
  }

  #flush(table: StagedTable): void {
    const rows = this.#rows[table];
    if (rows.length === 0) return;
    this.#rows[table] = [];
    const text = JSON.stringify(rows);
    const values = STAGED_COLUMNS[table].map((_, index) => `value ->> ${index}`).join(', ');
    this.#waiting += 1;
    this.#written = this.#written
      .then(() =>
        this.#failure ? undefined : this.#database.query(`INSERT INTO ${table} SELECT ${values} FROM json_each($1)`, { bind: [text] }),
      )
      .catch((error: unknown) => {
        this.#failure = error instanceof Error ? error : new Error(String(error));
      })
      .finally(() => (this.#waiting -= 1));
  }
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
