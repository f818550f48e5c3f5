import {
  classOf,
  firstSlot,
  isBalanceAccount,
  lastSlot,
  minor,
  passes,
  periodAt,
  periodOfYear,
  signOf,
  spanWords,
  trialBalance,
  yearByMonth,
  yearTotal,
  type DimensionCombination,
  type DimensionFilter,
  sidesOf,
} from '@wise-margin/core';
import type { AccountListDto, EntryDto, EntryLinesDto, TrialBalanceDto } from '@wise-margin/contract';
import { periodCode, type Books, type BooksKeeper } from '../companies/books.ts';
import { PARTY, SOURCE } from '../companies/further-dimensions.ts';
import { periodOf, refuseUnknownFilter } from '../companies/service.ts';
import type { Database } from '../database/database.ts';
import { notFound, refused } from '../http/problem.ts';

export type EntriesQuery = {
  readonly from: string;
  readonly to: string;
  readonly filter: DimensionFilter;
  readonly after: number;
  readonly limit: number;
  readonly opening: boolean;
  readonly drafts: 'yes' | 'no';
};

/** Accounts, trial balance, and the entries behind a balance. */
export class LedgerService {
  readonly #database: Database;
  readonly #keeper: BooksKeeper;

  constructor(database: Database, keeper: BooksKeeper) {
    this.#database = database;
    this.#keeper = keeper;
  }

