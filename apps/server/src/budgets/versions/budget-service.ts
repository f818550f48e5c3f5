import {
  BudgetWorksheet,
  firstBudget,
  isIncomeAccount,
  methodOfHistory,
  signOf,
  minor,
  periodAt,
  periodOfYear,
  type AccountClass,
  type BalanceRule,
  type BudgetLine,
  type BudgetNote,
  type DimensionFilter,
  type FirstBasis,
  type StatementGrid,
} from '@wise-margin/core';
import {
  STATE_WORDS,
  type basisPreviewRequestSchema,
  type budgetProposalQuerySchema,
  type BudgetProposalDto,
  type copyBudgetSchema,
  type BasisPreviewDto,
  type BudgetDto,
  type BudgetGridDto,
  type BudgetStateDto,
  type NewBudget,
} from '@wise-margin/contract';
import { worksheetRowDto, gridDto, previewBasis, methodName, methodWords, nonrecurringWords } from '@wise-margin/presentation';
import type { z } from 'zod';
import { type Books, openFiscalYear, refuseUnknownFilter } from '../../companies/index.ts';

import { type Actor, recordAudit } from '../../database/audit.ts';
import { ProblemError, refused } from '../../http/problem.ts';
import { type StoredBudget, budgetBooksOf, headOf } from '../../budget-store/index.ts';
import { describeBudget, yearGrid } from '../describe.ts';
import type { BudgetContext } from '../budget-context.ts';
import { readNonrecurring } from '../nonrecurring/nonrecurring-candidates.ts';

/** Where a budget can go from each state. Approved ones are amended by a new version alone. */
const NEXT_STATES: Readonly<Record<BudgetStateDto, readonly BudgetStateDto[]>> = {
  draft: ['inReview', 'approved'],
  inReview: ['draft', 'approved'],
  approved: ['superseded'],
  superseded: [],
};
const WAY_ON: Readonly<Record<BudgetStateDto, string>> = {
  draft: 'Submit it for review, or approve it',
  inReview: 'Return it to draft, or approve it',
  approved: 'Create a new version and approve that',
  superseded: 'Create a new version to use it again',
};

