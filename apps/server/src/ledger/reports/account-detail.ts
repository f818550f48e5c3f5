import type { AccountDetailQuery, ListedLineDto, ReportRowDto } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, accountDetail, type DetailedAccount, findClass, minor } from '@wise-margin/core';
import { dayWords } from '@wise-margin/presentation';

import { type Books, typedAccounts } from '../../companies/index.ts';
import { refused } from '../../http/problem.ts';
import { readLines } from '../entries/read-lines.ts';
import { amount, askedOf, currencyWords, date, type Report, type ReportSources, text } from './report.ts';

/** A row before its texts are read. */
type Place = { readonly kind: 'section' | 'opening' | 'line' | 'closing'; readonly account: DetailedAccount; readonly at: number };

/** Chosen accounts line by line, from opening to closing balance, with a running balance. */
export async function accountDetailReport(sources: ReportSources, books: Books, query: AccountDetailQuery): Promise<Report> {
  const { range, counted, words } = askedOf(books, query);
  const chosen = chosenAccounts(books, query);
  const table = await sources.booksCache.lines(books);
  const accounts = accountDetail(table, { chart: books.chart, range, counted, accounts: chosen, idle: query.idle === 'yes' });
  const places = accounts.flatMap((account): Place[] => [
    { kind: 'section', account, at: 0 },
    { kind: 'opening', account, at: 0 },
    ...Array.from(account.lines, (_, at): Place => ({ kind: 'line', account, at })),
    { kind: 'closing', account, at: 0 },
  ]);
  const sum = (side: 'debits' | 'credits') => minor(accounts.reduce((total, account) => total + account[side], 0));
  const total: ReportRowDto = {
    kind: 'total',
    cells: ['', null, '', '', 'Total', '', '', sum('debits'), sum('credits'), null],
    link: null,
  };
  let from = 0;
  const parts = accounts.map((account) => {
    const start = from;
    from += account.lines.length + 3;
    return { name: nameOf(account), from: start, to: from };
  });
  return {
    key: 'account-detail',
    title: 'Account detail',
    words: [...words, ...accountWords(query), currencyWords(books, query.unit)],
    columns: [
      text('account', 'Account'),
      date('date', 'Date'),
      text('entry', 'Entry'),
      text('journal', 'Journal'),
      text('memo', 'Memo'),
      text('party', 'Customer or vendor'),
      text('document', 'Document'),
      amount('debit', 'Debit'),
      amount('credit', 'Credit'),
      amount('balance', 'Balance'),
    ],
    notes: [
      { text: 'Balances are debit positive; credits are in parentheses.', isWarning: false },
      ...(range.from === range.yearStart.day
        ? []
        : [{ text: `Income accounts open with the amounts posted since ${dayWords(range.yearStart.day)}.`, isWarning: false }]),
    ],
    unit: query.unit,
    sides: null,
    count: places.length === 0 ? 0 : places.length + 1,
    rows: rowsBetween,
    parts: query.apart === 'yes' ? parts : null,
  };

  async function rowsBetween(start: number, end: number): Promise<ReportRowDto[]> {
    const shown = places.slice(start, end);
    const positions = Int32Array.from(shown.flatMap(({ kind, account, at }) => (kind === 'line' ? [account.lines[at]!] : [])));
    const lines = new Map((await readLines(sources.database, { books, table, positions })).map((line) => [line.lineId, line]));
    const rows = shown.map((place) => rowOf(place, lines.get(table.line[place.account.lines[place.at]!]!)));
    return places.length > 0 && start <= places.length && end > places.length ? [...rows, total] : rows;
  }

  function rowOf({ kind, account, at }: Place, line: ListedLineDto | undefined): ReportRowDto {
    const { number } = books.chart.accounts[account.account]!;
    const plain = (memo: string, day: string, figures: (number | null)[]) => [number, day, '', '', memo, '', '', ...figures];
    switch (kind) {
      case 'section':
        return { kind: 'section', cells: [nameOf(account), ...new Array<null>(9).fill(null)], link: null };
      case 'opening':
        return { kind: 'line', cells: plain('Opening balance', range.from, [null, null, account.opening]), link: null };
      case 'closing':
        return {
          kind: 'subtotal',
          cells: plain('Closing balance', range.to, [account.debits, account.credits, account.closing]),
          link: null,
        };
      case 'line': {
        const value = table.amount[account.lines[at]!]!;
        const sides = [value > 0 ? value : null, value < 0 ? -value : null, account.balances[at]!];
        if (!line) return { kind: 'line', cells: plain('Removed since the report was made', '', sides), link: null };
        return {
          kind: 'line',
          cells: [number, line.date, line.entry, line.source, line.memo, line.party, line.document, ...sides],
          link: { to: 'entry', entry: line.entryId },
        };
      }
    }
  }

  function nameOf({ account }: DetailedAccount): string {
    const { number, name } = books.chart.accounts[account]!;
    return `${number} ${name}`;
  }
}

/** Chart positions, in order of number, of the accounts that number, class and words all take. */
function chosenAccounts(books: Books, { accounts, class: typedClass, find }: AccountDetailQuery): number[] {
  const typed = typedAccounts(books, accounts.trim());
  const ofClass = typedClass === '' ? null : findClass(typedClass);
  if (typedClass !== '' && ofClass === null)
    throw refused(
      `There is no class "${typedClass}". Classes: ${Object.values(ACCOUNT_CLASSES)
        .map(({ name }) => name)
        .join(', ')}.`,
      'class',
    );
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  const chosen = books.chart.accounts.flatMap((account, at) => {
    const isTaken =
      (typed?.has(at) ?? true) &&
      (ofClass === null || account.class === ofClass) &&
      words.every((word) => `${account.number} ${account.name}`.toLowerCase().includes(word));
    return isTaken ? [at] : [];
  });
  if (chosen.length === 0) throw refused('No account matches. Choose other numbers, another class or other words.', 'accounts');
  const numberOf = (at: number) => books.chart.accounts[at]!.number;
  return chosen.sort((a, b) => numberOf(a).localeCompare(numberOf(b), 'en', { numeric: true }));
}

function accountWords({ accounts, class: typedClass, find }: AccountDetailQuery): string[] {
  const ofClass = typedClass === '' ? null : findClass(typedClass);
  return [
    ...(accounts.trim() === '' ? [] : [`accounts ${accounts.trim()}`]),
    ...(ofClass ? [`class ${ACCOUNT_CLASSES[ofClass].name}`] : []),
    ...(find.trim() === '' ? [] : [`names with “${find.trim()}”`]),
  ];
}
