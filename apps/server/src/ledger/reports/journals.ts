import type { JournalsQuery, ReportRowDto } from '@wise-margin/contract';
import { journalEntries, minor } from '@wise-margin/core';

import type { Books } from '../../companies/index.ts';
import { readLines } from '../entries/read-lines.ts';
import { amount, askedOf, currencyWords, date, type Report, type ReportSources, text, withRows } from './report.ts';

/** Source journals with their totals, or with every line of their entries. */
export async function journalsReport(sources: ReportSources, books: Books, query: JournalsQuery): Promise<Report> {
  const { range, counted, words } = askedOf(books, query);
  const table = await sources.booksCache.lines(books);
  const journals = journalEntries(table, { range, counted });
  const nameOf = (source: number): string => books.sourceJournals[source]! || 'No journal';
  const sum = (side: 'debits' | 'credits' | 'entries') => journals.reduce((total, journal) => total + journal[side], 0);
  const sides = { debits: minor(sum('debits')), credits: minor(sum('credits')) };
  const report: Pick<Report, 'key' | 'title' | 'words' | 'notes' | 'unit' | 'sides'> = {
    key: 'journals',
    title: 'Journals',
    words: [...words, currencyWords(books, query.unit)],
    notes: [],
    unit: query.unit,
    sides,
  };
  if (query.detail === 'no')
    return withRows(
      {
        ...report,
        columns: [
          text('journal', 'Journal'),
          { key: 'entries', heading: 'Entries', kind: 'count', scenario: null },
          { key: 'lines', heading: 'Lines', kind: 'count', scenario: null },
          amount('debits', 'Debits'),
          amount('credits', 'Credits'),
        ],
      },
      journals.length === 0
        ? []
        : [
            ...journals.map(({ source, entries, lines, debits, credits }): ReportRowDto => ({
              kind: 'line',
              cells: [nameOf(source), entries, lines.length, debits, credits],
              link: { to: 'journal', journal: books.sourceJournals[source]! },
            })),
            {
              kind: 'total',
              cells: ['Total', sum('entries'), journals.reduce((total, { lines }) => total + lines.length, 0), sides.debits, sides.credits],
              link: null,
            },
          ],
    );
  type Place = { readonly kind: 'section' | 'line' | 'subtotal'; readonly journal: (typeof journals)[number]; readonly at: number };
  const places = journals.flatMap((journal): Place[] => [
    { kind: 'section', journal, at: 0 },
    ...Array.from(journal.lines, (_, at): Place => ({ kind: 'line', journal, at })),
    { kind: 'subtotal', journal, at: 0 },
  ]);
  const total: ReportRowDto = { kind: 'total', cells: ['', null, '', 'Total', '', '', '', sides.debits, sides.credits], link: null };
  return {
    ...report,
    columns: [
      text('journal', 'Journal'),
      date('date', 'Date'),
      text('entry', 'Entry'),
      text('account', 'Account'),
      text('memo', 'Memo'),
      text('party', 'Customer or vendor'),
      text('document', 'Document'),
      amount('debit', 'Debit'),
      amount('credit', 'Credit'),
    ],
    count: places.length === 0 ? 0 : places.length + 1,
    parts: null,
    rows: async (start, end) => {
      const shown = places.slice(start, end);
      const positions = Int32Array.from(shown.flatMap(({ kind, journal, at }) => (kind === 'line' ? [journal.lines[at]!] : [])));
      const lines = new Map((await readLines(sources.database, { books, table, positions })).map((line) => [line.lineId, line]));
      const rows = shown.map(({ kind, journal, at }): ReportRowDto => {
        const name = nameOf(journal.source);
        if (kind === 'section') return { kind, cells: [name, ...new Array<null>(8).fill(null)], link: null };
        if (kind === 'subtotal')
          return {
            kind,
            cells: [
              name,
              null,
              '',
              `Total of ${journal.entries.toLocaleString('en-US')} entries`,
              '',
              '',
              '',
              journal.debits,
              journal.credits,
            ],
            link: null,
          };
        const position = journal.lines[at]!;
        const value = table.amount[position]!;
        const figures = [value > 0 ? value : null, value < 0 ? -value : null];
        const line = lines.get(table.line[position]!);
        if (!line) return { kind, cells: [name, null, '', '', 'Removed since the report was made', '', '', ...figures], link: null };
        return {
          kind,
          cells: [name, line.date, line.entry, `${line.account} ${line.accountName}`, line.memo, line.party, line.document, ...figures],
          link: { to: 'entry', entry: line.entryId },
        };
      });
      return places.length > 0 && start <= places.length && end > places.length ? [...rows, total] : rows;
    },
  };
}
