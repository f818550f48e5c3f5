import type {
  BudgetDto,
  BudgetProposalDto,
  budgetProposalQuerySchema,
  copyBudgetSchema,
  NewBudget,
  NewBudgetPreviewDto,
  reforecastSchema,
  whatIfVersionSchema,
} from '@wise-margin/contract';
import {
  type AccountClass,
  type BalanceRule,
  type BudgetBooks,
  type BudgetLine,
  type BudgetNote,
  classOf,
  type FirstBasis,
  firstBudget,
  firstBudgetTotals,
  isIncomeAccount,
  methodOfHistory,
  minor,
  monthCalendar,
  periodAt,
  periodOfKey,
  periodOfYear,
  PERIODS_PER_YEAR,
  reforecast,
  shortPeriodName,
  signOf,
  whatIf,
} from '@wise-margin/core';
import { methodName, methodWords, nonrecurringWords } from '@wise-margin/presentation';
import type { z } from 'zod';

import { budgetBooksOf, headOf, type StoredBudget } from '../../budget-store/index.ts';
import { type Books, openFiscalYear } from '../../companies/index.ts';
import { type Actor, recordAudit } from '../../database/audit.ts';
import { refused } from '../../http/problem.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { describeBudget } from '../describe.ts';
import { readNonrecurring } from '../nonrecurring/nonrecurring-candidates.ts';

type FirstLines = { readonly dimensions: readonly string[]; readonly budgetBooks: BudgetBooks; readonly lines: readonly BudgetLine[] };

