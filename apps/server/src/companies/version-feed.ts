import { type FSWatcher, watch } from 'node:fs';

import type { Database } from '../database/database.ts';

// soon enough that an open statement follows a change within a tenth of a second
const MILLISECONDS_AFTER_WRITE = 40;
// not every folder says when a file in it was written
const MILLISECONDS_BETWEEN = 1000;

type Listener = (version: number) => void;

/** Tells whoever listens when the books of a company have a newer version, whichever process wrote it. Looks only while somebody listens. */
export class VersionFeed {
  readonly #database: Database;
  readonly #listeners = new Map<number, Set<Listener>>();
  readonly #known = new Map<number, number>();
  /** the database as the last look found it; null when the next look has to read the versions */
  #seen: number | null = null;
  #timer: NodeJS.Timeout | null = null;
  #watcher: FSWatcher | null = null;
  #isWritten = false;
  #isClosed = false;

  constructor(database: Database) {
    this.#database = database;
  }

  /** @returns what ends the listening */
  listen(companyId: number, listener: Listener): () => void {
    const listeners = this.#listeners.get(companyId) ?? new Set();
    this.#listeners.set(companyId, listeners);
    listeners.add(listener);
    // whoever begins to listen hears the version there is
    const known = this.#known.get(companyId);
    if (known !== undefined) listener(known);
    else {
      this.#seen = null;
      this.#lookSoon();
    }
    return () => {
      listeners.delete(listener);
      if (listeners.size > 0) return;
      this.#listeners.delete(companyId);
      this.#known.delete(companyId);
      if (this.#listeners.size === 0) this.#rest();
    };
  }

  close(): void {
    this.#isClosed = true;
    this.#rest();
  }

  #rest(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#watcher?.close();
    this.#timer = this.#watcher = null;
    this.#isWritten = false;
  }

  /** Looks after the next writes of this moment, which come many at a time. */
  #lookSoon(): void {
    if (this.#isWritten) return;
    this.#isWritten = true;
    this.#wait(MILLISECONDS_AFTER_WRITE);
  }

  #wait(milliseconds: number): void {
    if (this.#isClosed) return;
    if (this.#timer) clearTimeout(this.#timer);
    this.#watcher ??= this.#watchFolder();
    this.#timer = setTimeout(() => {
      this.#isWritten = false;
      this.#timer = null;
      this.#look().then(
        () => this.#goOn(),
        // the database is closing, or busy beyond its patience: the next look finds what this one missed
        () => this.#goOn(),
      );
    }, milliseconds);
    this.#timer.unref();
  }

  #goOn(): void {
    if (this.#listeners.size > 0 && this.#timer === null) this.#wait(MILLISECONDS_BETWEEN);
  }

  /** Every change is first written to the log file of the database. Null where the system cannot watch the folder: changes are then found each second. */
  #watchFolder(): FSWatcher | null {
    try {
      const watcher = watch(this.#database.directory, (_, file) => {
        if (file?.endsWith('-wal') ?? true) this.#lookSoon();
      });
      watcher.unref();
      watcher.on('error', () => watcher.close());
      return watcher;
    } catch {
      return null;
    }
  }

  async #look(): Promise<void> {
    const version = await this.#database.version();
    if (version === this.#seen) return;
    const rows = await this.#database.select<{ id: number; version: number }>('SELECT id, version FROM companies');
    for (const row of rows) this.tell(row.id, row.version);
    this.#seen = version;
  }

  /** Tells a version at once, without waiting for the next look: of a change made by this process. An older one than is known tells nothing. */
  tell(companyId: number, version: number): void {
    const listeners = this.#listeners.get(companyId);
    const known = this.#known.get(companyId);
    if (!listeners || (known !== undefined && known >= version)) return;
    this.#known.set(companyId, version);
    for (const listener of listeners) listener(version);
  }
}
