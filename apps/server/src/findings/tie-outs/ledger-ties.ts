import type { TieOutDto } from '@wise-margin/contract';

import { type Books, periodName } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import { pair, someOf } from './pair.ts';

type Sides = { readonly debits: number; readonly credits: number };
const POSTED = `FROM lines l JOIN entries e ON e.id = l.entry_id WHERE e.company_id = $1 AND e.state <> 'discarded'`;
const SUMS = 'coalesce(sum(max(l.amount, 0)), 0) AS debits, coalesce(sum(max(-l.amount, 0)), 0) AS credits';

/** Debits against credits by entry, period and import, and balances that are kept against a fresh sum of the lines. */
export async function ledgerTies(database: Database, books: Books): Promise<TieOutDto[]> {
  const [all] = await database.select<Sides>(`SELECT ${SUMS} ${POSTED}`, [books.id]);
  const entries = await database.select<{ number: string }>(
    `SELECT e.number ${POSTED} GROUP BY e.id HAVING sum(l.amount) <> 0 ORDER BY e.id LIMIT 100`,
    [books.id],
  );
  const periods = await database.select<{ code: number }>(
    `SELECT l.period_code AS code ${POSTED} GROUP BY l.period_code HAVING sum(l.amount) <> 0 ORDER BY 1`,
    [books.id],
  );
  const imports = await database.select<{ id: number | null }>(
    `SELECT e.import_id AS id ${POSTED} GROUP BY e.import_id HAVING sum(l.amount) <> 0 ORDER BY 1`,
    [books.id],
  );
  const { debits, credits } = all!;
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
      parts: periods.map(({ code }) => periodName(books.startMonth, code)),
      link: 'ledger/reports/trial-balance',
    }),
    sides('imports', 'Every import balances', {
      parts: imports.map(({ id }) => (id === null ? 'entries made by hand' : `import ${id}`)),
      link: 'ledger/imports',
    }),
    await balancesTie(database, books),
  ];
}

/** The balances statements are made from, against the lines added up again. */
async function balancesTie(database: Database, books: Books): Promise<TieOutDto> {
  const [kept] = await database.select<Sides>(
    'SELECT coalesce(sum(debit), 0) AS debits, coalesce(sum(credit), 0) AS credits FROM balances WHERE company_id = $1',
    [books.id],
  );
  const [summed] = await database.select<Sides>(`SELECT ${SUMS} ${POSTED}`, [books.id]);
  const differing = await database.select<{ number: string }>(
    `SELECT DISTINCT a.number FROM (
       SELECT account_id, period_code, combination_id, layer, debit - credit AS net FROM balances WHERE company_id = $1) b
     FULL JOIN (SELECT l.account_id, l.period_code, l.combination_id, CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END AS layer,
       sum(l.amount) AS net ${POSTED} GROUP BY 1, 2, 3, 4) s USING (account_id, period_code, combination_id, layer)
     JOIN accounts a ON a.id = account_id WHERE coalesce(b.net, 0) <> coalesce(s.net, 0) ORDER BY a.number`,
    [books.id],
  );
  return pair({
    key: 'balances',
    group: 'Ledger',
    name: 'Balances kept equal the sum of the lines',
    first: { words: 'Debits of the balances', amount: kept!.debits },
    second: { words: 'Debits of the lines', amount: summed!.debits },
    holds: differing.length === 0,
    where: `Accounts that differ: ${someOf(differing.map(({ number }) => number))}.`,
    link: 'ledger/reports/trial-balance',
  });
}
