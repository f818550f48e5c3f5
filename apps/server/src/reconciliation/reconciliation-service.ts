import type {
  BankLineDto,
  CashLineDto,
  ClearingDto,
  PostAdjustment,
  ReconciliationDto,
  reconciliationQuerySchema,
} from '@wise-margin/contract';
import {
  type BankLine,
  type CashLine,
  type Clearing,
  differenceAccount,
  type EntryContent,
  type IsoDate,
  type Minor,
  minor,
  parseIsoDate,
  periodAt,
  type PeriodIndex,
  proposeMatches,
  reconcile,
  type Reconciliation,
  suggestAccount,
} from '@wise-margin/core';
import { matchWords, nearMatchWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import type { Books, BooksCache } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError, refused } from '../http/problem.ts';
import type { EntryMaking } from '../ledger/index.ts';
import { cashAccountOf, cashAccounts } from './cash-account.ts';
import { daysLater } from './days-later.ts';
import type { CashAccount, NewClearing, StatementCounts, StatementStore, StoredCashLine, StoredClearing } from './statement-store.ts';

/** More than a person will look through; how many there are is said. */
const MOST_LISTED = 2000;
const MOST_CLEARED = 500;
/** Lines this many days before the first statement may still clear. */
const DAYS_BEFORE = 75;

/** A cash account with everything its reconciliation is made of. */
type Loaded = {
  readonly books: Books;
  readonly account: CashAccount & { readonly name: string };
  readonly statements: readonly StatementCounts[];
  readonly bank: readonly BankLine[];
  /** from some days before the first statement on */
  readonly ledger: readonly StoredCashLine[];
  readonly clearings: readonly StoredClearing[];
  readonly marks: ReadonlySet<number>;
};
export type Reconciled = Reconciliation & { readonly clearings: readonly StoredClearing[]; readonly from: IsoDate; readonly to: IsoDate };

/** Cash accounts against their bank statements: what is the same money, what is on its way, and what the ledger lacks. */
export class ReconciliationService {
  readonly #database: Database;
  readonly #booksCache: BooksCache;
  readonly #entryMaking: EntryMaking;
  readonly #store: StatementStore;
  readonly #samplesOf: (companyId: number) => Promise<readonly string[]>;

