import { dayOfMonth } from '../calendar/day-of-month.ts';
import type { CheckedLedger, FoundReason } from './checked-ledger.ts';

/** Round amounts: whole thousands of units of currency with two decimals. */
const ROUND = 100_000;
const LAST_DAYS = 3;
/** Manual and weekend entries say something only where they are rare. */
const RARE = 0.02;
const FEWEST = 50;
const DAYS_IN_WEEK = 7;

/** Manual and round entries in the last days of a month, and weekend entries, in ledgers or journals that rarely have such. */
export function periodEndReasons({ table, accounts }: CheckedLedger, posted: Int32Array): FoundReason[] {
  const found: FoundReason[] = [];
  let manual = 0;
  const sources = new Map<number, { lines: number; weekend: number }>();
  for (const position of posted) {
    if (table.isManual(position)) manual += 1;
    const held = sources.get(table.source[position]!) ?? { lines: 0, weekend: 0 };
    sources.set(table.source[position]!, held);
    held.lines += 1;
    if (isWeekend(table.day[position]!)) held.weekend += 1;
  }
  const isManualRare = manual <= RARE * posted.length;
  for (const position of posted) {
    if (!accounts[table.account[position]!]!.isIncome) continue;
    const [amount, day] = [table.amount[position]!, table.day[position]!];
    const add = (kind: 'roundAtPeriodEnd' | 'manualAtPeriodEnd' | 'weekend'): void =>
      void found.push({ line: position, amount, reason: { kind } });
    if (isManualRare && table.isManual(position) && isMonthEnd(day)) {
      add('manualAtPeriodEnd');
      if (amount !== 0 && amount % ROUND === 0) add('roundAtPeriodEnd');
    }
    const { lines, weekend } = sources.get(table.source[position]!)!;
    if (weekend <= RARE * lines && lines >= FEWEST && isWeekend(day)) add('weekend');
  }
  return found;
}

// day 0 is a Thursday
const isWeekend = (day: number): boolean => ((((day + 4) % DAYS_IN_WEEK) + DAYS_IN_WEEK) % DAYS_IN_WEEK) % 6 === 0;
const isMonthEnd = (day: number): boolean => dayOfMonth(day + LAST_DAYS) <= LAST_DAYS;