/** Creates budgets: from the ledger, as copies, reforecasts and what-if versions. */
export class BudgetCreation {
  readonly #parts: BudgetContext;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
  }

  /** What a new budget from a year would start with: amounts that may not recur, and a method for each account. */
  async proposal(companyId: number, { from, projected }: z.output<typeof budgetProposalQuerySchema>): Promise<BudgetProposalDto> {
    await this.#refuseYearWithoutHistory(companyId, from);
    const books = await this.#parts.booksCache.of(companyId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const candidates = await readNonrecurring(this.#parts.database, books, { budgetBooks, year: from, projected });
    const { accounts } = books.chart;
    return {
      candidates: candidates.map(({ position, period, entry, memo, amount, reason }) => ({
        account: accounts[position]!.number,
        name: accounts[position]!.name,
        period: periodAt(books.calendar, period).key,
        entry: entry && { ...entry, description: memo },
        amount: minor(signOf(accounts[position]!) * amount),
        netIncome: amount,
        reason: nonrecurringWords(reason),
        isProposed: reason.code === 'disposal' || reason.code === 'insurance' || reason.code === 'named',
      })),
      methods: accounts.flatMap((account, position) => {
        if (!isIncomeAccount(account)) return [];
        const own = methodOfHistory(budgetBooks, { position, fromYear: from, projected });
        if (own.years.length === 0) return [];
        return [
          {
            account: account.number,
            name: account.name,
            class: account.class,
            method: methodName(own),
            repeats: own.repeats === null ? null : Math.round(own.repeats * 100),
            why: methodWords(own, own.years),
          },
        ];
      }),
    };
  }

  /** What a new budget would come to by account class; nothing is written. @throws ProblemError 422 as when it is created */
  async preview(companyId: number, request: Omit<NewBudget, 'name' | 'note'>): Promise<NewBudgetPreviewDto> {
    const { year, from, projected } = request;
    await this.#refuseYearWithoutHistory(companyId, from);
    const known = await this.#parts.booksCache.of(companyId);
    const books = withYear(await this.#parts.nonrecurring.booksExcluding(known, request.exclude), year);
    const { budgetBooks, lines } = await this.#firstLines(books, request);
    const { classes, netIncome } = firstBudgetTotals({ books: budgetBooks, fromYear: from, lines, projected });
    return {
      year,
      from,
      baseWords: baseWords(books, { from, projected: projected && budgetBooks.approved.has(from) }),
      lines: lines.length,
      classes: classes.map((each) => ({ ...each, name: classOf(each.class).name })),
      netIncome,
    };
  }

  /**
   * Creates a budget for all lines at once from another year, by account and the dimensions asked for. Opens
   * the fiscal year when it is the next one.
   * @throws ProblemError 422 for a name in use or a year without history
   */
  async create(companyId: number, request: NewBudget, actor: Actor): Promise<BudgetDto> {
    const { year, from, name, note } = request;
    await this.#refuseYearWithoutHistory(companyId, from);
    await openFiscalYear(this.#parts.database, this.#parts.booksCache, { companyId, year, actor });
    await this.#refuseNameInUse(companyId, year, name);
    await this.#parts.nonrecurring.addAll(companyId, request.exclude, actor);
    const books = await this.#parts.booksCache.of(companyId);
    const { dimensions, lines } = await this.#firstLines(books, request);
    return this.#insert(
      books,
      { year, name, note, fromYear: from, dimensions, copiedFrom: null, lines, notes: [], rules: new Map() },
      actor,
    );
  }

  /**
   * A new version of a budget, with its lines and notes, to be worked on apart.
   * @throws ProblemError 422 for a name in use
   */
  async copy(
    { company: companyId, budget: budgetId }: BudgetPlace,
    { name, note }: z.output<typeof copyBudgetSchema>,
    actor: Actor,
  ): Promise<BudgetDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    return this.#addVersion({ books, from }, { name, note, lines: from.lines }, actor);
  }

  /** A new version of a budget with lines of its own. @throws ProblemError 422 for a name in use */
  async #addVersion(
    { books, from }: { readonly books: Books; readonly from: StoredBudget },
    { name, note, lines }: { readonly name: string; readonly note: string; readonly lines: readonly BudgetLine[] },
    actor: Actor,
  ): Promise<BudgetDto> {
    const { id, year, fromYear, dimensions } = from.row;
    await this.#refuseNameInUse(books.id, year, name);
    return this.#insert(
      books,
      { year, name, note, fromYear, dimensions, copiedFrom: id, lines, notes: from.notes, rules: from.rules },
      actor,
    );
  }

  /** A new version whose posted months are actuals. @throws ProblemError 422 for a month outside the budget's year */
  async reforecast(
    { company: companyId, budget: budgetId }: BudgetPlace,
    request: z.output<typeof reforecastSchema>,
    actor: Actor,
  ): Promise<BudgetDto> {
    const { name, note, through: key, rest } = request;
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    const first = periodOfYear(books.calendar, from.row.year, 1)!;
    const through = key === undefined ? books.lastActual : periodOfKey(books.calendar, key);
    if (through === null || through < first)
      throw refused(
        `Nothing of FY${from.row.year} is posted ${key === undefined ? 'yet' : `through ${key}`}, so there are no actuals to use. Copy the budget instead.`,
        'through',
      );
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const lines = reforecast({ books: budgetBooks, head: headOf(from.row), lines: from.lines, through, rest });
    return this.#addVersion({ books, from }, { name, note, lines }, actor);
  }

  /** A new version under changed assumptions; the months that changed are held, so that their bases leave them. */
  async whatIf(
    { company: companyId, budget: budgetId }: BudgetPlace,
    request: z.output<typeof whatIfVersionSchema>,
    actor: Actor,
  ): Promise<BudgetDto> {
    const { name, note, tried } = request;
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const lines = whatIf({ books: budgetBooks, head: headOf(from.row), lines: from.lines, tried }).map((line, index) => ({
      ...line,
      months: line.months.map((month, at) => (month.amount === from.lines[index]!.months[at]!.amount ? month : { ...month, held: true })),
    }));
    return this.#addVersion({ books, from }, { name, note, lines }, actor);
  }

  /** Writes a new budget as a draft with its lines and notes. */
  async #insert(
    books: Books,
    made: {
      readonly year: number;
      readonly name: string;
      readonly note: string;
      readonly fromYear: number | null;
      readonly dimensions: readonly string[];
      readonly copiedFrom: number | null;
      readonly lines: readonly BudgetLine[];
      readonly notes: readonly BudgetNote[];
      readonly rules: ReadonlyMap<string, BalanceRule>;
    },
    actor: Actor,
  ): Promise<BudgetDto> {
    const { lines, notes, rules, dimensions, ...head } = made;
    const id = await this.#parts.database.write(async (transaction) => {
      const row = await this.#parts.database.models.budgets.create(
        {
          ...head,
          companyId: books.id,
          state: 'draft',
          dimensionsText: JSON.stringify(dimensions),
          createdAt: actor.now().toISOString(),
          actor: actor.name,
        },
        { transaction },
      );
      await this.#parts.store.insertLines({ books, budgetId: row.id, lines }, transaction);
      await this.#parts.store.writeNotes(row.id, { notes: notes.map((after) => ({ before: null, after })), actor }, transaction);
      await this.#parts.store.writeRules(
        row.id,
        [...rules].map(([account, after]) => ({ account, after })),
        transaction,
      );
      await recordAudit(
        this.#parts.database,
        { companyId: books.id, actor, action: 'budget.create', subject: `budget ${row.id}`, details: { ...head, dimensions } },
        transaction,
      );
      return row.id;
    });
    return describeBudget({ books, budget: await this.#parts.store.of(books, id), evaluator: this.#parts.evaluator });
  }

  /** The lines a request for a new budget gives, from books that have its year. */
  async #firstLines(books: Books, request: Omit<NewBudget, 'name' | 'note'>): Promise<FirstLines> {
    const { year, from, change, changeByClass, basisByClass, projected, roundTo } = request;
    const dimensions = this.#dimensionsOf(books, request.dimensions);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const lines = firstBudget({
      books: budgetBooks,
      head: { year, fromYear: from, dimensions },
      changes: { all: change, byClass: changeByClass as Partial<Record<AccountClass, string>> },
      bases: basisByClass as Partial<Record<AccountClass, FirstBasis>>,
      projected,
      roundTo: minor(roundTo),
    });
    return { dimensions, budgetBooks, lines };
  }

  async #refuseNameInUse(companyId: number, year: number, name: string): Promise<void> {
    if ((await this.#parts.store.list(companyId)).some((row) => row.year === year && row.name.toLowerCase() === name.toLowerCase()))
      throw refused(`FY${year} has a budget named ${name} already. Give this one another name.`, 'name');
  }

  async #refuseYearWithoutHistory(companyId: number, year: number): Promise<void> {
    const books = await this.#parts.booksCache.of(companyId);
    const first = periodOfYear(books.calendar, year, 1);
    const last = periodOfYear(books.calendar, year, 12);
    const held = books.years.filter(
      (each) =>
        books.firstPosted !== null &&
        books.lastActual !== null &&
        each >= periodAt(books.calendar, books.firstPosted).year &&
        each <= periodAt(books.calendar, books.lastActual).year,
    );
    if (first === null || last === null || !held.includes(year)) {
      throw refused(
        `The ledger has no actuals in FY${year}. ${held.length > 0 ? `There are actuals in ${held.map((each) => `FY${each}`).join(', ')}.` : 'Import a ledger first.'}`,
        'from',
      );
    }
  }

  /** @throws ProblemError 422 for a dimension the ledger has not */
  #dimensionsOf(books: Books, asked: readonly string[] | undefined): readonly string[] {
    const known = books.dimensions.map(({ name }) => name);
    const unknown = asked?.find((name) => !known.includes(name));
    if (unknown !== undefined) throw refused(`The ledger has no dimension ${unknown}. It has ${known.join(', ') || 'none'}.`, 'dimensions');
    const usual = known.includes('department') ? 'department' : known[0];
    return asked ?? (usual === undefined ? [] : [usual]);
  }
}

