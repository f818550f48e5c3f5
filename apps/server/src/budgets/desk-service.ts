import {
  BudgetDesk,
  minor,
  type BudgetBooks,
  type DeskEdit,
  type DeskRefusal,
  type DeskResult,
  type DimensionFilter,
  type LineChange,
  type PlacedLine,
} from '@wise-margin/core';
import {
  deskIssueWords,
  packFacts,
  packLine,
  type BudgetChangeDto,
  type BudgetEditRequest,
  type DeskAnswerDto,
  type DeskDto,
} from '@wise-margin/contract';
import type { Transaction } from 'sequelize';
import type { Books, BooksKeeper } from '../companies/books.ts';
import { refuseUnknownFilter } from '../companies/service.ts';
import { recordAudit, type Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { ProblemError } from '../http/problem.ts';
import { budgetBooks, headOf } from './budget-books.ts';
import { ChangeLog, type LoggedChange } from './change-log.ts';
import { changeDto } from './change-dto.ts';
import { changeWords } from './change-words.ts';
import { conflictWords } from './conflict-words.ts';
import { describeBudget } from './describe.ts';
import type { Evaluator } from '../statements/index.ts';
import type { BudgetStore, StoredBudget } from './store.ts';

const MOST_CHANGES = 200;
const LOCKED: Readonly<Record<string, string>> = {
  approved: 'is approved and locked. Copy it to a new version to change it',
  superseded: 'was superseded and is kept as it was. Copy it to a new version to change it',
};

/** Budgets as they are worked on: all a desk draws on, edits, undo and redo, what others changed. */
export class DeskService {
  readonly #database: Database;
  readonly #keeper: BooksKeeper;
  readonly #store: BudgetStore;
  readonly #evaluator: Evaluator;
  readonly #log: ChangeLog;

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
    this.#log = new ChangeLog(options.database);
  }

  /** A budget with all it draws on. @throws ProblemError 404 */
  async desk(companyId: number, budgetId: number, session: string): Promise<DeskDto> {
    const books = await this.#keeper.of(companyId);
    const budget = await this.#store.of(books, budgetId);
    const { row } = budget;
    const drawn = await budgetBooks(books, this.#store);
    const pack = (cube: { readonly facts: Parameters<typeof packFacts>[1] }, dimensions: readonly string[]) =>
      packFacts(books.chart, cube.facts, dimensions);
    const { pattern, firstYear, lastYear, hasAdjustmentPeriod } = books.calendar;
    if (pattern.kind !== 'months') throw new RangeError('calendars of weeks are not opened yet');
    return {
      budget: await describeBudget({ books, budget, evaluator: this.#evaluator }),
      version: row.version,
      lines: budget.lines.map(packLine),
      notes: [...budget.notes],
      steps: await this.#steps(budgetId, session),
      books: {
        accounts: books.chart.accounts.map((account) => ({ ...account })),
        calendar: { startMonth: pattern.startMonth, firstYear, lastYear, hasAdjustmentPeriod },
        exponent: drawn.exponent,
        firstPosted: books.firstPosted,
        lastPosted: books.lastPosted,
        actual: pack(books.cube, row.dimensions),
        approved: [...drawn.approved].map(([year, { cube, dimensions }]) => ({
          year,
          dimensions: [...dimensions],
          facts: pack(cube, dimensions),
        })),
        oneOffs: { entries: pack(books.oneOffs.entries, row.dimensions), months: [...books.oneOffs.months] },
        statistics: books.calendar.periods
          .filter(({ year }) => year === row.year)
          .flatMap(({ index, number }) =>
            books.statistics.figures(index).map((figure) => ({ ...figure, dimensions: { ...figure.dimensions }, period: number })),
          ),
      },
    };
  }

  /**
   * Applies edits in their order. Those that cannot be done are refused and the rest stands.
   * @throws ProblemError 422 when every edit is refused; 409 when the budget is locked, or another session
   * changed one of the cells since the version that was looked at. Nothing is changed then.
   */
  async edit(companyId: number, budgetId: number, request: BudgetEditRequest, actor: Actor): Promise<DeskAnswerDto> {
    const { edits, filter, base, session, key } = request;
    const books = await this.#keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    let refusals: readonly DeskRefusal[] = [];
    await this.#change(books, budgetId, async ({ desk, budget, transaction }) => {
      // the answer of a request that was saved may have been lost on its way: asked again, it counts once
      if (key !== undefined && (await this.#log.has(budgetId, key, transaction))) return null;
      const result = desk.apply(edits, filter);
      ({ refusals } = result);
      if (refusals.length > 0 && result.changes.length === 0 && result.notes.length === 0) throw refusedEdits(books, refusals);
      if (base !== undefined && base < budget.row.version)
        await this.#refuseOthers(books, budget, { base, session, cells: result.cells, transaction });
      return {
        result,
        entry: { kind: 'edit' as const, of: null, words: changeWords(books, budget.row.year, edits), session, actor, key: key ?? null },
      };
    });
    return this.#answer(books, budgetId, { since: base, session, refusals });
  }

  /** Makes edits in several slices as one change. @throws ProblemError 422 when one of them is refused; nothing is changed then */
  async editAll(
    companyId: number,
    budgetId: number,
    made: {
      readonly batches: readonly { readonly filter: DimensionFilter; readonly edits: readonly DeskEdit[] }[];
      readonly words: string;
      readonly session: string;
    },
    actor: Actor,
  ): Promise<void> {
    const { batches, words, session } = made;
    const books = await this.#keeper.of(companyId);
    await this.#change(books, budgetId, ({ desk }) => {
      const results = batches.map(({ filter, edits }) => desk.apply(edits, filter));
      const refusals = results.flatMap((each) => each.refusals);
      if (refusals.length > 0) throw refusedEdits(books, refusals);
      // a line that several slices touch, such as one that follows others, goes from what it was first to what it is last
      const changes = new Map<number, LineChange>();
      for (const { before, after } of results.flatMap((each) => each.changes))
        changes.set(after.id, { before: changes.has(after.id) ? changes.get(after.id)!.before : before, after });
      const result: DeskResult = {
        changes: [...changes.values()],
        notes: results.flatMap(({ notes }) => notes),
        refusals: [],
        cells: results.flatMap(({ cells }) => cells),
      };
      if (result.changes.length === 0 && result.notes.length === 0) return Promise.resolve(null);
      return Promise.resolve({ result, entry: { kind: 'edit' as const, of: null, words, session, actor } });
    });
  }

  /** Takes the session's newest change back. @throws ProblemError 409 when there is none */
  async undo(companyId: number, budgetId: number, session: string, actor: Actor): Promise<DeskAnswerDto> {
    const books = await this.#keeper.of(companyId);
    const since = (await this.#store.of(books, budgetId)).row.version;
    await this.#change(books, budgetId, async ({ desk, transaction }) => {
      const change = await this.#log.undoable(budgetId, session, transaction);
      if (!change) throw new ProblemError(409, 'Nothing to undo', 'There is no change of yours left to take back.');
      await this.#log.setTakenBack(change.id, true, transaction);
      return {
        result: desk.revert(change.lines, change.notes),
        entry: { kind: 'undo', of: change.id, words: `Taken back: ${change.words}`, session, actor },
      };
    });
    return this.#answer(books, budgetId, { since, session, refusals: [] });
  }

  /** Makes the change that was taken back last again. @throws ProblemError 409 when there is none */
  async redo(companyId: number, budgetId: number, session: string, actor: Actor): Promise<DeskAnswerDto> {
    const books = await this.#keeper.of(companyId);
    const since = (await this.#store.of(books, budgetId)).row.version;
    await this.#change(books, budgetId, async ({ desk, transaction }) => {
      const change = await this.#log.redoable(budgetId, session, transaction);
      if (!change) throw new ProblemError(409, 'Nothing to redo', 'There is no change of yours to make again.');
      await this.#log.setTakenBack(change.id, false, transaction);
      const again = change.lines.map(({ before, after }) => ({ before: after, after: before ?? emptied(after) }));
      return {
        result: desk.revert(
          again,
          change.notes.map(({ before, after }) => ({ before: after, after: before })),
        ),
        entry: { kind: 'redo', of: change.id, words: `Made again: ${change.words}`, session, actor },
      };
    });
    return this.#answer(books, budgetId, { since, session, refusals: [] });
  }

  /** Derives lines from their bases anew, so that corrected history and changed drivers flow through; held months stay. */
  async rederive(
    companyId: number,
    budgetId: number,
    { session, accounts }: { readonly session: string; readonly accounts?: readonly string[] | undefined },
    actor: Actor,
  ): Promise<DeskAnswerDto> {
    const books = await this.#keeper.of(companyId);
    const since = (await this.#store.of(books, budgetId)).row.version;
    await this.#change(books, budgetId, ({ desk }) => {
      const changes = desk.rederive(accounts && new Set(accounts));
      if (changes.length === 0) return Promise.resolve(null);
      return Promise.resolve({
        result: { changes, notes: [], refusals: [], cells: [] },
        entry: {
          kind: 'derive' as const,
          of: null,
          words: accounts ? `Derived anew: ${accounts.join(', ')}` : 'Every line derived anew',
          session,
          actor,
        },
      });
    });
    return this.#answer(books, budgetId, { since, session, refusals: [] });
  }

  /** What was saved since a version. */
  async changesSince(
    companyId: number,
    budgetId: number,
    query: { readonly since: number; readonly session: string },
  ): Promise<DeskAnswerDto> {
    const books = await this.#keeper.of(companyId);
    return this.#answer(books, budgetId, { ...query, refusals: [] });
  }

  /** The newest changes first: who, when, from, to. */
  async history(companyId: number, budgetId: number): Promise<BudgetChangeDto[]> {
    const books = await this.#keeper.of(companyId);
    const { row } = await this.#store.of(books, budgetId);
    return (await this.#log.latest(budgetId, MOST_CHANGES)).map((change) => changeDto(books, row.year, change));
  }

  /** A desk over a stored budget, on which a basis can be tried without saving it. */
  async open(
    companyId: number,
    budgetId: number,
  ): Promise<{ readonly books: Books; readonly drawn: BudgetBooks; readonly budget: StoredBudget; readonly desk: BudgetDesk }> {
    const books = await this.#keeper.of(companyId);
    const budget = await this.#store.of(books, budgetId);
    const drawn = await budgetBooks(books, this.#store);
    return { books, drawn, budget, desk: new BudgetDesk({ books: drawn, head: headOf(budget.row), ...budget }) };
  }

  /** Opens a desk, lets it change, and writes what changed with its record, all in one transaction. */
  async #change(
    books: Books,
    budgetId: number,
    act: (at: { readonly desk: BudgetDesk; readonly budget: StoredBudget; readonly transaction: Transaction }) => Promise<{
      readonly result: DeskResult;
      readonly entry: Pick<LoggedChange, 'kind' | 'of' | 'words' | 'session'> & { readonly actor: Actor; readonly key?: string | null };
    } | null>,
  ): Promise<void> {
    const drawn = await budgetBooks(books, this.#store);
    const written = await this.#database.write(async (transaction) => {
      const budget = await this.#store.of(books, budgetId);
      const why = LOCKED[budget.row.state];
      if (why) throw new ProblemError(409, 'Locked', `${budget.row.name} ${why}.`);
      const desk = new BudgetDesk({ books: drawn, head: headOf(budget.row), ...budget });
      const acted = await act({ desk, budget, transaction });
      if (acted === null) return null;
      const { result, entry } = acted;
      const lines = await this.#store.write(
        books,
        budget,
        { changes: result.changes, notes: result.notes, actor: entry.actor },
        transaction,
      );
      const version = budget.row.version + 1;
      await this.#log.add(
        { key: null, ...entry, budgetId, version, lines, notes: result.notes, cells: storedCells(result, lines) },
        transaction,
      );
      await recordAudit(
        this.#database,
        {
          companyId: books.id,
          actor: entry.actor,
          action: `budget.${entry.kind}`,
          subject: `budget ${budgetId}`,
          details: { version, words: entry.words },
        },
        transaction,
      );
      return { budget, lines, notes: [...desk.notes] };
    });
    if (written) this.#store.accept(books, written);
  }

  /** @throws ProblemError 409 naming the cells another session changed since the version that was looked at */
  async #refuseOthers(
    books: Books,
    { row, lines }: StoredBudget,
    at: { readonly base: number; readonly session: string; readonly cells: readonly string[]; readonly transaction: Transaction },
  ): Promise<void> {
    const others = (await this.#log.since(row.id, at.base, at.transaction)).filter(({ session }) => session !== at.session);
    const told = conflictWords(books, { year: row.year, lines, cells: at.cells, others });
    if (told.size === 0) return;
    throw new ProblemError(
      409,
      'Changed by another',
      `${told.size === 1 ? 'This figure was' : `${told.size} of these figures were`} changed in another place since you opened the budget.`,
      [...told].map(([path, message]) => ({ path, message })),
    );
  }

  async #answer(
    books: Books,
    budgetId: number,
    how: { readonly since: number | undefined; readonly session: string; readonly refusals: readonly DeskRefusal[] },
  ): Promise<DeskAnswerDto> {
    const budget = await this.#store.of(books, budgetId);
    const since = await this.#log.since(budgetId, how.since ?? budget.row.version - 1);
    const ids = new Set(since.flatMap(({ lines }) => lines.map(({ after }) => after.id)));
    const others = since.filter(({ session }) => session !== how.session);
    return {
      version: budget.row.version,
      lines: budget.lines.filter(({ id }) => ids.has(id)).map(packLine),
      notes: since.some(({ notes }) => notes.length > 0) ? [...budget.notes] : null,
      refusals: how.refusals.map(({ edit, account, text, issue }) => ({ edit, account, text, message: deskIssueWords(issue) })),
      steps: await this.#steps(budgetId, how.session),
      others: others.map(({ actor, words }) => `${actor}: ${words}`),
      state: budget.row.state as DeskAnswerDto['state'],
    };
  }

  async #steps(budgetId: number, session: string): Promise<DeskDto['steps']> {
    const [undo, redo] = await Promise.all([this.#log.undoable(budgetId, session), this.#log.redoable(budgetId, session)]);
    return { undo: undo?.words ?? null, redo: redo?.words ?? null };
  }
}

const emptied = (line: PlacedLine): PlacedLine => ({
  ...line,
  basis: { kind: 'typed' },
  months: line.months.map(() => ({ amount: minor(0), held: false })),
});

/** Cells by the ids their lines were stored under. */
function storedCells(result: DeskResult, stored: readonly { readonly after: PlacedLine }[]): string[] {
  const ids = new Map(result.changes.map(({ after }, index) => [after.id, stored[index]!.after.id]));
  return result.cells.map((cell) => {
    const [id, month] = cell.split(':');
    return `${ids.get(Number(id)) ?? id}:${month}`;
  });
}

/** Every edit was refused: the first is told as the fault, all of them with their place. */
function refusedEdits(books: Books, refusals: readonly DeskRefusal[]): ProblemError {
  const told = refusals.map(({ edit, account, text, issue }) => {
    const known = books.chart.accounts.find(({ number }) => number === account);
    const words = `${account}${known ? ` ${known.name}` : ''}: ${text === '' ? '' : `"${text}" `}${deskIssueWords(issue)}.`;
    return { path: `edits.${edit}.text`, message: words };
  });
  return new ProblemError(422, 'Not accepted', told[0]!.message, told);
}
