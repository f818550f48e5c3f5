import {
  type BudgetBooks,
  type EntryAtAccount,
  isIncomeAccount,
  minor,
  type NonrecurringCandidate,
  nonrecurringCandidates,
  periodOfYear,
  smallestCandidate,
} from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

type Row = {
  readonly position: number;
  readonly period_code: number;
  readonly id: number;
  readonly number: string;
  readonly memo: string;
  readonly party: string | null;
  readonly party_id: number | null;
  readonly amount: number;
};

/** Possible nonrecurring items of a fiscal year, the largest first, without those excluded already. */
export async function readNonrecurring(
  database: Database,
  books: Books,
  { budgetBooks, year, projected }: { readonly budgetBooks: BudgetBooks; readonly year: number; readonly projected: boolean },
): Promise<NonrecurringCandidate[]> {
  const accounts = books.chart.accounts.flatMap((account, position) => (isIncomeAccount(account) ? [books.accountIds[position]!] : []));
  const rows = await database.select<Row>(
    `SELECT a.position, l.period_code, e.id, e.number, min(l.memo) AS memo, p.name AS party, max(l.party_id) AS party_id, sum(l.amount) AS amount
     FROM entries e JOIN lines l ON l.entry_id = e.id JOIN accounts a ON a.id = l.account_id LEFT JOIN parties p ON p.id = l.party_id
     WHERE e.company_id = $1 AND e.period_code BETWEEN $2 AND $3 AND e.state = 'posted' AND e.kind <> 'closing'
       AND l.account_id IN (SELECT value FROM json_each($4))
       AND NOT EXISTS (SELECT 1 FROM nonrecurring_items o WHERE o.company_id = $1 AND o.entry_id = e.id AND o.account_id = l.account_id)
     GROUP BY e.id, l.account_id HAVING abs(sum(l.amount)) >= $5`,
    [books.id, year * 100, year * 100 + 99, JSON.stringify(accounts), smallestCandidate(budgetBooks, year)],
  );
  const pairs = rows.flatMap(({ position, party_id: party }) => (party === null ? [] : [[books.accountIds[position]!, party] as const]));
  const known = await database.select<{ account_id: number; party_id: number }>(
    `SELECT DISTINCT l.account_id, l.party_id FROM lines l JOIN entries e ON e.id = l.entry_id
     WHERE e.company_id = $1 AND e.state = 'posted' AND e.kind <> 'closing' AND l.period_code NOT BETWEEN $2 AND $3
       AND (l.account_id, l.party_id) IN (SELECT value ->> 0, value ->> 1 FROM json_each($4))`,
    [books.id, year * 100, year * 100 + 99, JSON.stringify(pairs)],
  );
  const isKnown = new Set(known.map((row) => `${row.account_id}:${row.party_id}`));
  const entries = rows.flatMap((row): EntryAtAccount[] => {
    const period = periodOfYear(books.calendar, Math.floor(row.period_code / 100), row.period_code % 100);
    if (period === null) return [];
    return [
      {
        position: row.position,
        period,
        entry: { id: row.id, number: row.number },
        memo: row.memo,
        party: row.party,
        isPartyKnown: row.party_id !== null && isKnown.has(`${books.accountIds[row.position]!}:${row.party_id}`),
        amount: minor(row.amount),
      },
    ];
  });
  return nonrecurringCandidates({ books: budgetBooks, year, projected, entries });
}
