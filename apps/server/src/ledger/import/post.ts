import { readFileSync } from 'node:fs';
import type { Transaction } from 'sequelize';
import type { NewCompany } from '@wise-margin/contract';
import { recordAudit, type Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import type { NumberBase, StagedSetup } from './check-job.ts';
import { stagedChunks, stagedPath } from './staging.ts';

export type PostRequest = {
  readonly importId: number;
  readonly directory: string;
  readonly companyId: number | null;
  readonly newCompany: NewCompany | null;
  readonly base: NumberBase;
  readonly actor: Actor;
  readonly onProgress?: (lines: number) => void;
};

/** Something else was posted after the check; the staged row numbers no longer hold. */
export class StaleCheckError extends Error {
  override readonly name = 'StaleCheckError';
}

const values = (count: number) => Array.from({ length: count }, (_, index) => `value ->> ${index}`).join(', ');
const INSERT_ENTRIES = `INSERT INTO entries (company_id, import_id, id, number, date, period_code, source, kind, state) SELECT $1, $2, ${values(7)} FROM json_each($3)`;
const INSERT_LINES = `INSERT INTO lines (id, entry_id, account_id, period_code, amount, combination_id, party_id, memo, document, due) SELECT ${values(10)} FROM json_each($1)`;
const ADD_BALANCES = `INSERT INTO balances (company_id, account_id, period_code, combination_id, layer, debit, credit) SELECT $1, ${values(6)} FROM json_each($2) WHERE true
  ON CONFLICT DO UPDATE SET debit = debit + excluded.debit, credit = credit + excluded.credit`;

/**
 * Posts a checked import in one transaction: accounts, entries, lines and balances, or nothing.
 * @returns the company's number
 * @throws StaleCheckError when rows were added since the check
 */
export async function postImport(database: Database, request: PostRequest): Promise<number> {
  const { importId, directory, newCompany, base, actor } = request;
  const setup = JSON.parse(readFileSync(stagedPath(directory, 'setup.json'), 'utf8')) as StagedSetup;
  return database.write(async (transaction) => {
    await refuseStale(database, base, transaction);
    const companyId = request.companyId ?? (await createCompany(database, newCompany!, actor, transaction));
    await insertSetup(database, companyId, setup, transaction);
    for await (const chunk of stagedChunks(stagedPath(directory, 'entries.ndjson')))
      await database.run(INSERT_ENTRIES, [companyId, importId, chunk], transaction);
    let chunks = 0;
    for await (const chunk of stagedChunks(stagedPath(directory, 'lines.ndjson'))) {
      await database.run(INSERT_LINES, [chunk], transaction);
      chunks += 1;
      request.onProgress?.(chunks * 4000);
    }
    for await (const chunk of stagedChunks(stagedPath(directory, 'balances.ndjson')))
      await database.run(ADD_BALANCES, [companyId, chunk], transaction);
    await database.models.companies.increment('version', { where: { id: companyId }, transaction });
    await database.models.imports.update(
      { state: 'posted', companyId, newCompany: null, postedAt: actor.now().toISOString() },
      { where: { id: importId }, transaction },
    );
    await recordAudit(
      database,
      { companyId, actor, action: 'import.post', subject: `import ${importId}`, details: { accounts: setup.accounts.length } },
      transaction,
    );
    return companyId;
  });
}

async function refuseStale(database: Database, base: NumberBase, transaction: Transaction): Promise<void> {
  for (const [table, highest] of Object.entries(base)) {
    const [row] = await database.select<{ now: number }>(`SELECT coalesce(max(id), 0) AS now FROM ${table}`, [], transaction);
    if (row!.now !== highest) throw new StaleCheckError(`${table} changed after the import was checked`);
  }
}

async function createCompany(database: Database, company: NewCompany, actor: Actor, transaction: Transaction): Promise<number> {
  const { name, currency, startMonth, hasAdjustmentPeriod } = company;
  const row = await database.models.companies.create(
    { name, currency, startMonth, hasAdjustmentPeriod, createdAt: actor.now().toISOString() },
    { transaction },
  );
  return row.id;
}

async function insertSetup(database: Database, companyId: number, setup: StagedSetup, transaction: Transaction): Promise<void> {
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