/** Which months of the year a budget starts from are actual, and what stands for the others. */
function baseWords(
  { calendar, firstPosted, lastActual }: Books,
  { from, projected }: { readonly from: number; readonly projected: boolean },
) {
  const first = periodOfYear(calendar, from, 1)!;
  const last = periodOfYear(calendar, from, PERIODS_PER_YEAR)!;
  const months = Math.min(last, lastActual ?? first) - Math.max(first, firstPosted ?? first) + 1;
  if (months === PERIODS_PER_YEAR) return `FY${from} actual`;
  if (projected) return `FY${from} actual through ${shortPeriodName(calendar, lastActual!)}, then approved budget`;
  return `FY${from} actual, ${months} of ${PERIODS_PER_YEAR} months`;
}

/**
 * Books whose calendar has one more year at its end.
 * @throws ProblemError 422 for a year that is neither held nor the next one
 */
function withYear(books: Books, year: number): Books {
  const { firstYear, lastYear, hasAdjustmentPeriod } = books.calendar;
  if (year >= firstYear && year <= lastYear) return books;
  if (year !== lastYear + 1)
    throw refused(`Fiscal years follow one another. Choose FY${firstYear} to FY${lastYear + 1}, not FY${year}.`, 'year');
  return { ...books, calendar: monthCalendar({ startMonth: books.startMonth, firstYear, lastYear: year, hasAdjustmentPeriod }) };
}
