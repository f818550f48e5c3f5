import type { Database } from '../database/database.ts';

// soon enough that an open statement follows a change within a tenth of a second
const MILLISECONDS_BETWEEN = 40;

type Listener = (version: number) => void;

/** Tells whoever listens when the books of a company have a newer version, whichever process wrote it. Looks only while somebody listens. */
export class VersionFeed {
  readonly #database: Database;
  readonly #listeners = new Map<number, Set<Listener>>();
  readonly #known = new Map<number, number>();
  #timer: NodeJS.Timeout | null = null;
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
    if (this.#timer === null) this.#wait();
    return () => {
      listeners.delete(listener);
      if (listeners.size > 0) return;
      this.#listeners.delete(companyId);
      this.#known.delete(companyId);
    };
  }

  close(): void {
    this.#isClosed = true;
    if (this.#timer) clearTimeout(this.#timer);
  }

  #wait(): void {
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => {
      this.#look().then(
        () => this.#goOn(),
        // the database is closing, or busy beyond its patience: the next look finds what this one missed
        () => this.#goOn(),
      );
    }, MILLISECONDS_BETWEEN);
    this.#timer.unref();
  }

  #goOn(): void {
    if (this.#listeners.size > 0) this.#wait();
    else this.#timer = null;
  }

  async #look(): Promise<void> {
    const rows = await this.#database.select<{ id: number; version: number }>('SELECT id, version FROM companies');
    for (const { id, version } of rows) this.tell(id, version);
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
