import type { VarianceExplanationDto } from '@wise-margin/contract';
import { type FigureSides, minor, periodAt, type PeriodIndex, shortPeriodName } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import { type Books, periodCode } from '../companies/index.ts';
import type { Database } from '../database/database.ts';

type Row = {
  readonly position: number;
  readonly period_code: number;
  readonly entry_id: number | null;
  readonly amount: number;
  readonly number: string | null;
  readonly date: string | null;
  readonly memo: string | null;
  readonly party: string | null;
};
/** Items with what they come to: an entry at its account, or a whole month of an account. */
const ITEMS = `SELECT a.position, o.period_code, o.entry_id, e.number, e.date,
    (SELECT memo FROM lines l WHERE l.entry_id = o.entry_id AND l.account_id = o.account_id ORDER BY l.id LIMIT 1) AS memo,
    (SELECT p.name FROM lines l JOIN parties p ON p.id = l.party_id WHERE l.entry_id = o.entry_id AND l.account_id = o.account_id ORDER BY l.id LIMIT 1) AS party,
    CASE WHEN o.entry_id IS NULL
      THEN (SELECT coalesce(sum(b.debit - b.credit), 0) FROM balances b WHERE b.account_id = o.account_id AND b.period_code = o.period_code AND b.layer = 'ordinary')
      ELSE (SELECT coalesce(sum(l.amount), 0) FROM lines l WHERE l.entry_id = o.entry_id AND l.account_id = o.account_id) END AS amount
  FROM nonrecurring_items o JOIN accounts a ON a.id = o.account_id LEFT JOIN entries e ON e.id = o.entry_id
  WHERE o.company_id = $1`;

/** Nonrecurring items within a difference: those in its own months, and those in the base's months where the base is actuals. */
export async function nonrecurringIn(
  database: Database,
  books: Books,
  { compared, base }: FigureSides,
): Promise<VarianceExplanationDto['nonrecurring']> {
  const rows = await database.select<Row>(ITEMS, [books.id]);
  if (rows.length === 0) return [];
  const found: VarianceExplanationDto['nonrecurring'] = [];
  for (const row of rows) {
    const { position, period_code, entry_id, amount } = row;
    const taken = (leaves: FigureSides['compared']): number =>
      leaves.reduce((sum, { factor, source: { scenario, span, sign, accounts } }) => {
        const isIn =
          scenario === 'actual' &&
          accounts.some(({ account }) => account === position) &&
          codeOf(books, span.from) <= period_code &&
          period_code <= codeOf(books, span.to);
        return isIn ? sum + factor * sign * amount : sum;
      }, 0);
    const part = taken(compared) - taken(base ?? []);
    if (part !== 0) found.push({ words: wordsOf(books, row), amount: minor(part), entry: entry_id });
  }
  return found.sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
}

function codeOf({ calendar }: Books, period: PeriodIndex): number {
  const { year, number } = periodAt(calendar, period);
  return periodCode(year, number);
}

function wordsOf({ chart, calendar }: Books, { position, period_code, number, date, memo, party }: Row): string {
  const { number: account, name } = chart.accounts[position]!;
  const period = calendar.periods.find((each) => periodCode(each.year, each.number) === period_code);
  const what =
    number === null
      ? `${account} ${name} in ${period ? shortPeriodName(calendar, period.index) : `period ${period_code}`}`
      : [number, date === null ? '' : `of ${dayWords(date)}`, party ? `from ${party}` : '', memo ? `“${memo}”` : '']
          .filter(Boolean)
          .join(' ');
  return `${what} is a nonrecurring item, which budgets leave out`;
}
