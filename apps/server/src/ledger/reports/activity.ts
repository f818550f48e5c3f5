import type { ActivityQuery, ReportRowDto } from '@wise-margin/contract';
import { minor, partyActivity, percentDifferenceOf, yearsEarlier } from '@wise-margin/core';
import { rangeWords } from '@wise-margin/presentation';

import type { Books } from '../../companies/index.ts';
import { amount, askedOf, currencyWords, type Report, type ReportSources, text, withRows } from './report.ts';

/** Sales by customer, or purchases by vendor, beside the same days of the prior year. */
export async function activityReport(sources: ReportSources, books: Books, query: ActivityQuery): Promise<Report> {
  const { range, counted, words } = askedOf(books, query);
  const prior = yearsEarlier(books.calendar, range, 1);
  const table = await sources.booksCache.lines(books);
  const rows = partyActivity(table, { chart: books.chart, kind: query.kind, range, prior, counted });
  const isCustomers = query.kind === 'customers';
  const figures = (now: number, before: number): (number | string | null)[] => {
    const percent = percentDifferenceOf({ kind: 'amount', value: minor(now) }, { kind: 'amount', value: minor(before) });
    const shown = percent.kind === 'ratio' ? percent.value : percent.kind === 'notMeaningful' ? 'n/m' : null;
    return prior ? [now, before, minor(now - before), shown] : [now, null, null, null];
  };
  const sum = (of: 'amount' | 'prior') => minor(rows.reduce((total, row) => total + row[of], 0));
  const none = isCustomers ? 'No customer' : 'No vendor';
  return withRows(
    {
      key: 'activity',
      title: isCustomers ? 'Sales by customer' : 'Purchases by vendor',
      words: [...words, currencyWords(books, query.unit)],
      columns: [
        text('party', isCustomers ? 'Customer' : 'Vendor'),
        amount('amount', rangeWords(books.calendar, range), 'actual'),
        amount('prior', prior ? rangeWords(books.calendar, prior) : 'Prior year', 'prior'),
        amount('change', 'Change'),
        { key: 'percent', heading: 'Change %', kind: 'percent', scenario: null },
      ],
      notes: [
        {
          text: isCustomers
            ? 'Sales are revenue less discounts and returns.'
            : 'Purchases are bills less credits; payments are not counted.',
          isWarning: false,
        },
        ...(prior ? [] : [{ text: 'The ledger has no year before this range to compare with.', isWarning: true }]),
      ],
      unit: query.unit,
      sides: null,
    },
    rows.length === 0
      ? []
      : [
          ...rows.map(({ party, amount: now, prior: before }): ReportRowDto => ({
            kind: 'line',
            cells: [party === -1 ? none : books.parties[party]!, ...figures(now, before)],
            link: { to: 'party', party: party === -1 ? '' : books.parties[party]! },
          })),
          { kind: 'total', cells: ['Total', ...figures(sum('amount'), sum('prior'))], link: null },
        ],
  );
}