  /** Accounts with their net change by month of a fiscal year, in each account's natural sign. */
  async accounts(companyId: number, year: number): Promise<AccountListDto> {
    const books = await this.#keeper.of(companyId);
    const first = periodOfYear(books.calendar, year, 1);
    if (first === null)
      throw refused(`FY${year} is not held. ${books.name} has FY${books.calendar.firstYear} to FY${books.calendar.lastYear}.`, 'year');
    const slab = books.cube.slab({});
    const latest = await this.#database.select<{ position: number; date: string }>(
      `SELECT a.position, max(l.period_code) AS code, (SELECT max(e.date) FROM lines l2 JOIN entries e ON e.id = l2.entry_id WHERE l2.account_id = a.id AND l2.period_code = max(l.period_code)) AS date
       FROM lines l JOIN accounts a ON a.id = l.account_id WHERE a.company_id = $1 GROUP BY a.id`,
      [companyId],
    );
    const lastPosting = new Map(latest.map(({ position, date }) => [position, date]));
    const accounts = books.chart.accounts.map((account, position) => {
      const sign = signOf(account);
      const months = yearByMonth(slab, books.calendar, position, year).map((amount, month) =>
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

  /** The trial balance at a month end, debit positive in its amounts, split into sides at the close. */
  async trialBalance(companyId: number, asOf: string, filter: DimensionFilter): Promise<TrialBalanceDto> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    const { rows, debits, credits } = trialBalance(books.cube.slab(filter), books.chart, books.calendar, periodOf(books, asOf));
    const told = rows.map(({ account, opening, month, yearToDate, closing }) => ({
      number: account === null ? null : books.chart.accounts[account]!.number,
      name: account === null ? 'Result of earlier years, not closed to retained earnings' : books.chart.accounts[account]!.name,
      opening,
      month,
      yearToDate,
      debit: closing > 0 ? closing : null,
      credit: closing < 0 ? minor(-closing) : null,
    }));
    told.sort(
      (a, b) =>
        Number(a.number === null) - Number(b.number === null) || (a.number ?? '').localeCompare(b.number ?? '', 'en', { numeric: true }),
    );
    return { asOf, rows: told, debits, credits };
  }

  /**
   * Posted lines of an account over a span, oldest first, with their sum and the cube's figure for
   * the same span beside it. For a closing balance (`opening`) the lines run from the beginning.
   */
  async entries(companyId: number, number: string, query: EntriesQuery): Promise<EntryLinesDto> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, query.filter);
    const position = books.chart.accounts.findIndex((account) => account.number === number);
    const account = books.chart.accounts[position];
    if (!account) throw notFound(`account ${number}`);
    const from = query.opening ? books.calendar.periods[0]!.index : periodOf(books, query.from);
    const to = periodOf(books, query.to);
    if (from > to) throw refused(`The span ends before it begins: ${query.from} to ${query.to}.`, 'to');
    const start = periodAt(books.calendar, from);
    const end = periodAt(books.calendar, to);
    const { [PARTY]: parties, [SOURCE]: sources, ...dimensions } = query.filter;
    const drafts = query.drafts === 'yes';
    const combinations = [...books.combinations].filter(([, values]) => passes(dimensions, values)).map(([id]) => id);
    const condition = `FROM lines l JOIN entries e ON e.id = l.entry_id
      WHERE l.account_id = $1 AND l.period_code BETWEEN $2 AND $3 ${drafts ? '' : "AND e.state = 'posted'"} AND l.combination_id IN (SELECT value FROM json_each($4))
      AND ($5 IS NULL OR coalesce((SELECT name FROM parties p WHERE p.id = l.party_id), '') IN (SELECT value FROM json_each($5)))
      AND ($6 IS NULL OR e.source IN (SELECT value FROM json_each($6)))
      ${isBalanceAccount(account) ? '' : `AND e.kind <> 'closing'`}`;
    const bindings = [
      books.accountIds[position]!,
      periodCode(start.year, start.number),
      periodCode(end.year, end.number === 12 ? 13 : end.number),
      JSON.stringify(combinations),
      parties ? JSON.stringify(parties) : null,
      sources ? JSON.stringify(sources) : null,
    ];
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
    }>(
      `SELECT l.id AS line_id, e.id AS entry_id, e.number AS entry, e.date, l.memo, (SELECT name FROM parties p WHERE p.id = l.party_id) AS party, l.document, e.source, e.kind, e.state, l.combination_id, l.amount
       ${condition} ORDER BY e.date, l.id LIMIT $7 OFFSET $8`,
      [...bindings, query.limit, query.after],
    );
    const sign = signOf(account);
    const working = await this.#keeper.working(books, { party: parties !== undefined, source: sources !== undefined, drafts });
    const slab = working.cube.slab(query.filter);
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
        amount: minor(sign * row.amount),
      })),
      count: total!.count,
      sum: minor(sign * total!.sum),
      figure: minor(sign * slab.change(position, firstSlot(books.calendar, from), lastSlot(books.calendar, to))),
      next: next < total!.count && rows.length > 0 ? next : null,
    };
  }

  /** An entry with its two sides. */
  async entry(companyId: number, entryId: number): Promise<EntryDto> {
    const books = await this.#keeper.of(companyId);
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
    }>('SELECT e.*, i.posted_at FROM entries e LEFT JOIN imports i ON i.id = e.import_id WHERE e.id = $1 AND e.company_id = $2', [
      entryId,
      companyId,
    ]);
    if (!entry) throw notFound(`entry ${entryId}`);
    const lines = await this.#database.select<{
      position: number;
      amount: number;
      memo: string;
      party: string | null;
      document: string;
      due: string | null;
      dimension_values: string;
    }>(
      `SELECT a.position, l.amount, l.memo, p.name AS party, l.document, l.due, c.dimension_values FROM lines l JOIN accounts a ON a.id = l.account_id
       JOIN combinations c ON c.id = l.combination_id LEFT JOIN parties p ON p.id = l.party_id WHERE l.entry_id = $1 ORDER BY l.id`,
      [entryId],
    );
    return {
      id: entry.id,
      number: entry.number,
      date: entry.date,
      period: periodWords(books, entry.period_code),
      source: entry.source,
      kind: entry.kind,
      state: entry.state,
      importId: entry.import_id,
      importedAt: entry.posted_at,
      ...sidesOf(lines.map(({ amount }) => amount)),
      lines: lines.map((line) => ({
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

function periodWords(books: Books, code: number): string {
  const year = Math.floor(code / 100);
  const number = code % 100;
  const period = periodOfYear(books.calendar, year, Math.min(number, 12))!;
  const words = spanWords(books.calendar, { from: period, to: period });
  return number === 13 ? `Adjustment period of FY${year}` : `${words}, period ${number} of FY${year}`;
}
