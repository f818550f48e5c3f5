import type { BankLineDto, CashLineDto, ReconciliationDto, reconciliationQuerySchema } from '@wise-margin/contract';
import {
  type BankLine,
  type CashLine,
  differenceAccount,
  type IsoDate,
  parseIsoDate,
  periodAt,
  type PeriodIndex,
  suggestAccount,
} from '@wise-margin/core';
import { matchWords, nearMatchWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books, BooksCache } from '../companies/index.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';
import type { WorkPool } from '../work/work-pool.ts';
import { cashAccountOf, cashAccounts } from './cash-account.ts';
import { linesById, loadAccount, openLines, type Reconciled, reconciledAt } from './loaded-account.ts';
import { matchesOf } from './match-task.ts';
import { clearingDto, figuresDto } from './reconciliation-dto.ts';
import type { StatementCounts, StatementStore, StoredCashLine } from './statement-store.ts';

/** More than a person will look through; how many there are is said. */
const MOST_LISTED = 2000;
const MOST_CLEARED = 500;

/** Cash accounts against their bank statements: what is the same money, what is on its way, and what the ledger lacks. */
export class ReconciliationService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #store: StatementStore;
  readonly #work: WorkPool;
  readonly #samplesOf: (companyId: number) => Promise<readonly string[]>;

  constructor(options: {
    readonly database: Database;
    readonly booksCache: BooksCache;
    readonly store: StatementStore;
    readonly work: WorkPool;
    /** statements to try it with, of a demo company */
    readonly samplesOf: (companyId: number) => Promise<readonly string[]>;
  }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#store = options.store;
    this.#work = options.work;
    this.#samplesOf = options.samplesOf;
  }

  /** A cash account as of a day: its balances, what is open, what can be matched, and what is cleared. */
  async describe(companyId: number, { account, asOf }: z.infer<typeof reconciliationQuerySchema>): Promise<ReconciliationDto> {
    const books = await this.#booksCache.of(companyId);
    const accounts = cashAccounts(books);
    const all = await this.#store.statements(companyId);
    const rowOf = (number: string): number => cashAccountOf(books, number).accountId;
    const statementsOf = (number: string): number => all.filter(({ account_id }) => account_id === rowOf(number)).length;
    const number = account ?? accounts.find((each) => statementsOf(each.number) > 0)?.number ?? accounts[0]?.number;
    if (number === undefined) throw refused(`${books.name} has no cash account. Give an account the class Cash.`, 'account');
    const loaded = await loadAccount(this.#store, { books, number, all });
    const day = dayOf(books, asOf, loaded.statements);
    const reached = await reconciledAt(this.#store, loaded, day);
    const free = openLines(loaded);
    const proposals = await matchesOf(this.#work, free);
    const adjustments = await this.#store.adjustments(loaded.account);
    const bankAccount = (await this.#store.bankAccounts(companyId)).get(loaded.account.accountId)?.bankAccount ?? '';
    const bankDto = (line: BankLine): BankLineDto => ({
      ...line,
      suggested: suggestAccount(line, { chart: books.chart, earlier: adjustments }),
    });
    const start = loaded.statements[0]?.from_date ?? null;
    const cashDto = (line: CashLine): CashLineDto => ({
      ...(line as StoredCashLine),
      isBefore: start !== null && line.date < start,
      isMarked: loaded.marks.has(line.id),
    });
    const cleared = [...loaded.clearings].reverse();
    // the latest, and all that a proposal names
    const named = new Set([...proposals.matches.flatMap((each) => each.ledger), ...proposals.near.map((each) => each.ledger)]);
    const listed = free.ledger.filter(({ id }, at) => named.has(id) || at >= free.ledger.length - MOST_LISTED);
    const lines = linesById(loaded);
    return {
      accounts: accounts.map((each) => ({ number: each.number, name: each.name, statements: statementsOf(each.number) })),
      account: number,
      accountName: loaded.account.name,
      bankAccount,
      asOf: day,
      statements: loaded.statements.map(({ id, format, file, from_date, to_date, opening, closing, lines, open }) => ({
        id,
        format,
        file,
        from: from_date,
        to: to_date,
        opening,
        closing,
        lines,
        open,
      })),
      reach: reached && { from: reached.from, to: reached.to },
      figures: reached && figuresDto(reached),
      outstanding: reached ? [...reached.depositsInTransit, ...reached.outstandingPayments].map(cashDto) : [],
      unrecorded: reached ? reached.unrecorded.map(bankDto) : [],
      bank: free.bank.map(bankDto),
      ledger: listed.map(cashDto),
      ledgerCount: free.ledger.length,
      proposals: proposals.matches.map((match) => ({
        bank: [...match.bank],
        ledger: [...match.ledger],
        words: matchWords(match),
        isSure: match.isSure,
      })),
      near: proposals.near.map((near) => ({
        bank: near.bank,
        ledger: near.ledger,
        words: nearMatchWords(near, {
          bank: lines.bank.get(near.bank)!.amount,
          ledger: lines.ledger.get(near.ledger)!.amount,
          exponent: books.currency.exponent,
        }),
      })),
      cleared: cleared.slice(0, MOST_CLEARED).map((clearing) => clearingDto(lines, clearing, reached?.broken ?? [])),
      clearedCount: cleared.length,
      differenceAccount: differenceAccount(books.chart),
      samples: [...(await this.#samplesOf(companyId))],
    };
  }

  /** The reconciliations of a company's cash accounts as of a day, of those that statements reach. */
  async asOf(books: Books, day: IsoDate): Promise<{ readonly number: string; readonly name: string; readonly reconciled: Reconciled }[]> {
    const all = await this.#store.statements(books.id);
    const found: { readonly number: string; readonly name: string; readonly reconciled: Reconciled }[] = [];
    for (const { number, name } of cashAccounts(books)) {
      const reconciled = await reconciledAt(this.#store, await loadAccount(this.#store, { books, number, all }), day);
      if (reconciled) found.push({ number, name, reconciled });
    }
    return found;
  }

  /** Differs after each change of statements and clearings, so that what is computed from them can be kept until then. */
  async stamp(companyId: number): Promise<string> {
    const [row] = await this.#database.select<{ stamp: string }>(
      `SELECT (SELECT count(*) || ' ' || coalesce(max(id), 0) FROM bank_statements WHERE company_id = $1) || ' ' ||
         (SELECT count(*) || ' ' || coalesce(max(id), 0) || ' ' || coalesce(sum(explanation <> ''), 0) FROM clearings WHERE company_id = $1) || ' ' ||
         (SELECT count(*) || ' ' || coalesce(sum(line_id), 0) FROM outstanding_lines WHERE company_id = $1) AS stamp`,
      [companyId],
    );
    return row!.stamp;
  }
}

/** The day asked for; else the last day that statements reach, and without any the end of the last month of actuals. @throws ProblemError 422 */
function dayOf(books: Books, asked: string | undefined, statements: readonly StatementCounts[]): IsoDate {
  if (asked !== undefined) {
    const day = parseIsoDate(asked);
    if (day === null) throw refused(`${asked} is not a day. Enter it such as 2026-10-31.`, 'asOf');
    return day;
  }
  return (
    statements.at(-1)?.to_date ?? periodAt(books.calendar, books.lastActual ?? ((books.calendar.periods.length - 1) as PeriodIndex)).end
  );
}
