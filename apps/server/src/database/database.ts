import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { Umzug, SequelizeStorage } from 'umzug';
import { firstTables } from './migrations/0001-first-tables.ts';
import { views } from './migrations/0002-views.ts';
import { statistics } from './migrations/0003-statistics.ts';
import { display } from './migrations/0004-display.ts';
import { budgetWork } from './migrations/0005-budget-work.ts';
import { balancePlan } from './migrations/0006-balance-plan.ts';
import { defineModels, type Models } from './models.ts';

const MIGRATIONS = [firstTables, views, statistics, display, budgetWork, balancePlan];
// each transaction has a connection of its own; a large import needs its indexes' pages in memory
const WRITER_PRAGMAS = ['PRAGMA busy_timeout = 10000', 'PRAGMA cache_size = -131072', 'PRAGMA temp_store = MEMORY'];
type Bindings = readonly (string | number | null)[];

/** The one connection of a process to its data folder. */
export type Database = {
  readonly directory: string;
  readonly models: Models;
  /** Rows of a SELECT; `$1`, `$2` stand for the bindings. */
  readonly select: <Row extends object>(sql: string, bindings?: Bindings, transaction?: Transaction) => Promise<Row[]>;
  /** Runs work that writes, alone, in one transaction: all of it or none. */
  readonly write: <Result>(work: (transaction: Transaction) => Promise<Result>) => Promise<Result>;
  /** Runs a statement inside a transaction of `write`. */
  readonly run: (sql: string, bindings: Bindings, transaction: Transaction) => Promise<void>;
  readonly close: () => Promise<void>;
};

/**
 * Opens the database in a folder, making the folder and the tables when absent.
 * SQLite takes one writer at a time and Sequelize opens a connection for each transaction, so writes
 * stand in one queue; reads go on beside them (WAL).
 */
export async function openDatabase(directory: string): Promise<Database> {
  mkdirSync(directory, { recursive: true });
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: join(directory, 'wise-margin.sqlite'), logging: false });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA synchronous = NORMAL');
  await sequelize.query('PRAGMA busy_timeout = 10000');
  await migrate(sequelize);

  let queue: Promise<unknown> = Promise.resolve();
  return {
    directory,
    models: defineModels(sequelize),
    select: <Row extends object>(sql: string, bindings: Bindings = [], transaction?: Transaction) =>
      sequelize.query<Row>(sql, { type: QueryTypes.SELECT, bind: [...bindings], ...(transaction ? { transaction } : {}) }),
    write: (work) => {
      const turn = queue.then(() =>
        sequelize.transaction(async (transaction) => {
          for (const pragma of WRITER_PRAGMAS) await sequelize.query(pragma, { transaction });
          return work(transaction);
        }),
      );
      // the caller gets the failure; the next in the queue must still have its turn
      queue = turn.catch(() => undefined);
      return turn;
    },
    run: async (sql, bindings, transaction) => {
      await sequelize.query(sql, { type: QueryTypes.RAW, bind: [...bindings], transaction });
    },
    close: async () => {
      await queue;
      await sequelize.close();
    },
  };
}

async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, statements }) => ({
      name,
      up: () =>
        sequelize.transaction(async (transaction) => {
          for (const statement of statements) await sequelize.query(statement, { transaction });
        }),
    })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  await umzug.up();
}
