import { readFileSync } from 'node:fs';

import type { NewCompany } from '@wise-margin/contract';
import { LARGEST_MINOR } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import { closedTo } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { AuditChange } from '../../database/audit-chain.ts';
import type { Database } from '../../database/database.ts';
import { LINE_INDEXES } from '../../database/migrations/0001-first-tables.ts';
import { refused } from '../../http/problem.ts';
import type { NumberBase, StagedSetup } from './check-job.ts';
import { fingerprints, type Seal } from './seal.ts';
import { STAGED_COLUMNS, stagedPath, type StagedTable } from './staging.ts';

/** A company that an import makes; `isDemo` marks one of the demo companies from its first moment. */
export type CompanyToMake = NewCompany & { readonly isDemo?: boolean };

export type PostRequest = {
  readonly importId: number;
  readonly directory: string;
  readonly companyId: number | null;
  readonly newCompany: CompanyToMake | null;
  readonly base: NumberBase;
  /** of what the check staged */
  readonly seal: Seal;
  readonly actor: Actor;
  readonly onProgress?: (lines: number) => void;
};

/** Something else was posted after the check, or what it staged was altered: it has to be checked again. */
export class StaleCheckError extends Error {
  override readonly name = 'StaleCheckError';
}

const LINES_AT_ONCE = 50_000;
const columns = (table: StagedTable) => STAGED_COLUMNS[table].join(', ');
const INSERT_ENTRIES = `INSERT INTO entries (company_id, import_id, ${columns('entries')}) SELECT $1, $2, ${columns('entries')} FROM staged.entries ORDER BY id`;
const INSERT_LINES = `INSERT INTO lines (${columns('lines')}) SELECT ${columns('lines')} FROM staged.lines WHERE id BETWEEN $1 AND $2 ORDER BY id`;
const ADD_BALANCES = `INSERT INTO balances (company_id, ${columns('balances')}) SELECT $1, ${columns('balances')} FROM staged.balances WHERE true
  ON CONFLICT DO UPDATE SET debit = debit + excluded.debit, credit = credit + excluded.credit`;

/**
 * Posts a checked import in one transaction: accounts, entries, lines and balances, or nothing.
 * @returns the company's number
 * @throws StaleCheckError when rows were added since the check
 */
export async function postImport(database: Database, request: PostRequest): Promise<number> {
  const { importId, directory, newCompany, base, seal, actor } = request;
  const found = await fingerprints(directory);
  if (found === null || found.staged !== seal.staged || found.setup !== seal.setup)
    throw new StaleCheckError('what was staged is not what was checked');
  const setup = JSON.parse(readFileSync(stagedPath(directory, 'setup.json'), 'utf8')) as StagedSetup;
  return database.write(async (transaction) => {
    await refuseStale(database, base, transaction);
    const companyId =
      request.companyId ?? (await createCompany(database, { ...newCompany!, createdAt: actor.now().toISOString() }, transaction));
    const changes = await accountChanges(database, setup, transaction);
    await insertSetup(database, { companyId, setup }, transaction);
    await database.run('ATTACH DATABASE $1 AS staged', [stagedPath(directory, 'staged.sqlite')], transaction);
    await refuseUnsealed(database, seal, transaction);
    await refuseClosedSince(database, { companyId, person: actor.name }, transaction);
    await database.run(INSERT_ENTRIES, [companyId, importId], transaction);
    await insertLines(database, request, transaction);
    await database.run(ADD_BALANCES, [companyId], transaction);
    await refuseTooLarge(database, companyId, transaction);
    await database.models.companies.increment('version', { where: { id: companyId }, transaction });
    await database.models.imports.update(
      { state: 'posted', companyId, newCompany: null, postedAt: actor.now().toISOString() },
      { where: { id: importId }, transaction },
    );
    await recordAudit(
      database,
      { companyId, actor, action: 'import.post', subject: `import ${importId}`, details: { accounts: setup.accounts.length }, changes },
      transaction,
    );
    return companyId;
  });
}

const ACCOUNT_FIELDS = { name: 'name', group: 'group', active: 'active', polarity: 'normal balance', cashflow: 'cash flow' } as const;

/** What an import adds to the chart and changes in it, field by field. */
async function accountChanges(database: Database, setup: StagedSetup, transaction: Transaction): Promise<AuditChange[]> {
  const text = (value: string | boolean | null): string => (typeof value === 'boolean' ? (value ? 'yes' : 'no') : (value ?? ''));
  const added = setup.accounts.map(({ number, name }): AuditChange => ({ what: `Account ${number}`, from: null, to: name }));
  const changed = await Promise.all(
    setup.changedAccounts.map(async (after): Promise<AuditChange[]> => {
      const row = (await database.models.accounts.findByPk(after.id, { transaction }))!;
      const before = { name: row.name, group: row.groupName, active: Boolean(row.active), polarity: row.polarity, cashflow: row.cashflow };
      return (Object.keys(ACCOUNT_FIELDS) as (keyof typeof ACCOUNT_FIELDS)[]).flatMap((field) =>
        before[field] === after[field]
          ? []
          : [{ what: `Account ${row.number}, ${ACCOUNT_FIELDS[field]}`, from: text(before[field]), to: text(after[field]) }],
      );
    }),
  );
  return [...added, ...changed.flat()];
}

