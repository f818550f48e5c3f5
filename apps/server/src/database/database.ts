import { chmodSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';

import { QueryTypes, Sequelize, Transaction } from 'sequelize';

import { ChangeWatch } from './change-watch.ts';
import { rowAside, sqliteDriver } from './driver.ts';
import { firstTables } from './migrations/0001-first-tables.ts';
import { views } from './migrations/0002-views.ts';
import { statistics } from './migrations/0003-statistics.ts';
import { display } from './migrations/0004-display.ts';
import { budgetWork } from './migrations/0005-budget-work.ts';
import { balancePlan } from './migrations/0006-balance-plan.ts';
import { importChoices } from './migrations/0007-import-choices.ts';
import { lineRules } from './migrations/0008-line-rules.ts';
import { demoCompanies } from './migrations/0009-demo-companies.ts';
import { plainWords } from './migrations/0010-plain-words.ts';
import { filterParameters } from './migrations/0011-filter-parameters.ts';
import { auditChain } from './migrations/0012-audit-chain.ts';
import { entriesByDate } from './migrations/0013-entries-by-date.ts';
import { entryChanges } from './migrations/0014-entry-changes.ts';
import { periods } from './migrations/0015-periods.ts';
import { findings } from './migrations/0016-findings.ts';
import { postingAnswers } from './migrations/0017-posting-answers.ts';
import { search } from './migrations/0018-search.ts';
import { reconciliation } from './migrations/0019-reconciliation.ts';
import { lineDrivers } from './migrations/0020-line-drivers.ts';
import { packs } from './migrations/0021-packs.ts';
import { mail } from './migrations/0022-mail.ts';
import { schedules } from './migrations/0023-schedules.ts';
import { companyGroups } from './migrations/0024-company-groups.ts';
import { companyRuns } from './migrations/0025-company-runs.ts';
import { packShares } from './migrations/0026-pack-shares.ts';
import { scheduledWork } from './migrations/0027-scheduled-work.ts';
import { forAllCompanies } from './migrations/0028-for-all-companies.ts';
import { sharedLines } from './migrations/0029-shared-lines.ts';
import { lastActualMonth } from './migrations/0030-last-actual-month.ts';
import { statisticSeries } from './migrations/0031-statistic-series.ts';
import { requestKeys } from './migrations/0032-request-keys.ts';
import { defineModels, type Models } from './models.ts';
import { keyUnderWay } from './request-key.ts';

const MIGRATIONS = [
  firstTables,
  views,
  statistics,
  display,
  budgetWork,
  balancePlan,
  importChoices,
  lineRules,
  demoCompanies,
  plainWords,
  filterParameters,
  auditChain,
  entriesByDate,
  entryChanges,
  periods,
  findings,
  postingAnswers,
  search,
  reconciliation,
  lineDrivers,
  packs,
  mail,
  schedules,
  companyGroups,
  companyRuns,
  packShares,
  scheduledWork,
  forAllCompanies,
  sharedLines,
  lastActualMonth,
  statisticSeries,
  requestKeys,
];
type Bindings = readonly (string | number | Buffer | null)[];

/** The one connection of a process to its data folder. */
export type Database = {
  readonly directory: string;
  readonly models: Models;
  /** Rows of a SELECT; `$1`, `$2` stand for the bindings. */
  readonly select: <Row extends object>(sql: string, bindings?: Bindings, transaction?: Transaction) => Promise<Row[]>;
  /** One row of a query that takes long, read on a connection of its own, so that no other request waits for it. */
  readonly selectAside: <Row extends object>(sql: string, bindings?: Bindings) => Promise<Row | undefined>;
  /** A number that is another one after each change that any process made to the folder. */
  readonly version: () => Promise<number>;
  /** What a small read that most requests need found, read again after any change; see `ChangeWatch`. */
  readonly remembered: ChangeWatch['remembered'];
  /** Runs work that writes, alone, in one transaction: all of it or none. */
  readonly write: <Result>(work: (transaction: Transaction) => Promise<Result>) => Promise<Result>;
  /** Runs a statement inside a transaction of `write`. */
  readonly run: (sql: string, bindings: Bindings, transaction: Transaction) => Promise<void>;
  readonly close: () => Promise<void>;
};

/**
 * Opens the database in a folder, making the folder and the tables when absent.
 * SQLite takes one writer at a time and Sequelize opens a connection for each transaction, so writes
 * wait in one queue; reads go on beside them (WAL). Another process's writes are waited for.
 */
export async function openDatabase(directory: string): Promise<Database> {
  openFolder(directory);
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    dialectModule: sqliteDriver,
    storage: join(directory, 'wise-margin.sqlite'),
    logging: false,
    transactionType: Transaction.TYPES.IMMEDIATE,
  });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await migrate(sequelize);
  const watch = new ChangeWatch(join(directory, 'wise-margin.sqlite'));

  let queue: Promise<unknown> = Promise.resolve();
  return {
    directory,
    models: defineModels(sequelize),
    select: <Row extends object>(sql: string, bindings: Bindings = [], transaction?: Transaction) =>
      sequelize.query<Row>(sql, { type: QueryTypes.SELECT, bind: [...bindings], ...(transaction ? { transaction } : {}) }),
    selectAside: <Row extends object>(sql: string, bindings: Bindings = []) =>
      rowAside<Row>(join(directory, 'wise-margin.sqlite'), sql, bindings),
    version: () => watch.version(),
    remembered: (key, read) => watch.remembered(key, read),
    write: (work) => {
      const key = keyUnderWay();
      const turn = queue.then(() =>
        // IMMEDIATE: a writer of another process is waited for before anything is read
        sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
          if (key === undefined || key.isWritten) return work(transaction);
          await sequelize.query('INSERT INTO request_keys (key, request, at) VALUES ($1, $2, $3)', {
            type: QueryTypes.RAW,
            bind: [key.key, key.request, key.at],
            transaction,
          });
          // a transaction that fails takes the key back with it
          transaction.afterCommit(() => void (key.isWritten = true));
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
      await watch.close();
      await sequelize.close();
    },
  };
}

/** The folder and what is made in it are for their owner alone. */
function openFolder(directory: string): void {
  mkdirSync(directory, { recursive: true, mode: 0o700 });
  chmodSync(directory, 0o700);
}

async function migrate(sequelize: Sequelize): Promise<void> {
  if (await isUpToDate(sequelize)) return;
  // read only where there is something to migrate: it takes a good part of a start
  const { SequelizeStorage, Umzug } = await import('umzug');
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, statements, fill, finally: last = [] }) => ({
      name,
      up: () =>
        sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
          for (const statement of statements) await sequelize.query(statement, { transaction });
          await fill?.(sequelize, transaction);
          for (const statement of last) await sequelize.query(statement, { transaction });
        }),
    })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  await umzug.up();
}

/** Whether every migration was made before. */
async function isUpToDate(sequelize: Sequelize): Promise<boolean> {
  const select = { type: QueryTypes.SELECT } as const;
  const tables = await sequelize.query(`SELECT 1 FROM sqlite_schema WHERE name = 'SequelizeMeta'`, select);
  if (tables.length === 0) return false;
  const made = new Set((await sequelize.query<{ name: string }>('SELECT name FROM SequelizeMeta', select)).map(({ name }) => name));
  return MIGRATIONS.every(({ name }) => made.has(name));
}
