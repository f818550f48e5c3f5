import type { ReportColumnDto, ReportRowDto, TrialBalanceQuery } from '@wise-margin/contract';
import {
  accountMovements,
  isIncomeAccount,
  lastSlot,
  minor,
  type Movement,
  percentDifferenceOf,
  periodOfDate,
  type ReportRange,
  type Slot,
  yearsEarlier,
} from '@wise-margin/core';
import { dayWords, rangeWords } from '@wise-margin/presentation';

import type { Books } from '../../companies/index.ts';
import { refused } from '../../http/problem.ts';
import { amount, askedOf, currencyWords, type Report, type ReportSources, text, withRows } from './report.ts';

const RESULT_NAMES = {
  earlierYears: 'Net income of earlier years, not closed to retained earnings',
  closedThisYear: 'Net income of this year, closed to retained earnings',
} as const;

type Row = {
  readonly number: string;
  readonly name: string;
  readonly active: boolean;
  readonly movement: Movement;
  /** debit positive; null without a figure to compare with */
  readonly base: number | null;
};
type Comparison = {
  readonly heading: string;
  readonly scenario: ReportColumnDto['scenario'];
  readonly ofAccount: (account: number) => number | null;
  readonly ofResult: (result: keyof typeof RESULT_NAMES) => number | null;
};

/** Opening, debits, credits and closing of every account over a range, beside the prior year or a budget. */
export async function trialBalanceReport(sources: ReportSources, books: Books, query: TrialBalanceQuery): Promise<Report> {
  const { range, counted, words } = askedOf(books, query);
  const table = await sources.booksCache.lines(books);
  const { accounts, ...results } = accountMovements(table, { chart: books.chart, range, counted });
  const comparison = await comparisonOf();
  const rows: Row[] = books.chart.accounts
    .map(({ number, name, active }, at) => ({ number, name, active, movement: accounts[at]!, base: comparison?.ofAccount(at) ?? null }))
    .filter((row) => query.inactive === 'yes' || row.active || !isEmpty(row))
    .filter((row) => query.zero === 'yes' || !isEmpty(row))
    .sort((a, b) => a.number.localeCompare(b.number, 'en', { numeric: true }));
  for (const result of ['earlierYears', 'closedThisYear'] as const) {
    const row = {
      number: '',
      name: RESULT_NAMES[result],
      active: true,
      movement: results[result],
      base: comparison?.ofResult(result) ?? null,
    };
    if (!isEmpty(row)) rows.push(row);
  }
  const months = range.slots && { from: monthOf(books, range.from), until: monthOf(books, range.to) };
  const startsLater = range.from !== range.yearStart.day;
  return withRows(
    {
      key: 'trial-balance',
      title: 'Trial balance',
      words: [...words, currencyWords(books, query.unit)],
      columns: [
        text('account', 'Account'),
        text('name', 'Name'),
        amount('opening', 'Opening'),
        amount('debits', 'Debits'),
        amount('credits', 'Credits'),
        amount('change', 'Net change'),
        amount('closingDebit', 'Closing debit', 'actual'),
        amount('closingCredit', 'Closing credit', 'actual'),
        ...(comparison
          ? [
              amount('base', comparison.heading, comparison.scenario),
              amount('difference', 'Variance'),
              { key: 'percent', heading: 'Variance %', kind: 'percent' as const, scenario: null },
            ]
          : []),
      ],
      notes: [
        { text: 'Opening, net change and variance are debit positive; credits are in parentheses.', isWarning: false },
        ...(startsLater
          ? [{ text: `Income accounts open with the amounts posted since ${dayWords(range.yearStart.day)}.`, isWarning: false }]
          : []),
      ],
      unit: query.unit,
      sides: sidesOf(rows),
    },
    [...rows.map(rowDto), totalOf(rows)],
  );

  async function comparisonOf(): Promise<Comparison | null> {
    switch (query.compare) {
      case 'none':
        return null;
      case 'prior-year': {
        const prior = yearsEarlier(books.calendar, range, 1);
        if (!prior)
          throw refused(
            `The ledger has no fiscal year before ${rangeWords(books.calendar, range)}. Compare with a budget, or with nothing.`,
            'compare',
          );
        const before = accountMovements(table, { chart: books.chart, range: prior, counted });
        return {
          heading: `Closing ${dayWords(prior.to)}`,
          scenario: 'prior',
          ofAccount: (at) => before.accounts[at]!.closing,
          ofResult: (result) => before[result].closing,
        };
      }
      case 'budget':
        return budgetComparison(sources, books, { query, range });
    }
  }

  function rowDto({ number, name, movement, base }: Row): ReportRowDto {
    const { opening, debits, credits, closing } = movement;
    const sides = [closing > 0 ? closing : null, closing < 0 ? minor(-closing) : null];
    return {
      kind: 'line',
      cells: [number, name, opening, debits, credits, minor(debits - credits), ...sides, ...(comparison ? varianceOf(closing, base) : [])],
      link: number === '' ? null : months ? { to: 'account', account: number, ...months } : { to: 'detail', account: number },
    };
  }

  function totalOf(all: readonly Row[]): ReportRowDto {
    const sum = (of: (row: Row) => number) => minor(all.reduce((total, row) => total + of(row), 0));
    const closing = sidesOf(all);
    return {
      kind: 'total',
      cells: [
        '',
        'Total',
        sum(({ movement }) => movement.opening),
        sum(({ movement }) => movement.debits),
        sum(({ movement }) => movement.credits),
        sum(({ movement }) => movement.debits - movement.credits),
        closing.debits,
        closing.credits,
        ...(comparison ? [null, null, null] : []),
      ],
      link: null,
    };
  }
}

