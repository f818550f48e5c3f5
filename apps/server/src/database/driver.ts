import sqlite3 from 'sqlite3';

/** Milliseconds a connection waits for another process's write before it gives up. */
const BUSY_TIMEOUT = 15_000;
// each transaction has a connection of its own; a large import needs its indexes' pages in memory
const SETTINGS = `PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA cache_size = -131072; PRAGMA temp_store = MEMORY`;

type Opened = (this: sqlite3.Database, error: Error | null) => void;

/** A connection that waits for other writers and keeps what it acknowledged through a loss of power, from its first statement on. */
class SafeConnection extends sqlite3.Database {
  constructor(file: string, mode: number, opened: Opened) {
    super(file, mode, (error) => {
      if (error) return opened.call(this, error);
      this.configure('busyTimeout', BUSY_TIMEOUT);
      this.exec(SETTINGS, (failure) => opened.call(this, failure));
    });
  }
}

/** sqlite3 for Sequelize, with every connection set as ours are. */
export const sqliteDriver = { ...sqlite3, Database: SafeConnection };

/** One row of a query on a connection that only reads and is closed after it. */
export function rowAside<Row>(file: string, sql: string, bindings: readonly unknown[]): Promise<Row | undefined> {
  return new Promise((resolve, reject) => {
    const connection = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) => {
      if (error) return reject(error);
      connection.configure('busyTimeout', BUSY_TIMEOUT);
      connection.get<Row>(sql, bindings, (failure, row) =>
        connection.close((unclosed) => ((failure ?? unclosed) ? reject(failure ?? unclosed!) : resolve(row))),
      );
    });
  });
}

/** How often a database has changed, on a connection that asks for nothing else and therefore counts the changes of every other. */
export function watchedVersion(file: string): { readonly version: () => Promise<number>; readonly close: () => Promise<void> } {
  const connection = new sqlite3.Database(file, sqlite3.OPEN_READONLY);
  connection.configure('busyTimeout', BUSY_TIMEOUT);
  const statement = connection.prepare('PRAGMA data_version');
  return {
    version: () =>
      new Promise((resolve, reject) => {
        // `all` ends the statement, so that the next one sees what has changed since
        statement.all<{ readonly data_version: number }>((error, rows) => (error ? reject(error) : resolve(rows[0]!.data_version)));
      }),
    close: () =>
      new Promise((resolve, reject) => {
        statement.finalize(() => connection.close((error) => (error ? reject(error) : resolve())));
      }),
  };
}
