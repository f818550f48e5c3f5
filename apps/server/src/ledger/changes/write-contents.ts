import { type FiscalCalendar, periodOfEntry } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import { periodCode } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import type { StoredContent } from './stored-entries.ts';

/** Dimension values as they are stored: sorted by name, without empty ones. */
export const combinationText = (dimensions: Readonly<Record<string, string>>): string =>
  JSON.stringify(
    Object.fromEntries(
      Object.entries(dimensions)
        .filter(([, value]) => value !== '')
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    ),
  );

type Written = { readonly id: number; readonly content: StoredContent };

/** Makes combinations of dimension values that are not there yet. @returns whether any was made */
export async function addCombinations(
  database: Database,
  { companyId, texts }: { readonly companyId: number; readonly texts: readonly string[] },
  transaction: Transaction,
): Promise<boolean> {
  const count = async () =>
    (
      await database.select<{ count: number }>('SELECT count(*) AS count FROM combinations WHERE company_id = $1', [companyId], transaction)
    )[0]!.count;
  const before = await count();
  await database.run(
    'INSERT INTO combinations (company_id, dimension_values) SELECT $1, value FROM json_each($2) WHERE true ON CONFLICT DO NOTHING',
    [companyId, JSON.stringify([...new Set(texts)])],
    transaction,
  );
  return (await count()) > before;
}

/** Makes an entry without lines yet, numbered after the last one a person made. */
export async function addEntry(
  database: Database,
  {
    companyId,
    corrects = null,
    reverses = null,
  }: { readonly companyId: number; readonly corrects?: number | null; readonly reverses?: number | null },
  transaction: Transaction,
): Promise<{ readonly id: number; readonly number: string }> {
  const [last] = await database.select<{ number: string | null }>(
    `SELECT max(number) AS number FROM entries WHERE company_id = $1 AND number GLOB '${MADE_BY_HAND}[0-9][0-9][0-9][0-9][0-9][0-9]'`,
    [companyId],
    transaction,
  );
  const next = Number((last?.number ?? '').slice(MADE_BY_HAND.length)) + 1;
  const number = `${MADE_BY_HAND}${String(next).padStart(6, '0')}`;
  await database.run(
    `INSERT INTO entries (company_id, number, date, period_code, source, kind, state, import_id, corrects, reverses) VALUES ($1, $2, '', 0, '', 'ordinary', 'draft', NULL, $3, $4)`,
    [companyId, number, corrects, reverses],
    transaction,
  );
  const [made] = await database.select<{ id: number }>('SELECT max(id) AS id FROM entries', [], transaction);
  return { id: made!.id, number };
}
const MADE_BY_HAND = 'AJ-';

/**
 * Gives entries the contents given. Lines keep their numbers in the database, those without one are added, others go.
 * Accounts are known and dates are within the calendar.
 * @returns whether customers, vendors, journals or combinations were added, which the books have to be read again for
 */
export async function writeContents(
  database: Database,
  { companyId, calendar, written }: { readonly companyId: number; readonly calendar: FiscalCalendar; readonly written: readonly Written[] },
  transaction: Transaction,
): Promise<boolean> {
  const entries = written.map(({ id, content }) => {
    const { year, number } = periodOfEntry(content, calendar)!;
    const lines = content.lines.map((line) => ({ ...line, dimensions: combinationText(line.dimensions) }));
    return { ...content, id, period: periodCode(year, number), lines };
  });
  const lines = entries.flatMap(({ id: entry, period, lines: of }) => of.map((line) => ({ ...line, entry, period })));
  const texts = lines.map(({ dimensions }) => dimensions);
  const parties = [...new Set(lines.flatMap(({ party }) => (party === '' ? [] : [party])))];
  const [known] = await database.select<{ parties: number; sources: number }>(
    `SELECT (SELECT count(*) FROM parties WHERE company_id = $1 AND name IN (SELECT value FROM json_each($2))) AS parties,
       (SELECT count(DISTINCT source) FROM entries WHERE company_id = $1 AND source IN (SELECT value FROM json_each($3))) AS sources`,
    [companyId, JSON.stringify(parties), JSON.stringify(entries.map(({ source }) => source))],
    transaction,
  );
  const hasNewCombination = await addCombinations(database, { companyId, texts }, transaction);
  await database.run(
    'INSERT INTO parties (company_id, name) SELECT $1, value FROM json_each($2) WHERE true ON CONFLICT DO NOTHING',
    [companyId, JSON.stringify(parties)],
    transaction,
  );
  await database.run(
    `UPDATE entries SET date = j.date, source = j.source, kind = j.kind, state = j.state, period_code = j.period
     FROM (SELECT value ->> 'id' AS id, value ->> 'date' AS date, value ->> 'source' AS source, value ->> 'kind' AS kind, value ->> 'state' AS state,
       value ->> 'period' AS period FROM json_each($1)) j WHERE entries.id = j.id`,
    [JSON.stringify(entries.map(({ lines: _, ...entry }) => entry))],
    transaction,
  );
  await database.run(
    `DELETE FROM lines WHERE entry_id IN (SELECT value FROM json_each($1)) AND id NOT IN (SELECT value FROM json_each($2))`,
    [JSON.stringify(entries.map(({ id }) => id)), JSON.stringify(lines.flatMap(({ id }) => (id === null ? [] : [id])))],
    transaction,
  );
  await database.run(
    `INSERT INTO lines (id, entry_id, account_id, period_code, amount, combination_id, party_id, memo, document, due)
     SELECT value ->> 'id', value ->> 'entry', a.id, value ->> 'period', value ->> 'amount', c.id, p.id, value ->> 'memo', value ->> 'document', value ->> 'due'
     FROM json_each($2) JOIN accounts a ON a.company_id = $1 AND a.number = value ->> 'account'
       JOIN combinations c ON c.company_id = $1 AND c.dimension_values = value ->> 'dimensions'
       LEFT JOIN parties p ON p.company_id = $1 AND p.name = value ->> 'party'
     WHERE true ORDER BY key
     ON CONFLICT (id) DO UPDATE SET account_id = excluded.account_id, period_code = excluded.period_code, amount = excluded.amount,
       combination_id = excluded.combination_id, party_id = excluded.party_id, memo = excluded.memo, document = excluded.document, due = excluded.due`,
    [companyId, JSON.stringify(lines)],
    transaction,
  );
  return hasNewCombination || known!.parties < parties.length || known!.sources < new Set(entries.map(({ source }) => source)).size;
}

/** Takes the lines out of entries, which stay on record as discarded. */
export async function discardEntries(database: Database, ids: readonly number[], transaction: Transaction): Promise<void> {
  const listed = JSON.stringify(ids);
  await database.run('DELETE FROM lines WHERE entry_id IN (SELECT value FROM json_each($1))', [listed], transaction);
  await database.run(`UPDATE entries SET state = 'discarded' WHERE id IN (SELECT value FROM json_each($1))`, [listed], transaction);
}
