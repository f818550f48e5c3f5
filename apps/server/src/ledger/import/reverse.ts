import type { Transaction } from 'sequelize';

import { refuseClosedPeriods } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import { ProblemError } from '../../http/problem.ts';

/**
 * Takes a posted import's entries out of the ledger, with its share of every balance. Accounts, fiscal
 * years, customers and vendors stay, since others may use them; the import stays on record as reversed.
 * @throws ProblemError 409 while something depends on its entries
 */
export async function reverseImport(
  database: Database,
  { importId, companyId, actor }: { readonly importId: number; readonly companyId: number; readonly actor: Actor },
): Promise<void> {
  await database.write(async (transaction) => {
    const [claimed] = await database.models.imports.update(
      { state: 'reversed' },
      { where: { id: importId, state: 'posted' }, transaction },
    );
    if (claimed === 0) throw new ProblemError(409, 'Not posted', `Import ${importId} is not posted, or is being reversed already.`);
    await refuseDependents(database, importId, transaction);
    const periods = await database.select<{ period_code: number }>(
      `SELECT DISTINCT period_code FROM entries WHERE import_id = $1 AND state = 'posted'`,
      [importId],
      transaction,
    );
    const codes = periods.map(({ period_code }) => period_code);
    await refuseClosedPeriods(database, { companyId, person: actor.name, codes }, transaction);
    const [counted] = await database.select<{ entries: number }>(
      'SELECT count(*) AS entries FROM entries WHERE import_id = $1',
      [importId],
      transaction,
    );
    await database.run(
      `INSERT INTO balances (company_id, account_id, period_code, combination_id, layer, debit, credit)
       SELECT $1, l.account_id, l.period_code, l.combination_id,
         CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END,
         -sum(max(l.amount, 0)), -sum(max(-l.amount, 0))
       FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.import_id = $2 GROUP BY 2, 3, 4, 5
       ON CONFLICT DO UPDATE SET debit = debit + excluded.debit, credit = credit + excluded.credit`,
      [companyId, importId],
      transaction,
    );
    await database.run('DELETE FROM lines WHERE entry_id IN (SELECT id FROM entries WHERE import_id = $1)', [importId], transaction);
    // of changes that were undone; the changes themselves stay on record
    await database.run(
      'DELETE FROM entry_versions WHERE entry_id IN (SELECT id FROM entries WHERE import_id = $1)',
      [importId],
      transaction,
    );
    await database.run('DELETE FROM entries WHERE import_id = $1', [importId], transaction);
    await database.run('DELETE FROM balances WHERE company_id = $1 AND debit = 0 AND credit = 0', [companyId], transaction);
    await database.models.companies.increment('version', { where: { id: companyId }, transaction });
    await recordAudit(
      database,
      { companyId, actor, action: 'import.reverse', subject: `import ${importId}`, details: { entries: counted!.entries } },
      transaction,
    );
  });
}

async function refuseDependents(database: Database, importId: number, transaction: Transaction): Promise<void> {
  const marked = await database.select<{ number: string }>(
    'SELECT DISTINCT e.number FROM nonrecurring_items o JOIN entries e ON e.id = o.entry_id WHERE e.import_id = $1 ORDER BY e.number LIMIT 6',
    [importId],
    transaction,
  );
  const changed = await database.select<{ number: string }>(
    `SELECT number FROM entries e WHERE import_id = $1 AND (
       EXISTS (SELECT 1 FROM entry_versions v JOIN entry_changes c ON c.id = v.change_id WHERE v.entry_id = e.id AND c.kind <> 'undo' AND c.undone_by IS NULL)
       OR EXISTS (SELECT 1 FROM entries o WHERE o.corrects = e.id AND o.state <> 'discarded'))
     ORDER BY number LIMIT 6`,
    [importId],
    transaction,
  );
  const words = (rows: readonly { readonly number: string }[]): string =>
    `${rows
      .slice(0, 5)
      .map(({ number }) => number)
      .join(', ')}${rows.length > 5 ? ' and more' : ''}`;
  if (marked.length > 0)
    throw new ProblemError(
      409,
      'In use',
      `Entries of import ${importId} are marked as nonrecurring: ${words(marked)}. Include them again first.`,
    );
  if (changed.length > 0)
    throw new ProblemError(
      409,
      'In use',
      `Entries of import ${importId} were corrected or reclassified since: ${words(changed)}. Undo those changes first, so that no correction is lost.`,
    );
}
