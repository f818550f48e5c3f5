import {
  BalanceCube,
  type Chart,
  type DimensionCombination,
  type FiscalCalendar,
  isIncomeAccount,
  type Minor,
  type Nonrecurring,
  slotCount,
  slotOfYear,
} from '@wise-margin/core';

import type { Database } from '../database/database.ts';

/** Items in the database and further ones as JSON; the same item counts once. */
const ITEMS = `SELECT account_id, period_code, entry_id FROM nonrecurring_items WHERE company_id = $1
  UNION SELECT value ->> 0, value ->> 1, value ->> 2 FROM json_each($2)`;

/** An entry at an account, or a whole month of it, that counts as nonrecurring. */
export type NonrecurringKey = { readonly accountId: number; readonly periodCode: number; readonly entryId: number | null };

/**
 * What is nonrecurring: the lines of single entries at their account, and whole months of accounts.
 * @param more further items, beside those in the database
 */
export async function loadNonrecurring(
  database: Database,
  company: {
    readonly id: number;
    readonly chart: Chart;
    readonly calendar: FiscalCalendar;
    readonly combinations: ReadonlyMap<number, DimensionCombination>;
  },
  more: readonly NonrecurringKey[] = [],
): Promise<Nonrecurring> {
  const { id, chart, calendar, combinations } = company;
  const entries = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  const further = JSON.stringify(more.map(({ accountId, periodCode, entryId }) => [accountId, periodCode, entryId]));
  const slotOf = (code: number) => slotOfYear(calendar, Math.floor(code / 100), code % 100);
  const rows = await database.select<{ position: number; period_code: number; combination_id: number; amount: number }>(
    `SELECT a.position, o.period_code, l.combination_id, sum(l.amount) AS amount
     FROM (${ITEMS}) o JOIN accounts a ON a.id = o.account_id JOIN entries e ON e.id = o.entry_id
       JOIN lines l ON l.entry_id = o.entry_id AND l.account_id = o.account_id
     WHERE e.company_id = $1 AND e.state = 'posted' AND e.kind <> 'closing' GROUP BY a.position, o.period_code, l.combination_id`,
    [id, further],
  );
  entries.post(
    rows.flatMap((row) => {
      const slot = slotOf(row.period_code);
      return slot === null
        ? []
        : [
            {
              account: row.position,
              slot,
              combination: combinations.get(row.combination_id)!,
              layer: 'ordinary' as const,
              amount: row.amount as Minor,
            },
          ];
    }),
  );
  const months = await database.select<{ position: number; period_code: number }>(
    `SELECT a.position, o.period_code FROM (${ITEMS}) o JOIN accounts a ON a.id = o.account_id WHERE a.company_id = $1 AND o.entry_id IS NULL`,
    [id, further],
  );
  return {
    entries,
    months: new Set(months.flatMap((row) => (slotOf(row.period_code) === null ? [] : [`${row.position}:${slotOf(row.period_code)}`]))),
  };
}
