import type { EntryContent, LineContent } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Database } from '../../database/database.ts';

/** An entry as it is stored: its content, each line with its number in the database. */
export type StoredEntry = {
  readonly id: number;
  readonly number: string;
  readonly version: number;
  readonly content: StoredContent;
};
export type StoredContent = Omit<EntryContent, 'lines'> & { readonly lines: readonly (LineContent & { readonly id: number | null })[] };

/** The content of an entry `e` as JSON; earlier versions are kept in the same form. */
const CONTENT = `json_object('date', e.date, 'source', e.source, 'kind', e.kind, 'state', e.state, 'lines',
  json((SELECT json_group_array(json(line)) FROM (SELECT json_object('id', l.id, 'account', a.number, 'amount', l.amount, 'dimensions', json(c.dimension_values),
      'memo', l.memo, 'party', coalesce(p.name, ''), 'document', l.document, 'due', l.due) AS line
    FROM lines l JOIN accounts a ON a.id = l.account_id JOIN combinations c ON c.id = l.combination_id LEFT JOIN parties p ON p.id = l.party_id
    WHERE l.entry_id = e.id ORDER BY l.id))))`;

/** Entries with their content, in order of their ids; those that are not there are left out. */
export async function storedEntries(
  database: Database,
  { companyId, ids }: { readonly companyId: number; readonly ids: readonly number[] },
  transaction?: Transaction,
): Promise<StoredEntry[]> {
  const rows = await database.select<{ id: number; number: string; version: number; content: string }>(
    `SELECT e.id, e.number, e.version, ${CONTENT} AS content FROM entries e WHERE e.company_id = $1 AND e.id IN (SELECT value FROM json_each($2)) ORDER BY e.id`,
    [companyId, JSON.stringify(ids)],
    transaction,
  );
  return rows.map(({ content, ...row }) => ({ ...row, content: JSON.parse(content) as StoredContent }));
}

/** Keeps entries as they are, before a change replaces them. */
export const keepVersions = (
  database: Database,
  { change, ids }: { readonly change: number; readonly ids: readonly number[] },
  transaction: Transaction,
): Promise<void> =>
  database.run(
    `INSERT INTO entry_versions (entry_id, version, change_id, content)
     SELECT e.id, e.version, $1, ${CONTENT} FROM entries e WHERE e.id IN (SELECT value FROM json_each($2))`,
    [change, JSON.stringify(ids)],
    transaction,
  );
