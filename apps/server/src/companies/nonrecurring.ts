import {
  BalanceCube,
  isIncomeAccount,
  slotCount,
  slotOfYear,
  type Chart,
  type DimensionCombination,
  type FiscalCalendar,
  type Minor,
  type Nonrecurring,
} from '@wise-margin/core';
import type { Database } from '../database/database.ts';

/** What is marked as not recurring: the lines of single entries at their account, and whole months of accounts. */
export async function loadNonrecurring(
  database: Database,
  company: {
    readonly id: number;
    readonly chart: Chart;
    readonly calendar: FiscalCalendar;
    readonly combinations: ReadonlyMap<number, DimensionCombination>;
  },
): Promise<Nonrecurring> {
  const { id, chart, calendar, combinations } = company;
  const entries = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  const slotOf = (code: number) => slotOfYear(calendar, Math.floor(code / 100), code % 100);
  const rows = await database.select<{ position: number; period_code: number; combination_id: number; amount: number }>(
    `SELECT a.position, o.period_code, l.combination_id, sum(l.amount) AS amount
     FROM nonrecurring_items o JOIN accounts a ON a.id = o.account_id JOIN entries e ON e.id = o.entry_id
       JOIN lines l ON l.entry_id = o.entry_id AND l.account_id = o.account_id
     WHERE o.company_id = $1 AND e.state = 'posted' AND e.kind <> 'closing' GROUP BY a.position, o.period_code, l.combination_id`,
    [id],
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
    'SELECT a.position, o.period_code FROM nonrecurring_items o JOIN accounts a ON a.id = o.account_id WHERE o.company_id = $1 AND o.entry_id IS NULL',
    [id],
  );
  return {
    entries,
    months: new Set(months.flatMap((row) => (slotOf(row.period_code) === null ? [] : [`${row.position}:${slotOf(row.period_code)}`]))),
  };
}
