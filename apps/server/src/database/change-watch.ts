import { watchedVersion } from './driver.ts';

/** What was read since the database last changed. */
type Held = { readonly version: number; readonly values: Map<string, Promise<unknown>> };

/**
 * Notices when anything in a database has changed, by a connection that does nothing else: whichever connection of
 * whichever process wrote it counts. Small reads that most requests begin with are remembered until then.
 */
export class ChangeWatch {
  readonly #watched: ReturnType<typeof watchedVersion>;
  #held: Held = { version: Number.NaN, values: new Map() };

  constructor(file: string) {
    this.#watched = watchedVersion(file);
  }

  /** A number that is another one after each change, and never compares with that of another watch. */
  version(): Promise<number> {
    return this.#watched.version();
  }

  /**
   * A value as it was last read, read again after any change.
   * @param key names what is read; the same key always reads the same
   * @param read reads it outside a transaction; whoever gets the value leaves it as it is
   */
  async remembered<Value>(key: string, read: () => Promise<Value>): Promise<Value> {
    const version = await this.version();
    // read after the version: what it finds may be newer than that, never older
    if (this.#held.version !== version) this.#held = { version, values: new Map() };
    const { values } = this.#held;
    const value = (values.get(key) as Promise<Value> | undefined) ?? read();
    values.set(key, value);
    // a failed read fails for whoever asked; the next request tries again
    value.catch(() => values.delete(key));
    return value;
  }

  close(): Promise<void> {
    return this.#watched.close();
  }
}
