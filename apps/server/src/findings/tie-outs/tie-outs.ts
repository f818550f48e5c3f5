import type { TieOutDto, TieOutsDto } from '@wise-margin/contract';
import { INCOME_LINES, longPeriodName, periodAt, type PeriodIndex } from '@wise-margin/core';

import { type Books, type BooksCache, periodOf } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import type { Evaluator } from '../../evaluation/index.ts';
import { openItemFigures } from '../../ledger/index.ts';
import { coverageDto, type ViewStore, YEAR_TO_DATE } from '../../statements/index.ts';
import { ledgerTies } from './ledger-ties.ts';
import { pair, someOf } from './pair.ts';
import { statementTies } from './statement-ties.ts';

type Parts = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly evaluator: Evaluator;
  readonly views: ViewStore;
  readonly actor: Actor;
};

/** Pairs of figures that must agree, each with both figures and their difference. Kept until the books change. */
export class TieOuts {
  readonly #parts: Parts;
  readonly #held = new WeakMap<Books, Map<string, Promise<TieOutsDto>>>();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** @param again whether to run them though nothing was posted since */
  async list(companyId: number, asOf: string, again = false): Promise<TieOutsDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const held = this.#held.get(books) ?? new Map<string, Promise<TieOutsDto>>();
    this.#held.set(books, held);
    const running = (again ? undefined : held.get(asOf)) ?? this.#run(books, periodOf(books, asOf));
    held.set(asOf, running);
    running.catch(() => held.delete(asOf));
    return running;
  }

  async #run(books: Books, asOf: PeriodIndex): Promise<TieOutsDto> {
    const { database, evaluator, actor } = this.#parts;
    const tieOuts = [
      ...(await ledgerTies(database, books)),
      ...(await statementTies(evaluator, books, asOf)),
      ...(await this.#openItems(books, asOf)),
      ...(await this.#views(books, asOf)),
    ];
    return {
      asOf: periodAt(books.calendar, asOf).key,
      asOfWords: longPeriodName(books.calendar, asOf),
      tieOuts,
      failing: tieOuts.filter(({ agrees }) => !agrees).length,
      at: actor.now().toISOString(),
    };
  }

  /** Receivables and payables against their open documents at the end of the month. */
  async #openItems(books: Books, asOf: PeriodIndex): Promise<TieOutDto[]> {
    const ties: TieOutDto[] = [];
    const day = periodAt(books.calendar, asOf).end;
    for (const kind of ['receivables', 'payables'] as const) {
      const figures = await openItemFigures(this.#parts, books, { kind, asOf: day });
      if (figures === null) continue;
      ties.push(
        pair({
          key: kind,
          group: 'Open items',
          name: `${kind === 'receivables' ? 'Receivables agree with open invoices' : 'Payables agree with open bills'}`,
          first: { words: `Balance of ${figures.accounts}`, amount: figures.balance },
          second: { words: 'Open documents and unapplied payments', amount: figures.open },
          where: figures.where,
          link: `ledger/reports/aging?kind=${kind}&day=${day}`,
        }),
      );
    }
    return ties;
  }

  /** The bottom line of each saved view that has one against the ledger's net income, and accounts left out of it or taken twice. */
  async #views(books: Books, asOf: PeriodIndex): Promise<TieOutDto[]> {
    const { evaluator, views, actor } = this.#parts;
    const ties: TieOutDto[] = [];
    const gridOf = async (lineSet: typeof INCOME_LINES) =>
      (await evaluator.evaluate(books, { lineSet, columnSet: YEAR_TO_DATE, asOf, filter: {} })).grid;
    const whole = await gridOf(INCOME_LINES);
    for (const { key, name, isShipped } of await views.list(books.id, actor)) {
      if (isShipped) continue;
      const { lineSet } = await views.of(books.id, key, actor);
      const { netIncome, inSeveral, inNone } = coverageDto(books, await gridOf(lineSet), whole);
      if (netIncome === null) continue;
      const parts = [
        ...(inNone.length > 0 ? [`on no line: ${someOf(inNone.map(({ number }) => number))}`] : []),
        ...(inSeveral.length > 0 ? [`on several lines: ${someOf(inSeveral.map(({ number }) => number))}`] : []),
      ];
      ties.push(
        pair({
          key: `view-${key}`,
          group: 'Views',
          name: `${name} has every account once`,
          first: { words: `${netIncome.line} in the view`, amount: netIncome.shown },
          second: { words: 'Net income of the ledger, year to date', amount: netIncome.ledger },
          where: parts.length > 0 ? `Accounts ${parts.join('; ')}.` : 'Open the view in the editor.',
          link: `statements/${key}/edit`,
        }),
      );
    }
    return ties;
  }
}
