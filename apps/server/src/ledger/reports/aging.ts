import type { AgingQuery, ReportColumnDto, ReportRowDto } from '@wise-margin/contract';
import {
  type AgedParty,
  agingAt,
  bucketNames,
  type ControlLine,
  estimatedAllowance,
  formatAmount,
  isoDate,
  type Minor,
  minor,
  readDate,
  readRange,
  shareFactor,
} from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import type { Books } from '../../companies/index.ts';
import { refused } from '../../http/problem.ts';
import { controlLines } from './control-lines.ts';
import { amount, currencyWords, date, type Report, type ReportSources, text, withRows } from './report.ts';
import { accountNames, balanceAt, controlBalance, differenceWords } from './tie-out.ts';

/** Receivables or payables by age at any day, tied to the balance of their accounts. */
export async function agingReport(sources: ReportSources, books: Books, query: AgingQuery): Promise<Report> {
  const asOf = dayOf(books, query.asOf, sources.now());
  const buckets = { unit: query.per, size: query.size, count: query.count };
  const { lines, accounts, others } = await controlLines(sources.database, books, query.kind);
  const one = query.party.trim();
  if (one !== '' && !lines.some(({ party }) => party === one)) throw refused(`No ${query.kind} were ever posted for “${one}”.`, 'party');
  const aging = agingAt(one === '' ? lines : lines.filter(({ party }) => party === one), { asOf, basis: query.by, buckets });
  const names = bucketNames(query.by, buckets);
  const percents = percentsOf(query.percents, names);
  const table = await sources.booksCache.lines(books);
  const isReceivables = query.kind === 'receivables';
  const noun = isReceivables ? 'Customer' : 'Vendor';
  const booked = others.filter((account) => balanceAt(table, account, asOf) * (isReceivables ? 1 : -1) < 0);
  const isDetail = query.detail === 'yes';
  const columns: ReportColumnDto[] = [
    text('party', noun),
    ...(isDetail ? [text('document', 'Document'), date('date', 'Date'), date('due', 'Due')] : []),
    ...names.map((name, at) => amount(`bucket${at}`, name)),
    amount('unapplied', 'Unapplied'),
    amount('total', 'Total'),
    ...(isDetail ? [] : [{ key: 'days', heading: 'Days outstanding', kind: 'count' as const, scenario: null }]),
  ];
  const blanks = isDetail ? ['', null, null] : [];
  const last = (days: number | null) => (isDetail ? [] : [days]);
  const figures = (
    name: string,
    { buckets: sums, credits, total }: Pick<AgedParty, 'buckets' | 'credits' | 'total'>,
    days: number | null,
  ) => [name, ...blanks, ...sums, credits, total, ...last(days)];
  const partyRow = (party: AgedParty, kind: 'line' | 'subtotal'): ReportRowDto => ({
    kind,
    cells: figures(kind === 'subtotal' ? `Total ${party.party}` : party.party, party, party.daysOutstanding[0]!),
    link: { to: 'party', party: party.party },
    ...(isDetail ? {} : { trend: [...party.daysOutstanding].reverse() }),
  });
  const total: ReportRowDto = {
    kind: 'total',
    cells: figures('Total', aging, aging.daysOutstanding[0]!),
    link: null,
    ...(isDetail ? {} : { trend: [...aging.daysOutstanding].reverse() }),
  };
  const rows = [
    ...aging.parties.flatMap((party) =>
      isDetail
        ? [sectionRow(party.party, columns.length), ...documentRows(party, names.length), partyRow(party, 'subtotal')]
        : [partyRow(party, 'line')],
    ),
    ...(aging.parties.length === 0 ? [] : [total]),
    ...(percents && isReceivables && one === '' ? allowanceRows() : []),
  ];
  return withRows(
    {
      key: 'aging',
      title: isReceivables ? 'Receivables aging' : 'Payables aging',
      words: [
        ...(one === '' ? [] : [one]),
        `as of ${dayWords(asOf)}`,
        `${query.per} ${query.by === 'due' ? 'past due' : 'since the document'}`,
        currencyWords(books, query.unit),
      ],
      columns,
      notes: notesOf(),
      unit: query.unit,
      sides: null,
    },
    rows,
  );

  function allowanceRows(): ReportRowDto[] {
    const estimated = estimatedAllowance(aging.buckets, percents!);
    const held = -booked.reduce((sum, account) => sum + balanceAt(table, account, asOf), 0);
    const row = (name: string, sums: readonly (Minor | null)[], value: number): ReportRowDto => ({
      kind: 'subtotal',
      cells: [name, ...blanks, ...sums, null, value, ...last(null)],
      link: null,
    });
    const none = names.map(() => null);
    return [
      row('Allowance estimated', estimated.byBucket, estimated.total),
      row('Allowance booked', none, minor(held)),
      row('Estimated less booked', none, minor(estimated.total - held)),
    ];
  }

  function notesOf(): Report['notes'] {
    const balance = controlBalance(table, { kind: query.kind, accounts, asOf });
    const write = (value: number) => formatAmount(minor(Math.abs(value)), { exponent: books.currency.exponent, unit: 'cents' });
    const named = accountNames(books, accounts);
    const { withoutDue, repeated } = aging;
    const notes: Report['notes'] = [];
    if (accounts.length === 0)
      notes.push({ text: `The chart has no account of class ${isReceivables ? 'Receivables' : 'Payables'}.`, isWarning: true });
    else if (one !== '') notes.push({ text: `One ${noun.toLowerCase()} of ${named}.`, isWarning: false });
    else if (balance === aging.total) notes.push({ text: `Agrees with the balance of ${named}.`, isWarning: false });
    else
      notes.push({
        text: differenceWords(books, { kind: query.kind, accounts, aging, balance }),
        isWarning: true,
      });
    if (withoutDue > 0 && query.by === 'due')
      notes.push({
        text: `${counted(withoutDue, 'document has', 'documents have')} no due date and ${withoutDue === 1 ? 'is' : 'are'} aged from the document date.`,
        isWarning: true,
      });
    for (const { party, document } of repeated.slice(0, 5))
      notes.push({ text: `${party} has two documents numbered ${document}; payments are taken for the older one first.`, isWarning: true });
    if (repeated.length > 5)
      notes.push({ text: `${counted(repeated.length - 5, 'further number is', 'further numbers are')} used twice.`, isWarning: true });
    if (isReceivables && booked.length > 0 && !percents && one === '')
      notes.push(
        {
          text: `Allowance booked: ${write(booked.reduce((sum, account) => sum + balanceAt(table, account, asOf), 0))}.`,
          isWarning: false,
        },
        { text: 'Enter a percentage for each column to estimate the allowance.', isWarning: false, isHint: true },
      );
    return notes;
  }
}

