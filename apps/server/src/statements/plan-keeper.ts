import { planStatement, type ColumnSet, type LineSet, type PeriodIndex, type PlanResult } from '@wise-margin/core';
import { knownDimensions, type Books } from '../companies/books.ts';

const MOST_PLANS = 60;

/** Keeps statements laid out. A plan holds for one chart, calendar, line set, column set and month; other books bring another chart. */
export class PlanKeeper {
  readonly #held = new Map<
    string,
    { readonly books: Books; readonly lineSet: LineSet; readonly columnSet: ColumnSet; readonly result: PlanResult }
  >();

  plan(books: Books, options: { readonly lineSet: LineSet; readonly columnSet: ColumnSet; readonly asOf: PeriodIndex }): PlanResult {
    const { lineSet, columnSet, asOf } = options;
    const key = `${books.id} ${lineSet.key} ${columnSet.key} ${asOf}`;
    const held = this.#held.get(key);
    if (held?.books === books && held.lineSet === lineSet && held.columnSet === columnSet) return held.result;
    const result = planStatement({
      lineSet,
      columnSet,
      chart: books.chart,
      calendar: books.calendar,
      asOf,
      dimensions: knownDimensions(books),
      exponent: books.currency.exponent,
    });
    this.#held.delete(key);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_PLANS && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(key, { books, lineSet, columnSet, result });
    return result;
  }
}
