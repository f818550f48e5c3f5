import {
  BUDGET_GRID_COLUMNS,
  INCOME_LINES,
  basisWords,
  budgetFromHistory,
  followed,
  followOrder,
  formatAmount,
  minor,
  passes,
  periodAt,
  periodOfYear,
  rowAmount,
  signOf,
  type AccountClass,
  type BudgetLine,
  type BudgetMonth,
  type DimensionFilter,
  type StatementGrid,
} from '@wise-margin/core';
import {
  type basisPreviewRequestSchema,
  type BasisPreviewDto,
  type BudgetDto,
  type BudgetEditRequest,
  type BudgetGridDto,
  type NewBudget,
} from '@wise-margin/contract';
import type { z } from 'zod';
import type { Books, BooksKeeper } from '../companies/books.ts';
import { openFiscalYear, refuseUnknownFilter } from '../companies/service.ts';
import { recordAudit, type Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { BudgetRow } from '../database/models.ts';
import { ProblemError, refused } from '../http/problem.ts';
import { gridDto, type Evaluator } from '../statements/index.ts';
import { applyEdit } from './apply-edit.ts';
import { lacksOf, lineContext, monthName, withAccount } from './line-context.ts';
import { rowDto } from './row-dto.ts';
import type { BudgetStore, StoredBudget, StoredLine } from './store.ts';

/** Creates, shows and edits budgets. */
export class BudgetService {
  readonly #database: Database;
  readonly #keeper: BooksKeeper;
  readonly #store: BudgetStore;
  readonly #evaluator: Evaluator;

  constructor(options: {
    readonly database: Database;
    readonly keeper: BooksKeeper;
    readonly store: BudgetStore;
    readonly evaluator: Evaluator;
  }) {
    this.#database = options.database;
    this.#keeper = options.keeper;
    this.#store = options.store;
    this.#evaluator = options.evaluator;
  }

  async list(companyId: number): Promise<BudgetDto[]> {
    const books = await this.#keeper.of(companyId);
    return Promise.all((await this.#store.list(companyId)).map(async (row) => this.#describe(books, await this.#store.of(books, row.id))));
  }

  /**
   * Creates a budget from another year's actuals, by account and the company's first dimension
   * (department where there is one). Opens the fiscal year when it is the next one.
   * @throws ProblemError 422 for a name in use or a year without history
   */
  async create(companyId: number, request: NewBudget, actor: Actor): Promise<BudgetDto> {
    const { year, from, name, change, changeByClass, roundTo } = request;
    await this.#refuseYearWithoutHistory(companyId, from);
    await openFiscalYear(this.#database, this.#keeper, { companyId, year, actor });
    const books = await this.#keeper.of(companyId);
    if ((await this.#store.list(companyId)).some((row) => row.year === year && row.name.toLowerCase() === name.toLowerCase())) {
      throw refused(`FY${year} has a budget named ${name} already. Give this one another name.`, 'name');
    }
    const dimension = books.dimensions.find((each) => each.name === 'department') ?? books.dimensions[0];
    const slices = dimension
      ? dimension.values.map((value) => ({
          dimensions: value === '' ? {} : { [dimension.name]: value },
          slab: books.cube.slab({ [dimension.name]: [value] }),
        }))
      : [{ dimensions: {}, slab: books.cube.slab({}) }];
    const byClass = changeByClass as Partial<Record<AccountClass, string>>;
    const lines = budgetFromHistory({
      chart: books.chart,
      calendar: books.calendar,
      fromYear: from,
      changes: { all: change, byClass },
      roundTo: minor(roundTo),
      slices,
    });
    const id = await this.#database.write(async (transaction) => {
      const row = await this.#database.models.budgets.create(
        {
          companyId,
          year,
          name,
          fromYear: from,
          state: 'working',
          dimension: dimension?.name ?? null,
          createdAt: actor.now().toISOString(),
          actor: actor.name,
        },
        { transaction },
      );
      await this.#store.insertLines(books, row.id, lines, transaction);
      await recordAudit(
        this.#database,
        {
          companyId,
          actor,
          action: 'budget.create',
          subject: `budget ${row.id}`,
          details: { name, year, from, change, changeByClass, roundTo },
        },
        transaction,
      );
      return row.id;
    });
    return this.#describe(books, await this.#store.of(books, id));
  }

  /** The month grid with what each account's row is made of. */
  async grid(companyId: number, budgetId: number, filter: DimensionFilter): Promise<BudgetGridDto> {
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    const budget = await this.#store.of(books, budgetId);
    const { row } = budget;
    const grid = await this.#yearGrid(books, budget, filter);
    const view = { key: 'budget', name: row.name, note: '', openAll: false };
    const dto = gridDto(grid, { budget: row.name, view, issues: [] });
    const accounts = new Set(dto.lines.flatMap((line) => line.account ?? []));
    return {
      budget: await this.#describe(books, budget, Object.keys(filter).length === 0 ? grid : undefined),
      filter: Object.fromEntries(Object.entries(filter).map(([name, values]) => [name, [...values]])),
      dimension: row.dimension,
      grid: dto,
      rows: books.chart.accounts.flatMap((account, position) =>
        accounts.has(account.number) ? [rowDto(books, budget, position, filter)] : [],
      ),
      version: row.version,
    };
  }

  /**
   * Applies typed edits in their order, all or none, and returns the grid after them.
   * @throws ProblemError 422 naming the account, the text and the fix; nothing is changed then
   */
  async edit(companyId: number, budgetId: number, request: BudgetEditRequest, actor: Actor): Promise<BudgetGridDto> {
    const { edits, filter } = request;
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    const written = await this.#database.write(async (transaction) => {
      const budget = await this.#store.of(books, budgetId);
      if (budget.row.state === 'approved')
        throw new ProblemError(409, 'Approved', `${budget.row.name} is approved and locked. Take the approval back to change it.`);
      const lines = new Map(budget.lines.map((line) => [line.id, line]));
      const added = new Map<string, StoredLine>();
      const touched = new Set<number>();
      for (const edit of edits) {
        const rowLines = this.#linesOfRow(books, budget, { lines, added, account: edit.account, filter });
        const all = [...lines.values(), ...added.values()];
        const results = applyEdit(books, budget.row, { lines: rowLines, all, edit });
        results.forEach((result, index) => {
          const line = { ...rowLines[index]!, ...result };
          if (line.id < 0) added.set(lineKey(line), line);
          else lines.set(line.id, line);
          touched.add(line.id);
        });
      }
      this.#follow(books, budget.row, { lines, added, touched });
      const changes = [...lines.values()].filter((line) => touched.has(line.id));
      await this.#store.updateLines(changes, transaction);
      if (added.size > 0) await this.#store.insertLines(books, budgetId, [...added.values()], transaction);
      await this.#database.models.budgets.increment('version', { where: { id: budgetId }, transaction });
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'budget.edit', subject: `budget ${budgetId}`, details: { edits, filter } },
        transaction,
      );
      return added.size === 0 ? { budget, changes } : null;
    });
    if (written) this.#store.accept(books, written.budget, written.changes);
    return this.grid(companyId, budgetId, filter);
  }

  /** Approves a budget, or takes its approval back. A year has one approved budget: the one before goes back to working. */
  async setState(companyId: number, budgetId: number, state: 'working' | 'approved', actor: Actor): Promise<BudgetDto> {
    const books = await this.#keeper.of(companyId);
    const { row } = await this.#store.of(books, budgetId);
    await this.#database.write(async (transaction) => {
      const { budgets } = this.#database.models;
      if (state === 'approved')
        await budgets.update({ state: 'working' }, { where: { companyId, year: row.year, state: 'approved' }, transaction });
      await budgets.update({ state }, { where: { id: budgetId }, transaction });
      await recordAudit(
        this.#database,
        { companyId, actor, action: `budget.${state}`, subject: `budget ${budgetId}`, details: {} },
        transaction,
      );
    });
    return this.#describe(books, await this.#store.of(books, budgetId));
  }

  async #refuseYearWithoutHistory(companyId: number, year: number): Promise<void> {
    const books = await this.#keeper.of(companyId);
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
        `The ledger has no actuals in FY${year}. ${held.length > 0 ? `There are actuals in ${held.map((each) => `FY${each}`).join(', ')}.` : 'Bring in a ledger first.'}`,
        'from',
      );
    }
  }

  /** Brings lines that are a percentage of others up to date. @throws ProblemError 422 when they lead back to themselves */
  #follow(
    books: Books,
    row: BudgetRow,
    { lines, added, touched }: { lines: Map<number, StoredLine>; added: Map<string, StoredLine>; touched: Set<number> },
  ): void {
    const all = [...lines.values(), ...added.values()].map((line) => withAccount(books, line));
    const result = followOrder(all);
    if (!result.ok)
      throw refused(
        `These lines are a percentage of one another in a circle: ${result.circle.join(', then ')}. Give one of them another basis.`,
        'basis',
      );
    for (const line of followed(all, result.order, (each, now) => lineContext(books, row, { line: each, lines: now }))) {
      const { of: _of, ...stored } = line;
      if (stored.id < 0) added.set(lineKey(stored), stored);
      else lines.set(stored.id, stored);
      touched.add(stored.id);
    }
  }

  /** What a basis would give a row, before it is set. @throws ProblemError 422 as when it is set */
  async previewBasis(companyId: number, budgetId: number, request: z.output<typeof basisPreviewRequestSchema>): Promise<BasisPreviewDto> {
    const { account, filter, basis } = request;
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    const budget = await this.#store.of(books, budgetId);
    const lines = new Map(budget.lines.map((line) => [line.id, line]));
    const rowLines = this.#linesOfRow(books, budget, { lines, added: new Map(), account, filter });
    const results = applyEdit(books, budget.row, { lines: rowLines, all: budget.lines, edit: { kind: 'basis', account, basis } });
    const made = rowLines.map((line, index) => ({ ...line, ...results[index]! }));
    const sign = signOf(books.chart.accounts[made[0]!.position]!);
    const month = monthName(books, budget.row.year);
    const lacks = made.flatMap((line) => lacksOf(books, budget.row, { line, lines: budget.lines, isOneOfSeveral: made.length > 1 }));
    const { exponent } = books.currency;
    return {
      sentence: basisWords(basis, (amount) => formatAmount(amount, { exponent, unit: 'dollars' }), month),
      months: Array.from({ length: 12 }, (_, index) => minor(sign * rowAmount(made, index))),
      total: minor(sign * rowAmount(made, 'year')),
      lacks: [...new Set(lacks)],
    };
  }

  #linesOfRow(
    books: Books,
    budget: StoredBudget,
    place: { lines: ReadonlyMap<number, StoredLine>; added: ReadonlyMap<string, StoredLine>; account: string; filter: DimensionFilter },
  ): StoredLine[] {
    const { lines, added, account, filter } = place;
    const position = books.chart.accounts.findIndex(({ number }) => number === account);
    if (position < 0) throw refused(`There is no account ${account}.`, 'account');
    const found = [...lines.values(), ...added.values()].filter((line) => line.position === position && passes(filter, line.dimensions));
    if (found.length > 0) return found;
    const dimensions = Object.fromEntries(Object.entries(filter).flatMap(([name, values]) => (values[0] ? [[name, values[0]]] : [])));
    const months: BudgetMonth[] = Array.from({ length: 12 }, () => ({ amount: minor(0), held: false }));
    return [{ id: -1 - added.size, position, account, dimensions, basis: { kind: 'typed' }, months }];
  }

  async #yearGrid(books: Books, { row }: StoredBudget, filter: DimensionFilter): Promise<StatementGrid> {
    const asOf = periodOfYear(books.calendar, row.year, 1)!;
    const options = { lineSet: INCOME_LINES, columnSet: BUDGET_GRID_COLUMNS, asOf, budgetId: row.id, filter };
    return (await this.#evaluator.evaluate(books, options)).grid;
  }

  /** @param whole the budget's grid without a filter, when it was evaluated already */
  async #describe(books: Books, budget: StoredBudget, whole?: StatementGrid): Promise<BudgetDto> {
    const { row } = budget;
    const grid = whole ?? (await this.#yearGrid(books, budget, {}));
    const column = grid.plan.columns.findIndex(({ key }) => key === 'year.budget');
    const figure = (key: string) => {
      const cell = grid.cells[grid.plan.lines.findIndex((line) => line.key === key)]![column]!;
      return cell.kind === 'amount' ? cell.value : 0;
    };
    return {
      id: row.id,
      name: row.name,
      year: row.year,
      fromYear: row.fromYear,
      state: row.state as BudgetDto['state'],
      createdAt: row.createdAt,
      actor: row.actor,
      lineCount: budget.lines.length,
      revenue: figure('revenue'),
      operatingResult: figure('operating_result'),
    };
  }
}

const lineKey = (line: BudgetLine) => `${line.account} ${JSON.stringify(line.dimensions)}`;