/** Creates and shows budgets, and takes them through their states. */
export class BudgetService {
  readonly #parts: BudgetContext;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
  }

  async list(companyId: number): Promise<BudgetDto[]> {
    const books = await this.#parts.booksCache.of(companyId);
    return Promise.all(
      (await this.#parts.store.list(companyId)).map(async (row) => this.#describe(books, await this.#parts.store.of(books, row.id))),
    );
  }

  /**
   * Creates a budget for all lines at once from another year, by account and the dimensions asked for. Opens
   * the fiscal year when it is the next one.
   * @throws ProblemError 422 for a name in use or a year without history
   */
  async create(companyId: number, request: NewBudget, actor: Actor): Promise<BudgetDto> {
    const { year, from, name, change, changeByClass, basisByClass, projected, roundTo, note } = request;
    await this.#refuseYearWithoutHistory(companyId, from);
    await openFiscalYear(this.#parts.database, this.#parts.booksCache, { companyId, year, actor });
    await this.#refuseNameInUse(companyId, year, name);
    await this.#parts.nonrecurring.addAll(companyId, request.exclude, actor);
    const books = await this.#parts.booksCache.of(companyId);
    const dimensions = this.#dimensionsOf(books, request.dimensions);
    const lines = firstBudget({
      books: await budgetBooksOf(books, this.#parts.store),
      head: { year, fromYear: from, dimensions },
      changes: { all: change, byClass: changeByClass as Partial<Record<AccountClass, string>> },
      bases: basisByClass as Partial<Record<AccountClass, FirstBasis>>,
      projected,
      roundTo: minor(roundTo),
    });
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
  async copy(companyId: number, budgetId: number, { name, note }: z.output<typeof copyBudgetSchema>, actor: Actor): Promise<BudgetDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const from = await this.#parts.store.of(books, budgetId);
    return this.addVersion(books, from, { name, note, lines: from.lines }, actor);
  }

  /** A new version of a budget with lines of its own. @throws ProblemError 422 for a name in use */
  async addVersion(
    books: Books,
    from: StoredBudget,
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

  /** The month grid with what each account's row is made of. */
  async grid(companyId: number, budgetId: number, filter: DimensionFilter): Promise<BudgetGridDto> {
    const books = await this.#parts.booksCache.of(companyId);
    refuseUnknownFilter(books, filter);
    const budget = await this.#parts.store.of(books, budgetId);
    const { row } = budget;
    const head = headOf(row);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const worksheet = new BudgetWorksheet({ books: budgetBooks, head, ...budget });
    const grid = await yearGrid({ books, budget, evaluator: this.#parts.evaluator }, filter);
    const view = { key: 'budget', name: row.name, note: '', openAll: false };
    const dto = gridDto(grid, { budget: row.name, view, issues: [] });
    const accounts = new Set(dto.lines.flatMap((line) => line.account ?? []));
    return {
      budget: await this.#describe(books, budget, Object.keys(filter).length === 0 ? grid : undefined),
      filter: Object.fromEntries(Object.entries(filter).map(([name, values]) => [name, [...values]])),
      dimensions: [...row.dimensions],
      grid: dto,
      rows: books.chart.accounts.flatMap((account, position) =>
        accounts.has(account.number) ? [worksheetRowDto({ books: budgetBooks, head, worksheet }, position, filter)] : [],
      ),
      version: row.version,
    };
  }

  /**
   * Takes a budget to another state. A year has one approved budget: the one before is superseded.
   * @param change.openFindings how many findings of the budget checks had no explanation, for the record
   * @throws ProblemError 409 when the step is not allowed from the state it is in
   */
  async setState(
    companyId: number,
    budgetId: number,
    { state, openFindings = 0 }: { readonly state: BudgetStateDto; readonly openFindings?: number },
    actor: Actor,
  ): Promise<BudgetDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const { row } = await this.#parts.store.of(books, budgetId);
    const from = row.state as BudgetStateDto;
    if (!NEXT_STATES[from].includes(state))
      throw new ProblemError(
        409,
        'Not from here',
        `${row.name} is ${STATE_WORDS[from].toLowerCase()} and cannot become ${STATE_WORDS[state].toLowerCase()}. ${WAY_ON[from]}.`,
      );
    await this.#parts.database.write(async (transaction) => {
      const { budgets } = this.#parts.database.models;
      if (state === 'approved') {
        const approved = { companyId, year: row.year, state: 'approved' };
        for (const { id } of await budgets.findAll({ where: approved, transaction })) {
          const subject = `budget ${id}`;
          await recordAudit(
            this.#parts.database,
            { companyId, actor, action: 'budget.superseded', subject, details: { by: budgetId } },
            transaction,
          );
        }
        await budgets.update({ state: 'superseded' }, { where: approved, transaction });
      }
      await budgets.update({ state }, { where: { id: budgetId }, transaction });
      await recordAudit(
        this.#parts.database,
        { companyId, actor, action: `budget.${state}`, subject: `budget ${budgetId}`, details: { from, openFindings } },
        transaction,
      );
    });
    return this.#describe(books, await this.#parts.store.of(books, budgetId));
  }

  /** Writes a new budget in work with its lines and notes. */
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
      await this.#parts.store.insertLines(books, row.id, lines, transaction);
      await this.#parts.store.writeNotes(
        row.id,
        notes.map((after) => ({ before: null, after })),
        actor,
        transaction,
      );
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
    return this.#describe(books, await this.#parts.store.of(books, id));
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
        books.lastPosted !== null &&
        each >= periodAt(books.calendar, books.firstPosted).year &&
        each <= periodAt(books.calendar, books.lastPosted).year,
    );
    if (first === null || last === null || !held.includes(year)) {
      throw refused(
        `The ledger has no actuals in FY${year}. ${held.length > 0 ? `There are actuals in ${held.map((each) => `FY${each}`).join(', ')}.` : 'Import a ledger first.'}`,
        'from',
      );
    }
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

  /** What a basis would give a row, before it is set. @throws ProblemError 422 as when it is set */
  async previewBasis(companyId: number, budgetId: number, request: z.output<typeof basisPreviewRequestSchema>): Promise<BasisPreviewDto> {
    const books = await this.#parts.booksCache.of(companyId);
    refuseUnknownFilter(books, request.filter);
    const budget = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const previewed = previewBasis({ books: budgetBooks, head: headOf(budget.row), lines: budget.lines }, request);
    if (!previewed.ok) throw refused(previewed.message, 'basis');
    return previewed.preview;
  }

  /** @throws ProblemError 422 for a dimension the ledger has not */
  #dimensionsOf(books: Books, asked: readonly string[] | undefined): readonly string[] {
    const known = books.dimensions.map(({ name }) => name);
    const unknown = asked?.find((name) => !known.includes(name));
    if (unknown !== undefined) throw refused(`The ledger has no dimension ${unknown}. It has ${known.join(', ') || 'none'}.`, 'dimensions');
    const usual = known.includes('department') ? 'department' : known[0];
    return asked ?? (usual === undefined ? [] : [usual]);
  }

  #describe(books: Books, budget: StoredBudget, whole?: StatementGrid): Promise<BudgetDto> {
    return describeBudget({ books, budget, evaluator: this.#parts.evaluator }, whole);
  }
}
