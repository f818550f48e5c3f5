import {
  type Benchmarks,
  type ColumnSet,
  type DimensionFilter,
  filterKey,
  type LineSet,
  type PeriodIndex,
  type PlanResult,
  planStatement,
} from '@wise-margin/core';

import { type Books, knownDimensions } from '../companies/index.ts';

const MOST_PLANS = 60;
type Asked = {
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  readonly benchmarks: Benchmarks;
  readonly onlyAccounts?: ReadonlySet<number> | null;
  /** the statement's filter, as far as its columns repeat over it */
  readonly filter: DimensionFilter;
  /** the last month of actuals, with drafts where they count */
  readonly last: PeriodIndex | null;
  /** the last month of actuals, not after the as-of month */
  readonly through: PeriodIndex;
};

/** Keeps statements laid out. A plan holds for one chart, calendar, line set, column set and month, whatever is posted meanwhile. */
export class PlanCache {
  readonly #held = new Map<string, Asked & { readonly books: Books; readonly result: PlanResult }>();

  plan(books: Books, options: Asked & { readonly asOf: PeriodIndex }): PlanResult {
    const { lineSet, columnSet, asOf, benchmarks, last, through } = options;
    const filter = repeatedFilter(columnSet, options.filter);
    const onlyAccounts = options.onlyAccounts ?? null;
    const accounts = onlyAccounts === null ? '' : [...onlyAccounts].join(' ');
    const key = `${books.id} ${lineSet.key} ${columnSet.key} ${asOf} ${last} ${through} ${filterKey(filter)} ${accounts}`;
    const held = this.#held.get(key);
    if (
      held &&
      isLaidOutAlike(held.books, books) &&
      held.lineSet === lineSet &&
      held.columnSet === columnSet &&
      held.benchmarks === benchmarks
    )
      return held.result;
    const result = planStatement({
      lineSet,
      columnSet,
      chart: books.chart,
      calendar: books.calendar,
      asOf,
      dimensions: knownDimensions(books),
      exponent: books.currency.exponent,
      onlyAccounts,
      benchmarks,
      filter,
      posted: books.firstPosted === null || last === null ? null : { first: books.firstPosted, last },
      through,
    });
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_PLANS && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, lineSet, columnSet, benchmarks, last, through, filter, result });
    return result;
  }
}

/** Whether books differ in their postings alone: a change that they followed leaves everything that statements are laid out from as it was. */
const isLaidOutAlike = (a: Books, b: Books): boolean =>
  a === b ||
  (a.chart === b.chart &&
    a.calendar === b.calendar &&
    a.dimensions === b.dimensions &&
    a.parties === b.parties &&
    a.sourceJournals === b.sourceJournals &&
    a.currency === b.currency &&
    a.firstPosted === b.firstPosted);

/** The part of a filter that decides which columns there are. */
function repeatedFilter({ blocks }: ColumnSet, filter: DimensionFilter): DimensionFilter {
  const repeated = new Set(blocks.flatMap(({ repeat }) => (repeat?.over === 'dimension' ? [repeat.dimension] : [])));
  return Object.fromEntries(Object.entries(filter).filter(([dimension]) => repeated.has(dimension)));
}