  constructor(options: {
    readonly database: Database;
    readonly booksCache: BooksCache;
    readonly entryMaking: EntryMaking;
    readonly store: StatementStore;
    /** statements to try it with, of a demo company */
    readonly samplesOf: (companyId: number) => Promise<readonly string[]>;
  }) {
    this.#database = options.database;
    this.#booksCache = options.booksCache;
    this.#entryMaking = options.entryMaking;
    this.#store = options.store;
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
    const loaded = await this.#load(books, number, all);
    const day = dayOf(books, asOf, loaded.statements);
    const reached = await this.#reconciled(loaded, day);
    const free = openLines(loaded);
    const proposals = proposeMatches(free);
    const { adjustments, bankAccount } = {
      adjustments: await this.#store.adjustments(loaded.account),
      bankAccount: (await this.#store.bankAccounts(companyId)).get(loaded.account.accountId)?.bankAccount ?? '',
    };
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
      ledger: free.ledger.slice(-MOST_LISTED).map(cashDto),
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
          bank: free.bank.find(({ id }) => id === near.bank)!.amount,
          ledger: free.ledger.find(({ id }) => id === near.ledger)!.amount,
          exponent: books.currency.exponent,
        }),
      })),
      cleared: cleared.slice(0, MOST_CLEARED).map((clearing) => clearingDto(loaded, clearing, reached?.broken ?? [])),
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
      const reconciled = await this.#reconciled(await this.#load(books, number, all), day);
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

  /** Marks lines as the same money. @throws ProblemError 422 where amounts differ, 409 where a line is cleared already */
  async clear(
    companyId: number,
    { account: number, clearings }: { readonly account: string; readonly clearings: readonly Omit<Clearing, 'id'>[] },
    actor: Actor,
  ): Promise<void> {
    const { account, ...free } = await this.#free(companyId, number);
    const lines = { bank: new Map(free.bank.map((line) => [line.id, line])), ledger: new Map(free.ledger.map((line) => [line.id, line])) };
    for (const { bank, ledger } of clearings) {
      const sums = [sumOf(bank, lines.bank), sumOf(ledger, lines.ledger)];
      if (sums[0] !== sums[1])
        throw refused('The lines selected do not add up to the same amount. Select others, or clear them with a difference.', 'clearings');
    }
    refuseTwice(clearings.flatMap(({ bank }) => bank));
    refuseTwice(clearings.flatMap(({ ledger }) => ledger));
    await this.#database.write(async (transaction) => {
      await this.#refuseCleared(clearings, transaction);
      for (const { bank, ledger } of clearings)
        await this.#store.addClearing(account, { kind: 'matched', bank, ledger }, { actor, transaction });
      const details = { account: number, clearings: clearings.length };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.clear', subject: `account ${number}`, details },
        transaction,
      );
    });
  }

  /** Takes a clearing back; an entry that was posted with it stays. @throws ProblemError 404 */
  async unclear(companyId: number, id: number, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      const [row] = await this.#database.select<{ id: number }>(
        'SELECT id FROM clearings WHERE id = $1 AND company_id = $2',
        [id, companyId],
        transaction,
      );
      if (!row) throw notFound(`clearing ${id}`);
      await this.#store.removeClearing(id, transaction);
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.unclear', subject: `clearing ${id}`, details: {} },
        transaction,
      );
    });
  }

  /** Posts a line of a statement that the ledger lacks, such as a charge of the bank, and clears it. */
  async postAdjustment(
    companyId: number,
    { account: number, bankLine, to, dimensions = {}, memo = '' }: PostAdjustment,
    actor: Actor,
  ): Promise<void> {
    const { books, account, bank } = await this.#free(companyId, number);
    const line = bank.find(({ id }) => id === bankLine);
    if (!line) throw notFree();
    await this.#post(
      { books, account, actor },
      {
        content: entryOf(line, { number, to, dimensions, memo: memo || line.text }),
        reason: `From the bank statement: ${line.text}`.slice(0, 500),
        clearing: { kind: 'adjustment', bank: [line.id], ledger: [], otherAccount: to },
      },
    );
  }

  /**
   * Clears lines that do not add up, and posts what is between them to the watched account, where it stays in view until
   * it is explained.
   * @throws ProblemError 422 where they add up, or no account is kept for differences
   */
  async force(
    companyId: number,
    {
      account: number,
      bank: ofBank,
      ledger: ofLedger,
      reason,
    }: { readonly account: string; readonly bank: readonly number[]; readonly ledger: readonly number[]; readonly reason: string },
    actor: Actor,
  ): Promise<void> {
    const { books, account, bank, ledger } = await this.#free(companyId, number);
    const to = differenceAccount(books.chart);
    if (to === null)
      throw refused('No account is kept for differences. Add one whose name has "Reconciliation differences", such as 6790.', 'account');
    const banks = bank.filter(({ id }) => ofBank.includes(id));
    const difference =
      sumOf(ofBank, new Map(bank.map((line) => [line.id, line]))) - sumOf(ofLedger, new Map(ledger.map((line) => [line.id, line])));
    if (difference === 0) throw refused('The lines selected add up. Match them without a difference.', 'bank');
    const last = banks.reduce((latest, line) => (line.date > latest.date ? line : latest), banks[0]!);
    await this.#post(
      { books, account, actor },
      {
        content: entryOf(
          { ...last, amount: minor(difference), party: '', reference: '' },
          { number, to, dimensions: {}, memo: `Difference in bank reconciliation: ${reason}` },
        ),
        reason,
        clearing: { kind: 'difference', bank: ofBank, ledger: ofLedger, difference, reason },
      },
    );
  }

  /** Says what a forced difference was; an empty text brings it back into view. @throws ProblemError 404 */
  async explain(
    companyId: number,
    id: number,
    { explanation, actor }: { readonly explanation: string; readonly actor: Actor },
  ): Promise<void> {
    await this.#database.write(async (transaction) => {
      const [row] = await this.#database.select<{ explanation: string }>(
        "SELECT explanation FROM clearings WHERE id = $1 AND company_id = $2 AND kind = 'difference'",
        [id, companyId],
        transaction,
      );
      if (!row) throw notFound(`forced difference ${id}`);
      await this.#database.run('UPDATE clearings SET explanation = $1 WHERE id = $2', [explanation, id], transaction);
      const changes = [{ what: 'explanation', from: row.explanation || null, to: explanation || null }];
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.explain', subject: `difference ${id}`, details: {}, changes },
        transaction,
      );
    });
  }

  /** Marks a line before the first statement as one that the bank had not seen by then, or no longer. */
  async mark(
    companyId: number,
    { account: number, line, isOutstanding }: { readonly account: string; readonly line: number; readonly isOutstanding: boolean },
    actor: Actor,
  ): Promise<void> {
    const { account } = await this.#free(companyId, number);
    const sql = isOutstanding
      ? `INSERT OR IGNORE INTO outstanding_lines (line_id, company_id) SELECT l.id, $2 FROM lines l WHERE l.id = $1 AND l.account_id = $3`
      : 'DELETE FROM outstanding_lines WHERE line_id = $1 AND company_id = $2 AND $3 = $3';
    await this.#database.write(async (transaction) => {
      await this.#database.run(sql, [line, companyId, account.accountId], transaction);
      const details = { line, isOutstanding };
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'reconciliation.mark', subject: `account ${number}`, details },
        transaction,
      );
    });
  }

  /** An entry, and the clearing that its line of the cash account belongs to: both or neither. */
  async #post(
    { books, account, actor }: { readonly books: Books; readonly account: CashAccount; readonly actor: Actor },
    { content, reason, clearing }: { readonly content: EntryContent; readonly reason: string; readonly clearing: NewClearing },
  ): Promise<void> {
    await this.#entryMaking.makeOne(books, {
      content,
      reason,
      actor,
      after: async (entries, transaction) => {
        await this.#refuseCleared([clearing], transaction);
        const lines = await this.#database.select<{ id: number }>(
          'SELECT id FROM lines WHERE entry_id IN (SELECT value FROM json_each($1)) AND account_id = $2',
          [JSON.stringify(entries), account.accountId],
          transaction,
        );
        await this.#store.addClearing(
          account,
          { ...clearing, ledger: [...clearing.ledger, ...lines.map(({ id }) => id)] },
          { actor, transaction },
        );
      },
    });
  }

  async #refuseCleared(
    clearings: readonly Pick<Clearing, 'bank' | 'ledger'>[],
    transaction: Parameters<Database['run']>[2],
  ): Promise<void> {
    const [row] = await this.#database.select<{ cleared: number }>(
      `SELECT (SELECT count(*) FROM bank_lines WHERE clearing_id IS NOT NULL AND id IN (SELECT value FROM json_each($1)))
         + (SELECT count(*) FROM cleared_lines WHERE line_id IN (SELECT value FROM json_each($2))) AS cleared`,
      [JSON.stringify(clearings.flatMap(({ bank }) => bank)), JSON.stringify(clearings.flatMap(({ ledger }) => ledger))],
      transaction,
    );
    if (row!.cleared > 0) throw notFree();
  }

  async #free(companyId: number, number: string) {
    const books = await this.#booksCache.of(companyId);
    const loaded = await this.#load(books, number, await this.#store.statements(companyId));
    return { books, account: loaded.account, ...openLines(loaded) };
  }

  async #load(books: Books, number: string, all: readonly StatementCounts[]): Promise<Loaded> {
    const account = cashAccountOf(books, number);
    const statements = all.filter(({ account_id }) => account_id === account.accountId);
    const [first] = statements;
    if (!first) return { books, account, statements, bank: [], ledger: [], clearings: [], marks: new Set() };
    return {
      books,
      account,
      statements,
      bank: await this.#store.bankLines(account),
      ledger: await this.#store.cashLines(account, daysLater(first.from_date, -DAYS_BEFORE)),
      clearings: await this.#store.clearings(account),
      marks: await this.#store.outstandingMarks(books.id),
    };
  }

  /** Null when no statement reaches the day. */
  async #reconciled({ account, statements, bank, ledger, clearings, marks }: Loaded, asOf: IsoDate): Promise<Reconciled | null> {
    const [first, last] = [statements[0], statements.at(-1)];
    if (!first || !last || asOf < daysLater(first.from_date, -1) || asOf > last.to_date) return null;
    const reconciled = reconcile({
      asOf,
      bank,
      bankOpening: first.opening,
      from: first.from_date,
      ledger,
      ledgerOpening: await this.#store.balanceBefore(account, first.from_date),
      outstandingBefore: marks,
      clearings,
    });
    return { ...reconciled, clearings, from: first.from_date, to: last.to_date };
  }
}

