import type { AccountListDto, DraftEntriesDto, EntryDto, EntryLinesDto } from '@wise-margin/contract';
import {
  CASH_FLOW,
  classOf,
  type DimensionCombination,
  type DimensionFilter,
  firstSlot,
  isBalanceAccount,
  lastSlot,
  minor,
  passes,
  periodAt,
  periodOfYear,
  sidesOf,
  signOf,
  spanWords,
  yearByMonth,
  yearTotal,
} from '@wise-margin/core';

import {
  type Books,
  type BooksCache,
  type CashFlowCube,
  PARTY,
  periodCode,
  periodOf,
  refuseUnknownFilter,
  SOURCE,
} from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import { notFound, refused } from '../http/problem.ts';

const DRAFTS_LISTED = 2000;
export type EntriesQuery = {
  readonly from: string;
  readonly to: string;
  readonly filter: DimensionFilter;
  readonly after: number;
  readonly limit: number;
  readonly opening: boolean;
  readonly drafts: 'yes' | 'no';
  readonly find: string;
  readonly sort: 'date' | 'amount';
};

/** Accounts, trial balance, and the entries behind a balance. */
export class LedgerService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** Accounts with their net change by month of a fiscal year, in each account's natural sign. */
  async accounts(companyId: number, year: number): Promise<AccountListDto> {
    const books = await this.#booksCache.of(companyId);
    const first = periodOfYear(books.calendar, year, 1);
    if (first === null)
      throw refused(`FY${year} is not open. ${books.name} has FY${books.calendar.firstYear} to FY${books.calendar.lastYear}.`, 'year');
    const slab = books.cube.slab({});
    const latest = await this.#database.select<{ position: number; date: string }>(
      `SELECT a.position, max(l.period_code) AS code, (SELECT max(e.date) FROM lines l2 JOIN entries e ON e.id = l2.entry_id WHERE l2.account_id = a.id AND l2.period_code = max(l.period_code)) AS date
       FROM lines l JOIN accounts a ON a.id = l.account_id WHERE a.company_id = $1 GROUP BY a.id`,
      [companyId],
    );
    const lastPosting = new Map(latest.map(({ position, date }) => [position, date]));
    const accounts = books.chart.accounts.map((account, position) => {
      const sign = signOf(account);
      const months = yearByMonth(slab, books.calendar, { account: position, year }).map((amount, month) =>
        books.lastPosted === null || first + month > books.lastPosted ? null : minor(sign * amount),
      );
      const { name: className, statement } = classOf(account.class);
      return {
        number: account.number,
        name: account.name,
        class: account.class,
        className,
        group: account.group,
        active: account.active,
        statement,
        opening: minor(isBalanceAccount(account) ? sign * slab.closing(position, firstSlot(books.calendar, first) - 1) : 0),
        months,
        total: minor(yearTotal(months.map((amount) => ({ amount: minor(amount ?? 0), held: false })))),
        lastPosting: lastPosting.get(position) ?? null,
      };
    });
    accounts.sort((a, b) => a.number.localeCompare(b.number, 'en', { numeric: true }));
    return { year, periods: books.calendar.periods.slice(first, first + 12).map(({ key }) => key), accounts };
  }

  /**
   * Posted lines of an account over a span, oldest first, with their sum and the cube's figure for
   * the same span beside it. For a closing balance (`opening`) the lines run from the beginning.
   */
  async entries(companyId: number, number: string, query: EntriesQuery): Promise<EntryLinesDto> {
    const books = await this.#booksCache.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const position = books.chart.accounts.findIndex((account) => account.number === number);
    const account = books.chart.accounts[position];
    if (!account) throw notFound(`account ${number}`);
    const from = query.opening ? books.calendar.periods[0]!.index : periodOf(books, query.from);
    const to = periodOf(books, query.to);
    if (from > to) throw refused(`The period ends before it starts: ${query.from} to ${query.to}.`, 'to');
    const start = periodAt(books.calendar, from);
    const end = periodAt(books.calendar, to);
    const { [PARTY]: parties, [SOURCE]: sources, [CASH_FLOW]: cashFlowParts, ...dimensions } = query.filter;
    const drafts = query.drafts === 'yes';
    const actuals = await this.#booksCache.actuals(books, {
      party: parties !== undefined,
      source: sources !== undefined,
      drafts,
      cashFlow: cashFlowParts !== undefined,
    });
    const slab = (cashFlowParts && actuals.cashFlow ? actuals.cashFlow.cube : actuals.cube).slab(query.filter);
    const slots = { from: firstSlot(books.calendar, from), to: lastSlot(books.calendar, to) };
    const parts =
      cashFlowParts && actuals.cashFlow
        ? partAmounts(actuals.cashFlow, { position, parts: cashFlowParts, filter: query.filter, slots })
        : null;
    const combinations = [...books.combinations].filter(([, values]) => passes(dimensions, values)).map(([id]) => id);
    const condition = `FROM lines l JOIN entries e ON e.id = l.entry_id
      WHERE ${parts && !parts.wholeLines ? '$1 IS NOT NULL AND l.id IN (SELECT value FROM json_each($7))' : 'l.account_id = $1 AND $7 IS NULL'} AND l.period_code BETWEEN $2 AND $3 ${drafts ? '' : "AND e.state = 'posted'"} AND l.combination_id IN (SELECT value FROM json_each($4))
      AND ($5 IS NULL OR coalesce((SELECT name FROM parties p WHERE p.id = l.party_id), '') IN (SELECT value FROM json_each($5)))
      AND ($6 IS NULL OR e.source IN (SELECT value FROM json_each($6)))
      AND NOT EXISTS (SELECT 1 FROM json_each($8) w WHERE instr(lower(e.number || char(10) || l.document || char(10) || l.memo || char(10) || coalesce((SELECT name FROM parties p WHERE p.id = l.party_id), '')), w.value) = 0)
      ${isBalanceAccount(account) ? '' : `AND e.kind <> 'closing'`}`;
    const bindings = [
      books.accountIds[position]!,
      periodCode(start.year, start.number),
      periodCode(end.year, end.number === 12 ? 13 : end.number),
      JSON.stringify(combinations),
      parties ? JSON.stringify(parties) : null,
      sources ? JSON.stringify(sources) : null,
      parts && !parts.wholeLines ? JSON.stringify([...parts.byLine.keys()]) : null,
      JSON.stringify(query.find.toLowerCase().split(/\s+/).filter(Boolean)),
    ];
    // a running balance is of lines that are all there, in order of date
    const isRunning = query.find.trim() === '' && query.sort === 'date' && parts === null;
    const [total] = await this.#database.select<{ count: number; sum: number }>(
      `SELECT count(*) AS count, coalesce(sum(l.amount), 0) AS sum ${condition}`,
      bindings,
    );
    const rows = await this.#database.select<{
      line_id: number;
      entry_id: number;
      entry: string;
      date: string;
      memo: string;
      party: string | null;
      document: string;
      source: string;
      kind: string;
      state: string;
      combination_id: number;
      amount: number;
      balance: number;
    }>(
      `SELECT l.id AS line_id, e.id AS entry_id, e.number AS entry, e.date, l.memo, (SELECT name FROM parties p WHERE p.id = l.party_id) AS party, l.document, e.source, e.kind, e.state, l.combination_id, l.amount,
         ${isRunning ? 'sum(l.amount) OVER (ORDER BY e.date, l.id)' : '0'} AS balance
       ${condition} ORDER BY ${query.sort === 'amount' ? 'abs(l.amount) DESC,' : ''} e.date, l.id LIMIT $9 OFFSET $10`,
      [...bindings, query.limit, query.after],
    );
    const sign = signOf(account);
    // a part of the statement of cash flows may take a line in part, or leave some of it out
    const amountOf = (lineId: number, amount: number) =>
      parts ? (parts.wholeLines ? amount : 0) + (parts.byLine.get(lineId) ?? 0) : amount;
    const sum = parts ? (parts.wholeLines ? total!.sum : 0) + parts.total : total!.sum;
    const next = query.after + rows.length;
    return {
      account: { number, name: account.name, className: classOf(account.class).name },
      span: spanWords(books.calendar, { from, to }),
      lines: rows.map((row) => ({
        lineId: row.line_id,
        entryId: row.entry_id,
        entry: row.entry,
        date: row.date,
        memo: row.memo,
        party: row.party ?? '',
        document: row.document,
        source: row.source,
        kind: row.kind,
        state: row.state,
        dimensions: { ...books.combinations.get(row.combination_id) },
        amount: minor(sign * amountOf(row.line_id, row.amount)),
        balance: isRunning ? minor(sign * row.balance) : null,
      })),
      count: total!.count,
      sum: minor(sign * sum),
      figure: minor(sign * slab.change(position, slots.from, slots.to)),
      next: next < total!.count && rows.length > 0 ? next : null,
    };
  }

  /** The entries in draft, latest first, as many as are listed at once. */
  async draftEntries(companyId: number): Promise<DraftEntriesDto> {
    const books = await this.#booksCache.of(companyId);
    const [counted] = await this.#database.select<{ count: number }>(
      `SELECT count(*) AS count FROM entries WHERE company_id = $1 AND state = 'draft'`,
      [companyId],
    );
    const rows = await this.#database.select<{
      id: number;
      number: string;
      date: string;
      period_code: number;
      party: string | null;
      memo: string;
      amount: number;
    }>(
      `SELECT e.id, e.number, e.date, e.period_code, max(p.name) AS party, max(l.memo) AS memo, sum(max(l.amount, 0)) AS amount
       FROM entries e JOIN lines l ON l.entry_id = e.id LEFT JOIN parties p ON p.id = l.party_id
       WHERE e.company_id = $1 AND e.state = 'draft' GROUP BY e.id ORDER BY e.date DESC, e.id DESC LIMIT $2`,
      [companyId, DRAFTS_LISTED],
    );
    return {
      count: counted!.count,
      entries: rows.map(({ id, number, date, period_code, party, memo, amount }) => ({
        id,
        number,
        date,
        period: periodWords(books, period_code),
        party: party ?? '',
        memo,
        amount: minor(amount),
      })),
    };
  }

  /** An entry with its two sides. */
  async entry(companyId: number, entryId: number): Promise<EntryDto> {
    const books = await this.#booksCache.of(companyId);
    const [entry] = await this.#database.select<{
      id: number;
      number: string;
      date: string;
      period_code: number;
      source: string;
      kind: string;
      state: string;
      import_id: number | null;
      posted_at: string | null;
      version: number;
    }>('SELECT e.*, i.posted_at FROM entries e LEFT JOIN imports i ON i.id = e.import_id WHERE e.id = $1 AND e.company_id = $2', [
      entryId,
      companyId,
    ]);
    if (!entry) throw notFound(`entry ${entryId}`);
    const lines = await this.#database.select<{
      id: number;
      position: number;
      amount: number;
      memo: string;
      party: string | null;
      document: string;
      due: string | null;
      dimension_values: string;
    }>(
      `SELECT l.id, a.position, l.amount, l.memo, p.name AS party, l.document, l.due, c.dimension_values FROM lines l JOIN accounts a ON a.id = l.account_id
       JOIN combinations c ON c.id = l.combination_id LEFT JOIN parties p ON p.id = l.party_id WHERE l.entry_id = $1 ORDER BY l.id`,
      [entryId],
    );
    const related = await this.#database.select<{ id: number; number: string; how: EntryDto['related'][number]['how'] }>(
      `SELECT o.id, o.number, 'corrects' AS how FROM entries e JOIN entries o ON o.id = e.corrects WHERE e.id = $1
       UNION ALL SELECT o.id, o.number, 'reverses' FROM entries e JOIN entries o ON o.id = e.reverses WHERE e.id = $1
       UNION ALL SELECT id, number, 'correctedBy' FROM entries WHERE company_id = $2 AND corrects = $1
       UNION ALL SELECT id, number, 'reversedBy' FROM entries WHERE company_id = $2 AND reverses = $1`,
      [entryId, companyId],
    );
    return {
      id: entry.id,
      number: entry.number,
      related,
      date: entry.date,
      period: periodWords(books, entry.period_code),
      source: entry.source,
      kind: entry.kind,
      state: entry.state,
      importId: entry.import_id,
      importedAt: entry.posted_at,
      version: entry.version,
      ...sidesOf(lines.map(({ amount }) => amount)),
      lines: lines.map((line) => ({
        id: line.id,
        account: books.chart.accounts[line.position]!.number,
        accountName: books.chart.accounts[line.position]!.name,
        debit: line.amount > 0 ? minor(line.amount) : null,
        credit: line.amount < 0 ? minor(-line.amount) : null,
        memo: line.memo,
        party: line.party ?? '',
        document: line.document,
        due: line.due,
        dimensions: JSON.parse(line.dimension_values) as DimensionCombination,
      })),
    };
  }
}

