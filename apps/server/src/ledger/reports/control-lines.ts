import { type ControlLine, minor } from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

/** Accounts that are kept by customer or vendor, by chart position, with their posted lines in order of date. */
export type ControlAccounts = {
  readonly accounts: readonly number[];
  /** other accounts of the class, such as an allowance */
  readonly others: readonly number[];
  readonly lines: readonly ControlLine[];
};
const held = new WeakMap<Books, Map<'receivables' | 'payables', Promise<ControlAccounts>>>();

/** Accounts of a class most of whose lines name somebody. Kept until the books change. */
export function controlLines(database: Database, books: Books, kind: 'receivables' | 'payables'): Promise<ControlAccounts> {
  const own = held.get(books) ?? new Map<typeof kind, Promise<ControlAccounts>>();
  held.set(books, own);
  const loading = own.get(kind) ?? load(database, books, kind);
  own.set(kind, loading);
  loading.catch(() => own.delete(kind));
  return loading;
}

type LineValues = readonly [
  line: number,
  entry: number,
  date: string,
  party: string | null,
  document: string,
  due: string | null,
  amount: number,
];

async function load(database: Database, books: Books, kind: 'receivables' | 'payables'): Promise<ControlAccounts> {
  const ofClass = books.chart.accounts.flatMap((account, at) => (account.class === kind ? [at] : []));
  const counts = await database.select<{ account_id: number; lines: number; named: number }>(
    `SELECT account_id, count(*) AS lines, count(party_id) AS named FROM lines WHERE account_id IN (SELECT value FROM json_each($1)) GROUP BY account_id`,
    [JSON.stringify(ofClass.map((at) => books.accountIds[at]))],
  );
  const named = new Set(counts.filter((count) => count.named * 2 >= count.lines).map(({ account_id }) => account_id));
  const accounts = ofClass.filter((at) => named.has(books.accountIds[at]!));
  const sign = kind === 'receivables' ? 1 : -1;
  // one text for all of them is read much faster than a row at a time
  const [found] = await database.select<{ lines: string | null }>(
    `SELECT group_concat(line) AS lines FROM (SELECT json_array(l.id, e.id, e.date, p.name, l.document, l.due, l.amount) AS line
       FROM lines l JOIN entries e ON e.id = l.entry_id LEFT JOIN parties p ON p.id = l.party_id
       WHERE l.account_id IN (SELECT value FROM json_each($1)) AND e.state = 'posted' ORDER BY e.date, l.id)`,
    [JSON.stringify(accounts.map((at) => books.accountIds[at]))],
  );
  const lines = (JSON.parse(`[${found!.lines ?? ''}]`) as LineValues[]).map(([line, entry, date, party, document, due, amount]) => ({
    line,
    entry,
    date: date as ControlLine['date'],
    party: party ?? '',
    document,
    due: due as ControlLine['due'],
    amount: minor(sign * amount),
  }));
  return { accounts, others: ofClass.filter((at) => !accounts.includes(at)), lines };
}