const notFree = () => new ProblemError(409, 'Cleared already', 'A line was cleared or removed meanwhile. Look at the lines again.');

/** The day asked for; else the last day that statements reach, and without any the end of the last month with postings. @throws ProblemError 422 */
function dayOf(books: Books, asked: string | undefined, statements: readonly StatementCounts[]): IsoDate {
  if (asked !== undefined) {
    const day = parseIsoDate(asked);
    if (day === null) throw refused(`${asked} is no day. Enter it such as 2026-10-31.`, 'asOf');
    return day;
  }
  return (
    statements.at(-1)?.to_date ?? periodAt(books.calendar, books.lastPosted ?? ((books.calendar.periods.length - 1) as PeriodIndex)).end
  );
}

/** Lines that no clearing has, on either side. */
function openLines({ bank, ledger, clearings }: Loaded): { readonly bank: BankLine[]; readonly ledger: StoredCashLine[] } {
  const taken = { bank: new Set(clearings.flatMap((each) => each.bank)), ledger: new Set(clearings.flatMap((each) => each.ledger)) };
  return { bank: bank.filter(({ id }) => !taken.bank.has(id)), ledger: ledger.filter(({ id }) => !taken.ledger.has(id)) };
}

/** @throws ProblemError 409 where a line is not free */
function sumOf(ids: readonly number[], lines: ReadonlyMap<number, { readonly amount: Minor }>): number {
  return ids.reduce((sum, id) => {
    const line = lines.get(id);
    if (!line) throw notFree();
    return sum + line.amount;
  }, 0);
}
function refuseTwice(ids: readonly number[]): void {
  if (new Set(ids).size < ids.length) throw refused('A line is in two clearings. Each line is cleared once.', 'clearings');
}