const isEmpty = ({ movement: { opening, debits, credits, closing }, base }: Row): boolean =>
  opening === 0 && debits === 0 && credits === 0 && closing === 0 && (base ?? 0) === 0;

/** What to compare with, the variance from it and the variance in percent of it. */
function varianceOf(closing: number, base: number | null): (number | string | null)[] {
  if (base === null) return [null, null, null];
  const percent = percentDifferenceOf({ kind: 'amount', value: minor(closing) }, { kind: 'amount', value: minor(base) });
  return [base, minor(closing - base), percent.kind === 'ratio' ? percent.value : percent.kind === 'notMeaningful' ? 'n/m' : null];
}

const sidesOf = (rows: readonly Row[]) => ({
  debits: minor(rows.reduce((sum, { movement }) => sum + Math.max(0, movement.closing), 0)),
  credits: minor(rows.reduce((sum, { movement }) => sum - Math.min(0, movement.closing), 0)),
});

const monthOf = (books: Books, day: ReportRange['from']): string => books.calendar.periods[periodOfDate(books.calendar, day)!]!.key;

/** Budgets hold income accounts from the start of the fiscal year; balance-sheet accounts only where a balance sheet is planned. */
async function budgetComparison(
  sources: ReportSources,
  books: Books,
  { query, range }: { readonly query: TrialBalanceQuery; readonly range: ReportRange },
): Promise<Comparison> {
  if (!range.slots) throw refused('A budget has whole months. Enter months, such as Apr 2026 to Oct 2026, to compare with it.', 'range');
  const { calendar, chart } = books;
  const span = { from: periodOfDate(calendar, range.yearStart.day)!, to: periodOfDate(calendar, range.to)! };
  const actuals = await sources.booksCache.actuals(books, { party: false, source: false, drafts: false, cashFlow: false });
  const scenarios = await sources.scenarios.of(books, {
    chosenId: query.budget,
    actuals,
    last: books.lastActual,
    through: books.lastActual,
  });
  const budget = scenarios.sources('budget');
  if (budget.missing(span, query.filter) !== null)
    throw refused(
      `There is no approved budget for ${rangeWords(calendar, { ...range, from: range.yearStart.day })} under this filter. Choose a budget, or compare with the prior year.`,
      'compare',
    );
  const slab = budget.slab(query.filter);
  const balances = budget.hasBalances(span, query.filter) ? budget.balanceSlab(span, query.filter) : null;
  const to: Slot = lastSlot(calendar, span.to);
  return {
    heading: 'Budget',
    scenario: 'budget',
    ofAccount: (at) => {
      if (isIncomeAccount(chart.accounts[at]!)) return slab.change(at, range.yearStart.slot, to);
      return balances ? balances.closing(at, to) : null;
    },
    ofResult: () => null,
  };
}
