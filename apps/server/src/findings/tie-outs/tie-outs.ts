import type { TieOutDto, TieOutsDto } from '@wise-margin/contract';
import { INCOME_LINES, longPeriodName, periodAt, type PeriodIndex } from '@wise-margin/core';
import { capitalized } from '@wise-margin/presentation';

import type { BudgetStore } from '../../budget-store/index.ts';
import { type Books, type BooksCache, periodOf } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import type { Database } from '../../database/database.ts';
import type { Evaluator } from '../../evaluation/index.ts';
import { openItemFigures } from '../../ledger/index.ts';
import type { ReconciliationService } from '../../reconciliation/index.ts';
import { coverageDto, type ViewStore, YEAR_TO_DATE } from '../../statements/index.ts';
import { budgetTies } from './budget-ties.ts';
import { ledgerTies } from './ledger-ties.ts';
import { pair, someOf } from './pair.ts';
import { statementTies } from './statement-ties.ts';

type Parts = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly evaluator: Evaluator;
  readonly budgetStore: BudgetStore;
  readonly views: ViewStore;
  readonly reconciliation: ReconciliationService;
  readonly actor: Actor;
};

/** Pairs of figures that must agree, each with both figures and their difference. Kept until the books, a budget or a bank reconciliation change. */
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
    const budgets = (await this.#parts.budgetStore.list(companyId)).map(({ id, state, version }) => `${id}${state}${version}`);
    const key = `${asOf} ${await this.#parts.reconciliation.stamp(companyId)} ${budgets.join()}`;
    const running = (again ? undefined : held.get(key)) ?? this.#run(books, periodOf(books, asOf));
    held.set(key, running);
    running.catch(() => held.delete(key));
    return running;
  }

  async #run(books: Books, asOf: PeriodIndex): Promise<TieOutsDto> {
    const { database, evaluator, actor } = this.#parts;
    const tieOuts = [
      ...(await ledgerTies(database, books)),
      ...(await statementTies(evaluator, books, asOf)),
      ...(await this.#openItems(books, asOf)),
      ...(await this.#bank(books, asOf)),
      ...(await budgetTies(this.#parts, books)),
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

  /** Cash accounts against their bank statements, of those that reach the end of the month. Forced differences part the two until they are explained. */
  async #bank(books: Books, asOf: PeriodIndex): Promise<TieOutDto[]> {
    const day = periodAt(books.calendar, asOf).end;
    const reconciled = await this.#parts.reconciliation.asOf(books, day);
    return reconciled.map(({ number, name, reconciled: { ledgerBalance, adjustedBank, unrecorded, broken, clearings } }) => {
      const forced = clearings.filter(({ kind, explanation }) => kind === 'difference' && explanation === '');
      const parts = [
        ...(unrecorded.length > 0 ? [`bank lines not in the ledger: ${unrecorded.length}`] : []),
        ...(broken.length > 0 ? [`matches that no longer add up: ${broken.length}`] : []),
        ...(forced.length > 0 ? [`forced differences without an explanation: ${forced.length}`] : []),
      ];
      return pair({
        key: `bank-${number}`,
        group: 'Open items',
        name: `${number} ${name} agrees with the bank`,
        first: { words: `Balance of ${number} ${name}`, amount: ledgerBalance },
        second: {
          words:
            clearings.length === 0
              ? 'Bank balance with lines not yet matched'
              : 'Bank balance with deposits in transit and outstanding payments',
          amount: adjustedBank,
        },
        holds: forced.length === 0,
        where: parts.length > 0 ? `${capitalized(parts.join('; '))}.` : 'The opening balances of ledger and bank differ.',
        link: `ledger/reconciliation?account=${encodeURIComponent(number)}&day=${day}`,
      });
    });
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