/**
 * Lines go in by the thousand, in order. When more come than are held, their indexes are made after
 * them, in the same transaction, which costs half of keeping them up row by row.
 */
async function insertLines(database: Database, { base, onProgress }: PostRequest, transaction: Transaction): Promise<void> {
  const [last] = await database.select<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM staged.lines', [], transaction);
  const count = Math.max(last!.id - base.lines, 0);
  const indexAfter = count > base.lines && count > LINES_AT_ONCE;
  if (indexAfter) for (const name of Object.keys(LINE_INDEXES)) await database.run(`DROP INDEX ${name}`, [], transaction);
  for (let from = base.lines + 1; from <= last!.id; from += LINES_AT_ONCE) {
    await database.run(INSERT_LINES, [from, from + LINES_AT_ONCE - 1], transaction);
    onProgress?.(Math.min(from + LINES_AT_ONCE - 1 - base.lines, count));
  }
  if (indexAfter) for (const statement of Object.values(LINE_INDEXES)) await database.run(statement, [], transaction);
}

async function refuseStale(database: Database, base: NumberBase, transaction: Transaction): Promise<void> {
  for (const [table, highest] of Object.entries(base)) {
    const [row] = await database.select<{ now: number }>(`SELECT coalesce(max(id), 0) AS now FROM ${table}`, [], transaction);
    if (row!.now !== highest) throw new StaleCheckError(`${table} changed after the import was checked`);
  }
}

/** The staged lines are as many as were checked, and add up to zero entry by entry. @throws StaleCheckError */
async function refuseUnsealed(database: Database, seal: Seal, transaction: Transaction): Promise<void> {
  const [found] = await database.select<{ entries: number; lines: number; unbalanced: number }>(
    `SELECT (SELECT count(*) FROM staged.entries) AS entries, (SELECT count(*) FROM staged.lines) AS lines,
       (SELECT count(*) FROM (SELECT 1 FROM staged.lines GROUP BY entry_id HAVING sum(amount) <> 0)) AS unbalanced`,
    [],
    transaction,
  );
  if (found!.entries !== seal.entries || found!.lines !== seal.lines || found!.unbalanced > 0)
    throw new StaleCheckError('the staged entries are not those that were checked');
}

/** A period that was closed since the check takes none of its entries. @throws StaleCheckError */
async function refuseClosedSince(
  database: Database,
  asked: { readonly companyId: number; readonly person: string },
  transaction: Transaction,
): Promise<void> {
  const closed = [...(await closedTo(database, asked, transaction)).keys()];
  const [found] = await database.select<{ period_code: number }>(
    'SELECT period_code FROM staged.entries WHERE period_code IN (SELECT value FROM json_each($1)) LIMIT 1',
    [JSON.stringify(closed)],
    transaction,
  );
  if (found) throw new StaleCheckError(`period ${found.period_code} was closed after the import was checked`);
}

/** All debits of a company together stay within what is exact. @throws ProblemError 422 */
async function refuseTooLarge(database: Database, companyId: number, transaction: Transaction): Promise<void> {
  const [found] = await database.select<{ debits: number; credits: number }>(
    'SELECT total(debit) AS debits, total(credit) AS credits FROM balances WHERE company_id = $1',
    [companyId],
    transaction,
  );
  if (Math.max(found!.debits, found!.credits) > LARGEST_MINOR)
    throw refused(
      'Together with what is posted already, the debits of the company would exceed 90,000,000,000,000. Check the amounts for extra digits. Nothing was posted.',
      'ledger',
    );
}

async function createCompany(
  database: Database,
  company: CompanyToMake & { readonly createdAt: string },
  transaction: Transaction,
): Promise<number> {
  const { name, currency, startMonth, hasAdjustmentPeriod, createdAt, isDemo = false } = company;
  const row = await database.models.companies.create(
    { name, currency, startMonth, hasAdjustmentPeriod, isDemo, createdAt },
    { transaction },
  );
  return row.id;
}

async function insertSetup(
  database: Database,
  { companyId, setup }: { readonly companyId: number; readonly setup: StagedSetup },
  transaction: Transaction,
): Promise<void> {
  const { models } = database;
  await models.fiscalYears.bulkCreate(
    setup.years.map((year) => ({ companyId, year })),
    { transaction },
  );
  for (const { group, ...account } of setup.accounts)
    await models.accounts.create({ companyId, groupName: group, ...account }, { transaction });
  for (const { id, group, ...changes } of setup.changedAccounts)
    await models.accounts.update({ groupName: group, ...changes }, { where: { id }, transaction });
  for (const name of setup.dimensions)
    await database.run('INSERT INTO dimensions (company_id, name) VALUES ($1, $2)', [companyId, name], transaction);
  await database.run(
    `INSERT INTO combinations (id, company_id, dimension_values) SELECT value ->> 'id', $1, value ->> 'values' FROM json_each($2)`,
    [companyId, JSON.stringify(setup.combinations)],
    transaction,
  );
  await database.run(
    `INSERT INTO parties (id, company_id, name) SELECT value ->> 'id', $1, value ->> 'name' FROM json_each($2)`,
    [companyId, JSON.stringify(setup.parties)],
    transaction,
  );
}