/** The entry of a line of a statement: the cash account, and where the rest goes. */
function entryOf(
  { date, amount, party, reference }: BankLine,
  {
    number,
    to,
    dimensions,
    memo,
  }: { readonly number: string; readonly to: string; readonly dimensions: Readonly<Record<string, string>>; readonly memo: string },
): EntryContent {
  const common = { memo, party, document: reference.slice(0, 200), due: null };
  return {
    date,
    source: 'bank',
    kind: 'ordinary',
    state: 'posted',
    lines: [
      { account: number, amount, dimensions: {}, ...common },
      { account: to, amount: minor(-amount), dimensions, ...common },
    ],
  };
}

function figuresDto(of: Reconciliation): NonNullable<ReconciliationDto['figures']> {
  const counted = (lines: readonly { readonly amount: Minor }[]) => ({
    count: lines.length,
    amount: minor(lines.reduce((sum, { amount }) => sum + amount, 0)),
  });
  return {
    bankBalance: of.bankBalance,
    depositsInTransit: counted(of.depositsInTransit),
    outstandingPayments: counted(of.outstandingPayments),
    adjustedBank: of.adjustedBank,
    ledgerBalance: of.ledgerBalance,
    unrecorded: counted(of.unrecorded),
    adjustedLedger: of.adjustedLedger,
    difference: of.difference,
  };
}

function clearingDto({ bank, ledger }: Loaded, clearing: StoredClearing, broken: readonly number[]): ClearingDto {
  const banks = bank.filter(({ id }) => clearing.bank.includes(id));
  const lines = ledger.filter(({ id }) => clearing.ledger.includes(id));
  const dates = [...banks, ...lines].map(({ date }) => date).sort();
  return {
    id: clearing.id,
    kind: clearing.kind,
    date: dates.at(-1) ?? clearing.at.slice(0, 10),
    bank: banks.map(({ id, date, amount, text }) => ({ id, date, amount, text })),
    ledger: lines.map(({ id, entryId, entry, date, amount }) => ({ id, entryId, entry, date, amount })),
    amount: minor(banks.reduce((sum, { amount }) => sum + amount, 0)),
    person: clearing.person,
    difference: clearing.difference,
    reason: clearing.reason,
    explanation: clearing.explanation,
    isBroken: broken.includes(clearing.id),
  };
}
