import { type BalanceFact, type BalanceLayer, minor, slotOfYear } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Books } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';

/** What lines add to the balances, drafts beside the rest; combinations by their number in the database. */
export type LineSum = {
  readonly position: number;
  readonly period_code: number;
  readonly combination: number;
  readonly layer: BalanceLayer | 'draft';
  readonly amount: number;
};

const LAYER = `CASE WHEN e.state = 'draft' THEN 'draft' WHEN e.kind = 'closing' THEN 'closing' ELSE 'ordinary' END`;
const SUMMED = `FROM lines l JOIN entries e ON e.id = l.entry_id JOIN accounts a ON a.id = l.account_id`;

/** The sums of all lines of some entries. */
export const sumsOfEntries = (database: Database, ids: readonly number[], transaction?: Transaction): Promise<LineSum[]> =>
  database.select<LineSum>(
    `SELECT a.position, l.period_code, l.combination_id AS combination, ${LAYER} AS layer, sum(l.amount) AS amount ${SUMMED}
     WHERE l.entry_id IN (SELECT value FROM json_each($1)) GROUP BY 1, 2, 3, 4`,
    [JSON.stringify(ids)],
    transaction,
  );

/** The sums of some lines alone. */
export const sumsOfLines = (database: Database, lines: readonly number[]): Promise<LineSum[]> =>
  database.select<LineSum>(
    `SELECT a.position, l.period_code, l.combination_id AS combination, ${LAYER} AS layer, sum(l.amount) AS amount ${SUMMED}
     WHERE l.id IN (SELECT value FROM json_each($1)) GROUP BY 1, 2, 3, 4`,
    [JSON.stringify(lines)],
  );

/** Adds the lines of some entries to the balances, or takes them out again. */
export const postToBalances = (
  database: Database,
  { companyId, ids, sign }: { readonly companyId: number; readonly ids: readonly number[]; readonly sign: 1 | -1 },
  transaction: Transaction,
): Promise<void> =>
  database.run(
    `INSERT INTO balances (company_id, account_id, period_code, combination_id, layer, debit, credit)
     SELECT $1, l.account_id, l.period_code, l.combination_id, ${LAYER}, ${sign} * sum(max(l.amount, 0)), ${sign} * sum(max(-l.amount, 0))
     FROM lines l JOIN entries e ON e.id = l.entry_id WHERE l.entry_id IN (SELECT value FROM json_each($2)) GROUP BY 2, 3, 4, 5
     ON CONFLICT DO UPDATE SET debit = debit + excluded.debit, credit = credit + excluded.credit`,
    [companyId, JSON.stringify(ids)],
    transaction,
  );

/** What balances gain from one set of sums to another, without drafts and without what stays the same. */
export function gainedFacts(books: Books, before: readonly LineSum[], after: readonly LineSum[]): BalanceFact[] {
  const gained = new Map<string, { sum: LineSum; amount: number }>();
  for (const [sums, sign] of [
    [before, -1],
    [after, 1],
  ] as const)
    for (const sum of sums) {
      const key = `${sum.position} ${sum.period_code} ${sum.combination} ${sum.layer}`;
      const held = gained.get(key) ?? { sum, amount: 0 };
      gained.set(key, held);
      held.amount += sign * sum.amount;
    }
  return [...gained.values()].flatMap(({ sum, amount }) => {
    if (amount === 0 || sum.layer === 'draft') return [];
    const slot = slotOfYear(books.calendar, Math.floor(sum.period_code / 100), sum.period_code % 100);
    const combination = books.combinations.get(sum.combination);
    if (slot === null || !combination) throw new RangeError(`a line is in period ${sum.period_code}, outside the books of ${books.name}`);
    return [{ account: sum.position, slot, combination, layer: sum.layer, amount: minor(amount) }];
  });
}

/** The periods in which posted sums change, as they are stored; drafts count in none. */
export function changedPeriods(before: readonly LineSum[], after: readonly LineSum[]): ReadonlySet<number> {
  const sums = new Map<string, { period: number; amount: number }>();
  for (const [all, sign] of [
    [before, -1],
    [after, 1],
  ] as const)
    for (const { position, period_code: period, combination, layer, amount } of all) {
      if (layer === 'draft') continue;
      const key = `${position} ${period} ${combination} ${layer}`;
      const held = sums.get(key) ?? { period, amount: 0 };
      sums.set(key, held);
      held.amount += sign * amount;
    }
  return new Set([...sums.values()].flatMap(({ period, amount }) => (amount === 0 ? [] : [period])));
}
