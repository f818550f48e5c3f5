import {
  BUDGET_GRID_COLUMNS,
  INCOME_LINES,
  basisWords,
  budgetFromHistory,
  editBudget,
  formatAmount,
  minor,
  parseBudgetEntry,
  passes,
  periodAt,
  periodOfYear,
  rowAmount,
  signOf,
  yearByMonth,
  yearTotal,
  type AccountClass,
  type Basis,
  type BudgetEdit,
  type BudgetEntryIssue,
  type BudgetLine,
  type BudgetMonth,
  type DimensionFilter,
  type EditedLine,
  type Minor,
  type StatementGrid,
} from '@wise-margin/core';
import type { BudgetDto, BudgetEditDto, BudgetEditRequest, BudgetGridDto, BudgetRowDto, NewBudget } from '@wise-margin/contract';
import type { Books, BooksKeeper } from '../companies/books.ts';
import { openFiscalYear, refuseUnknownFilter } from '../companies/service.ts';
import { recordAudit, type Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { ProblemError, refused } from '../http/problem.ts';
import { gridDto, type Evaluator } from '../statements/index.ts';
import type { BudgetStore, StoredBudget, StoredLine } from './store.ts';

const ENTRY_WORDS: Readonly<Record<BudgetEntryIssue['code'], string>> = {
  notAnAmount: 'is no amount. Type 1250, 12k, 1.2m, +5%, *1.1 or /12',
  tooManyDecimals: 'has more decimals than the currency',
  divisionByZero: 'divides by zero',
  tooLarge: 'is past the largest amount, 90,000,000,000,000',
};

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
        const results = applyEdit(books, budget, rowLines, edit);
        results.forEach((result, index) => {
          const line = { ...rowLines[index]!, ...result };
          if (line.id < 0) added.set(lineKey(line), line);
          else lines.set(line.id, line);
          touched.add(line.id);
        });
      }
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

/** Days and last year's shape of a line, for its spreads. */
function contextOf(books: Books, budget: StoredBudget, line: StoredLine): EditedLine['context'] {
  const { dimension, year } = budget.row;
  const slab = books.cube.slab(dimension === null ? {} : { [dimension]: [line.dimensions[dimension] ?? ''] });
  const from = line.basis.kind === 'sameMonths' ? line.basis.year : (budget.row.fromYear ?? year - 1);
  const days = Array.from({ length: 12 }, (_, month) => {
    const { start, end } = periodAt(books.calendar, periodOfYear(books.calendar, year, month + 1)!);
    return (Date.parse(end) - Date.parse(start)) / 86_400_000 + 1;
  });
  return { history: yearByMonth(slab, books.calendar, line.position, from), days };
}

function applyEdit(
  books: Books,
  budget: StoredBudget,
  lines: readonly StoredLine[],
  edit: BudgetEditDto,
): readonly { basis: Basis; months: readonly BudgetMonth[] }[] {
  const account = books.chart.accounts[lines[0]!.position]!;
  const sign = signOf(account);
  const told = `${account.number} ${account.name}`;
  const read = (text: string, current: number): Minor => {
    const entry = parseBudgetEntry(text, minor(sign * current), books.currency.exponent);
    if (!entry.ok) throw refused(`${told}: "${text}" ${ENTRY_WORDS[entry.issue.code]}.`, 'text');
    return minor(sign * entry.value);
  };
  const change: BudgetEdit =
    edit.kind === 'month'
      ? { kind: 'month', month: edit.month, amount: read(edit.text, rowAmount(lines, edit.month)) }
      : edit.kind === 'year'
        ? { kind: 'year', amount: read(edit.text, rowAmount(lines, 'year')), spread: edit.spread }
        : { kind: 'release', months: edit.months };
  const result = editBudget(
    lines.map((line) => ({ line, context: contextOf(books, budget, line) })),
    change,
  );
  if (!result.ok) throw refused(`${told}: all twelve months are held by hand. Release one, or type the months themselves.`, 'text');
  return result.lines;
}

/** A row of the grid: the lines under it in the account's shown sign, and three years of history. */
function rowDto(books: Books, budget: StoredBudget, position: number, filter: DimensionFilter): BudgetRowDto {
  const account = books.chart.accounts[position]!;
  const sign = signOf(account);
  const shown = (amount: number) => minor(sign * amount);
  const lines = budget.lines.filter((line) => line.position === position && passes(filter, line.dimensions));
  const slab = books.cube.slab(filter);
  const { exponent } = books.currency;
  return {
    account: account.number,
    held: Array.from({ length: 12 }, (_, month) => lines.some((line) => line.months[month]!.held)),
    lines: lines.map((line) => ({
      id: line.id,
      dimensions: { ...line.dimensions },
      basis: basisWords(line.basis, (amount) =>
        formatAmount(shown(line.basis.kind === 'typedTotal' ? amount : sign * amount), { exponent, unit: 'dollars' }),
      ),
      total: shown(yearTotal(line.months)),
      months: line.months.map(({ amount }) => shown(amount)),
      held: line.months.map(({ held }) => held),
    })),
    history: [budget.row.year - 3, budget.row.year - 2, budget.row.year - 1].flatMap((year) => {
      const first = periodOfYear(books.calendar, year, 1);
      if (first === null || books.firstPosted === null || books.lastPosted === null) return [];
      const months = yearByMonth(slab, books.calendar, position, year).map((amount, month) =>
        first + month < books.firstPosted! || first + month > books.lastPosted! ? null : shown(amount),
      );
      return months.every((amount) => amount === null) ? [] : [{ year, months }];
    }),
    sign,
  };
}