/**
 * What the movements of parts of the statement of cash flows add to each line of an account. For changes of
 * operating balances and for amounts paid every line of the account counts, less what was settled without cash.
 */
function partAmounts(
  { movements }: CashFlowCube,
  of: {
    readonly position: number;
    readonly parts: readonly string[];
    readonly filter: DimensionFilter;
    readonly slots: { readonly from: number; readonly to: number };
  },
): { readonly wholeLines: boolean; readonly byLine: ReadonlyMap<number, number>; readonly total: number } {
  const { [CASH_FLOW]: _, ...filter } = of.filter;
  const isPaid = of.parts.some((part) => part === 'interestPaid' || part === 'incomeTaxPaid');
  const wanted = isPaid ? ['otherNoncash'] : of.parts;
  const byLine = new Map<number, number>();
  let total = 0;
  for (const { line, account, part, amount } of movements) {
    if (account !== of.position || !wanted.includes(part) || line.slot < of.slots.from || line.slot > of.slots.to) continue;
    if (!passes(filter, line.combination)) continue;
    byLine.set(line.lineId, (byLine.get(line.lineId) ?? 0) + amount);
    total += amount;
  }
  return { wholeLines: isPaid || of.parts.includes('operatingChange'), byLine, total };
}

function periodWords(books: Books, code: number): string {
  const year = Math.floor(code / 100);
  const number = code % 100;
  const period = periodOfYear(books.calendar, year, Math.min(number, 12))!;
  const words = spanWords(books.calendar, { from: period, to: period });
  return number === 13 ? `Adjustment period of FY${year}` : `${words}, period ${number} of FY${year}`;
}
