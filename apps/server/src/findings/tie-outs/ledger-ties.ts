import type { TieOutDto } from '@wise-margin/contract';

import { type Books, periodName } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import { pair, someOf } from './pair.ts';

/** Entries whose lines do not add up to zero, of one company. */
const UNBALANCED = `SELECT json_group_array(json_object('number', e.number, 'import', e.import_id)) AS entries
  FROM (SELECT entry_id FROM lines GROUP BY entry_id HAVING sum(amount) <> 0 ORDER BY entry_id) unbalanced JOIN entries e ON e.id = unbalanced.entry_id
  WHERE e.company_id = $1`;
/** Balances summed from the lines again, beside those that are kept. */
const SUMMED = `WITH summed AS MATERIALIZED (
    SELECT l.account_id, l.period_code, l.combination_id, CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END AS layer,
      sum(max(l.amount, 0)) AS debit, sum(max(-l.amount, 0)) AS credit
    FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.company_id = $1 AND e.state <> 'discarded' GROUP BY 1, 2, 3, 4),
  kept AS (SELECT account_id, period_code, combination_id, layer, debit, credit FROM balances WHERE company_id = $1 AND (debit <> 0 OR credit <> 0)),
  fresh AS (SELECT * FROM summed WHERE debit <> 0 OR credit <> 0),
  differing AS (SELECT * FROM (SELECT * FROM kept EXCEPT SELECT * FROM fresh) UNION ALL SELECT * FROM (SELECT * FROM fresh EXCEPT SELECT * FROM kept))
  SELECT (SELECT coalesce(sum(debit), 0) FROM summed) AS debits, (SELECT coalesce(sum(credit), 0) FROM summed) AS credits,
    (SELECT coalesce(sum(debit), 0) FROM kept) AS kept,
    (SELECT json_group_array(period_code) FROM (SELECT period_code FROM summed GROUP BY 1 HAVING sum(debit - credit) <> 0 ORDER BY 1)) AS periods,
    (SELECT json_group_array(number) FROM (SELECT DISTINCT a.number FROM differing d JOIN accounts a ON a.id = d.account_id ORDER BY 1)) AS accounts`;

/** Debits against credits by entry, period and import, and balances that are kept against a fresh sum of the lines. */
export async function ledgerTies(database: Database, books: Books): Promise<TieOutDto[]> {
  const unbalanced = await database.selectAside<{ entries: string }>(UNBALANCED, [books.id]);
  const sums = await database.selectAside<{ debits: number; credits: number; kept: number; periods: string; accounts: string }>(SUMMED, [
    books.id,
  ]);
  const { debits, credits, kept, periods, accounts } = sums!;
  const entries = JSON.parse(unbalanced!.entries) as { number: string; import: number | null }[];
  const imports = [...new Set(entries.map((entry) => (entry.import === null ? 'entries made by hand' : `import ${entry.import}`)))];
  const both = { first: { words: 'Debits', amount: debits }, second: { words: 'Credits', amount: credits } };
  const sides = (key: string, name: string, of: { readonly parts: readonly string[]; readonly link: string }): TieOutDto =>
    pair({
      key,
      group: 'Ledger',
      name,
      ...both,
      holds: of.parts.length === 0,
      where: `Out of balance: ${someOf(of.parts)}.`,
      link: of.link,
    });
  return [
    sides('entries', 'Every entry balances', { parts: entries.map(({ number }) => number), link: 'ledger/entries' }),
    sides('periods', 'Every period balances', {
      parts: (JSON.parse(periods) as number[]).map((code) => periodName(books.startMonth, code)),
      link: 'ledger/reports/trial-balance',
    }),
    sides('imports', 'Every import balances', { parts: imports, link: 'ledger/imports' }),
    pair({
      key: 'balances',
      group: 'Ledger',
      name: 'Balances kept equal the sum of the lines',
      first: { words: 'Debits of the balances', amount: kept },
      second: { words: 'Debits of the lines', amount: debits },
      holds: accounts === '[]',
      where: `Accounts that differ: ${someOf(JSON.parse(accounts) as string[])}.`,
      link: 'ledger/reports/trial-balance',
    }),
  ];
}
