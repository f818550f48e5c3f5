import type { EntryFilterDto, EntryListDto, EntryListQueryDto, ListedLineDto } from '@wise-margin/contract';
import { findLines, firstSlot, lastSlot, type LineQuery, type LineTable, type LineTotals, lineTotals, sortLines } from '@wise-margin/core';

import { type Books, type BooksCache, periodOf, typedAccounts } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import { refused } from '../../http/problem.ts';
import { lineFilter } from './line-filter.ts';
import { readLines } from './read-lines.ts';

const MOST_HELD = 8;
const LINES_A_PART = 2000;
const MOST_SELECTED = 200_000;
type Found = { readonly table: LineTable; readonly positions: Int32Array; readonly totals: LineTotals };

/** The lines of all entries of a ledger: any filter, any order, any page. */
export class EntryList {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  /** what was found last, so that the next page of it is not looked for again */
  readonly #held = new Map<string, Found>();

  constructor(database: Database, booksCache: BooksCache) {
    this.#database = database;
    this.#booksCache = booksCache;
  }

  /** A page of the lines that match, with the totals of all of them. */
  async page(companyId: number, { after, limit, ...filter }: EntryListQueryDto): Promise<EntryListDto> {
    const books = await this.#booksCache.of(companyId);
    const { table, positions, totals } = await this.#find(books, filter);
    const shown = positions.subarray(after, after + limit);
    return {
      lines: await readLines(this.#database, { books, table, positions: shown }),
      totals,
      next: after + shown.length < positions.length ? after + shown.length : null,
    };
  }

  /** Every line that matches, a part at a time, for a file. */
  async *all(companyId: number, filter: EntryFilterDto): AsyncGenerator<readonly ListedLineDto[]> {
    const books = await this.#booksCache.of(companyId);
    const { table, positions } = await this.#find(books, filter);
    for (let from = 0; from < positions.length; from += LINES_A_PART)
      yield await readLines(this.#database, { books, table, positions: positions.subarray(from, from + LINES_A_PART) });
  }

  /** The numbers of every line that matches, in the order asked for. @throws ProblemError 422 when there are more than can be moved at once */
  async lineIds(companyId: number, filter: EntryFilterDto): Promise<number[]> {
    const books = await this.#booksCache.of(companyId);
    const { table, positions } = await this.#find(books, filter);
    if (positions.length > MOST_SELECTED)
      throw refused(
        `${positions.length.toLocaleString('en-US')} lines match; at most ${MOST_SELECTED.toLocaleString('en-US')} can be selected. Narrow the filters.`,
        'filter',
      );
    return Array.from(positions, (position) => table.line[position]!);
  }

  async #find(books: Books, filter: EntryFilterDto): Promise<Found> {
    const { sort, order, ...asked } = filter;
    const query = lineQuery(books, asked);
    const table = await this.#booksCache.lines(books);
    const key = JSON.stringify([books.id, filter]);
    const held = this.#held.get(key);
    if (held?.table === table) return held;
    const byDate = findLines(table, query);
    const positions = sortLines(table, byDate, { by: sort, descending: order === 'descending' });
    const found = { table, positions, totals: lineTotals(table, byDate) };
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, found);
    return found;
  }
}

/** @throws ProblemError 422 for what can match nothing */
function lineQuery(books: Books, asked: Omit<EntryFilterDto, 'sort' | 'order'>): LineQuery {
  const { from, to, accounts = '', filter, least, most, find, origin, state } = asked;
  const [first, last] = [from === undefined ? null : periodOf(books, from), to === undefined ? null : periodOf(books, to)];
  if (first !== null && last !== null && first > last) throw refused(`The period ends before it starts: ${from} to ${to}.`, 'to');
  if (least !== undefined && most !== undefined && least > most)
    throw refused('The smallest amount is larger than the largest. Exchange them.', 'least');
  const chosen = typedAccounts(books, accounts.trim());
  const slots = {
    from: first === null ? 0 : firstSlot(books.calendar, first),
    to: last === null ? Infinity : lastSlot(books.calendar, last),
  };
  return {
    ...(first === null && last === null ? {} : { slots }),
    ...(chosen ? { accounts: chosen } : {}),
    ...lineFilter(books, filter),
    ...(least === undefined ? {} : { least }),
    ...(most === undefined ? {} : { most }),
    ...(find === undefined || find.trim() === '' ? {} : { text: find }),
    ...(origin === undefined ? {} : { origin }),
    ...(state === 'all' ? {} : { state }),
  };
}