const counted = (count: number, one: string, many: string): string => `${count.toLocaleString('en-US')} ${count === 1 ? one : many}`;

const sectionRow = (name: string, columns: number): ReportRowDto => ({
  kind: 'section',
  cells: [name, ...new Array<null>(columns - 1).fill(null)],
  link: null,
});

function documentRows({ party, items, unapplied }: AgedParty, buckets: number): ReportRowDto[] {
  const sums = (bucket: number, value: number) => Array.from({ length: buckets }, (_, at) => (at === bucket ? value : null));
  return [
    ...items.map(({ document, entry, date: day, due, bucket, open }): ReportRowDto => ({
      kind: 'line',
      cells: [party, document || 'No number', day, due, ...sums(bucket, open), null, open],
      link: { to: 'entry', entry },
    })),
    ...unapplied.map(({ document, entry, date: day, amount: value }): ReportRowDto => ({
      kind: 'line',
      cells: [party, document || 'No number', day, null, ...sums(-1, 0), -value, -value],
      link: { to: 'entry', entry },
    })),
  ];
}

/** The day asked for; today when none is. @throws ProblemError 422 for what is not a day */
function dayOf(books: Books, typed: string, now: Date): ControlLine['date'] {
  if (typed === '' || typed.toLowerCase() === 'today') return isoDate(now.getFullYear(), now.getMonth() + 1, now.getDate());
  const day = readDate(typed);
  if (day) return day;
  const range = readRange(typed, books.calendar, books.lastActual);
  if (range.ok) return range.range.to;
  throw refused(`“${typed}” is not a date. Enter a day such as Nov 9, 2026, or a month for its last day.`, 'asOf');
}

/** Percentages for the buckets, as factors; null where none is entered. */
function percentsOf(typed: string, names: readonly string[]) {
  const parts = typed
    .split(/[,;\s]+/)
    .map((part) => part.replace(/%$/, ''))
    .filter(Boolean);
  if (parts.length === 0) return null;
  const factors = parts.map(shareFactor);
  const unread = parts.find((_, at) => factors[at] === null);
  if (unread !== undefined || parts.length !== names.length)
    throw refused(
      unread === undefined
        ? `Enter ${names.length} percentages, one for each of: ${names.join('; ')}. There are ${parts.length}.`
        : `“${unread}” is not a percentage. Enter numbers such as 2, 4, 10, 20, 40.`,
      'percents',
    );
  return factors.map((factor) => factor!);
}
