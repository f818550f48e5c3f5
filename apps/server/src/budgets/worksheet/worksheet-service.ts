import { type BudgetEditRequest, type WorksheetAnswerDto, type WorksheetDto } from '@wise-margin/contract';
import { type BudgetBooks, BudgetWorksheet, type WorksheetBatch, type WorksheetRefusal } from '@wise-margin/core';
import { packLine, worksheetIssueWords } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';

import { budgetBooksOf, ChangeLog, headOf, type StoredBudget } from '../../budget-store/index.ts';
import { type Books, refuseUnknownFilter } from '../../companies/index.ts';
import type { Actor } from '../../database/audit.ts';
import { ProblemError } from '../../http/problem.ts';
import type { BudgetPlace } from '../budget-context.ts';
import type { BudgetContext } from '../budget-context.ts';
import { BudgetWriter } from '../budget-writer.ts';
import { describeBudget } from '../describe.ts';
import { applicableRuleChanges } from './applicable-rule-changes.ts';
import { changeWords } from './change-words.ts';
import { conflictWords } from './conflict-words.ts';
import { refusedEdits } from './refused-edits.ts';
import { replacedAmounts } from './replaced-amounts.ts';
import { worksheetDto } from './worksheet-dto.ts';

/** An undo, redo or deriving again: whose, its key when it is to count once, and the version its answer begins from. */
type StepRequest = { readonly session: string; readonly key?: string | undefined; readonly base?: number | undefined };
/** Own changes that are looked through for amounts that others replaced. */
const MOST_REMEMBERED = 300;
const NOTHING_TO_STEP = {
  undo: 'You have no change left to undo.',
  redo: 'You have no change to redo.',
} as const;
/** Budgets as they are worked on: all a worksheet draws on, edits, undo and redo, what others changed. */
export class WorksheetService {
  readonly #parts: BudgetContext;
  readonly #log: ChangeLog;
  readonly #writer: BudgetWriter;

  constructor(parts: BudgetContext) {
    this.#parts = parts;
    this.#log = new ChangeLog(parts.database);
    this.#writer = new BudgetWriter(parts, this.#log);
  }

  /** A budget with all it draws on. @throws ProblemError 404 */
  async worksheet({ company: companyId, budget: budgetId }: BudgetPlace, session: string): Promise<WorksheetDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    return worksheetDto({
      books,
      budgetBooks,
      budget,
      described: await describeBudget({ books, budget, evaluator: this.#parts.evaluator }),
      steps: await this.#steps(budgetId, session),
    });
  }

  /**
   * Applies edits in their order. Those that cannot be done are refused and the rest stands.
   * @throws ProblemError 422 when every edit is refused; 409 when the budget is locked, or another session
   * changed one of the cells since the version that was looked at. Nothing is changed then.
   */
  async edit({ company: companyId, budget: budgetId }: BudgetPlace, request: BudgetEditRequest, actor: Actor): Promise<WorksheetAnswerDto> {
    const { edits, filter, base, session, key } = request;
    const books = await this.#parts.booksCache.of(companyId);
    refuseUnknownFilter(books, filter);
    let refusals: readonly WorksheetRefusal[] = [];
    await this.#writer.change(books, budgetId, async ({ worksheet, budget, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const result = worksheet.apply(edits, filter);
      ({ refusals } = result);
      if (result.changes.length === 0 && result.notes.length === 0) {
        if (refusals.length > 0) throw refusedEdits(books, refusals);
        return null;
      }
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
    { company: companyId, budget: budgetId }: BudgetPlace,
    made: {
      readonly batches: readonly WorksheetBatch[];
      readonly words: string;
      readonly session: string;
    },
    actor: Actor,
  ): Promise<void> {
    const { batches, words, session } = made;
    const books = await this.#parts.booksCache.of(companyId);
    await this.#writer.change(books, budgetId, ({ worksheet }) => {
      const result = worksheet.applyAll(batches);
      if (result.refusals.length > 0) throw refusedEdits(books, result.refusals);
      if (result.changes.length === 0 && result.notes.length === 0) return Promise.resolve(null);
      return Promise.resolve({ result, entry: { kind: 'edit' as const, of: null, words, session, actor } });
    });
  }

  /** Takes the session's newest change back. @throws ProblemError 409 when there is none */
  undo({ company: companyId, budget: budgetId }: BudgetPlace, request: StepRequest, actor: Actor): Promise<WorksheetAnswerDto> {
    return this.#step('undo', request, { companyId, budgetId, actor });
  }

  /** Applies the change that was undone last again. @throws ProblemError 409 when there is none */
  redo({ company: companyId, budget: budgetId }: BudgetPlace, request: StepRequest, actor: Actor): Promise<WorksheetAnswerDto> {
    return this.#step('redo', request, { companyId, budgetId, actor });
  }

  /** Whether a request was saved already: its answer may have been lost on its way, and asked again it counts once. */
  async #isKnown(budgetId: number, key: string | undefined, transaction: Transaction): Promise<boolean> {
    return key !== undefined && this.#log.has(budgetId, key, transaction);
  }

  async #step(
    kind: 'undo' | 'redo',
    { session, key, base }: StepRequest,
    { companyId, budgetId, actor }: { readonly companyId: number; readonly budgetId: number; readonly actor: Actor },
  ): Promise<WorksheetAnswerDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const since = base ?? (await this.#parts.store.of(books, budgetId)).row.version;
    let notUndone = 0;
    await this.#writer.change(books, budgetId, async ({ worksheet, budget, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const isUndo = kind === 'undo';
      const change = await (isUndo
        ? this.#log.undoable(budgetId, session, transaction)
        : this.#log.redoable(budgetId, session, transaction));
      if (!change) throw new ProblemError(409, `Nothing to ${kind}`, NOTHING_TO_STEP[kind]);
      await this.#log.setTakenBack(change.id, isUndo, transaction);
      const result = isUndo ? worksheet.undo(change.lines, change.notes) : worksheet.redo(change.lines, change.notes);
      if (result.fault)
        throw new ProblemError(409, `Cannot ${kind}`, `Cannot ${kind} "${change.words}": ${worksheetIssueWords(result.fault)}.`);
      const stepped = applicableRuleChanges(budget.rules, change.rules, isUndo);
      notUndone = result.notUndone + stepped.notUndone;
      return {
        result,
        rules: stepped.rules,
        entry: { kind, of: change.id, words: `${isUndo ? 'Undone' : 'Redone'}: ${change.words}`, session, actor, key: key ?? null },
      };
    });
    return this.#answer(books, budgetId, { since, session, notUndone });
  }

  /** Derives lines from their bases again, so that corrected history and changed drivers flow through; held months stay. */
  async rederive(
    { company: companyId, budget: budgetId }: BudgetPlace,
    { session, key, base, accounts }: StepRequest & { readonly accounts?: readonly string[] | undefined },
    actor: Actor,
  ): Promise<WorksheetAnswerDto> {
    const books = await this.#parts.booksCache.of(companyId);
    const since = base ?? (await this.#parts.store.of(books, budgetId)).row.version;
    await this.#writer.change(books, budgetId, async ({ worksheet, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const { changes, fault } = worksheet.rederive(accounts && new Set(accounts));
      if (fault) throw new ProblemError(409, 'Cannot recalculate', `Cannot recalculate the budget: ${worksheetIssueWords(fault)}.`);
      if (changes.length === 0) return null;
      const words = accounts ? `Recalculated: ${accounts.join(', ')}` : 'All lines recalculated';
      return {
        result: { changes, notes: [], refusals: [], cells: [] },
        entry: { kind: 'derive' as const, of: null, words, session, actor, key: key ?? null },
      };
    });
    return this.#answer(books, budgetId, { since, session });
  }

  /** What was saved since a version. */
  async changesSince(
    { company: companyId, budget: budgetId }: BudgetPlace,
    query: { readonly since: number; readonly session: string },
  ): Promise<WorksheetAnswerDto> {
    const books = await this.#parts.booksCache.of(companyId);
    return this.#answer(books, budgetId, query);
  }

  /** A worksheet over a stored budget, on which a basis can be tried without saving it. */
  async open({ company: companyId, budget: budgetId }: BudgetPlace): Promise<{
    readonly books: Books;
    readonly budgetBooks: BudgetBooks;
    readonly budget: StoredBudget;
    readonly worksheet: BudgetWorksheet;
  }> {
    const books = await this.#parts.booksCache.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    return { books, budgetBooks, budget, worksheet: new BudgetWorksheet({ books: budgetBooks, head: headOf(budget.row), ...budget }) };
  }

  /** @throws ProblemError 409 naming the cells another session changed since the version that was looked at */
  async #refuseOthers(
    books: Books,
    { row, lines }: StoredBudget,
    at: { readonly base: number; readonly session: string; readonly cells: readonly string[]; readonly transaction: Transaction },
  ): Promise<void> {
    const others = (await this.#log.since(row.id, at.base, at.transaction)).filter(({ session }) => session !== at.session);
    const conflicts = conflictWords(books, { year: row.year, lines, cells: at.cells, others });
    if (conflicts.size === 0) return;
    throw new ProblemError(
      409,
      'Changed by someone else',
      `${conflicts.size === 1 ? 'This amount was' : `${conflicts.size} of these amounts were`} changed by someone else since you opened the budget.`,
    ).at(...[...conflicts].map(([path, message]) => ({ path, message })));
  }

  async #answer(
    books: Books,
    budgetId: number,
    how: {
      readonly since: number | undefined;
      readonly session: string;
      readonly refusals?: readonly WorksheetRefusal[];
      readonly notUndone?: number;
    },
  ): Promise<WorksheetAnswerDto> {
    const budget = await this.#parts.store.of(books, budgetId);
    const since = await this.#log.since(budgetId, how.since ?? budget.row.version - 1);
    const ids = new Set(since.flatMap(({ lines }) => lines.map(({ after }) => after.id)));
    const others = since.filter(({ session }) => session !== how.session);
    const own = others.length === 0 ? [] : await this.#log.ofSession(budgetId, how.session, MOST_REMEMBERED);
    return {
      version: budget.row.version,
      lines: budget.lines.filter(({ id }) => ids.has(id)).map(packLine),
      notes: since.some(({ notes }) => notes.length > 0) ? [...budget.notes] : null,
      refusals: (how.refusals ?? []).map(({ edit, account, text, issue }) => ({
        edit,
        account,
        text,
        message: worksheetIssueWords(issue),
      })),
      steps: await this.#steps(budgetId, how.session),
      others: others.map(({ actor, words }) => `${actor}: ${words}`),
      replaced: replacedAmounts(books, { year: budget.row.year, own, others, dimensions: budget.row.dimensions }),
      state: budget.row.state as WorksheetAnswerDto['state'],
      notUndone: how.notUndone ?? 0,
    };
  }

  async #steps(budgetId: number, session: string): Promise<WorksheetDto['steps']> {
    const [undo, redo] = await Promise.all([this.#log.undoable(budgetId, session), this.#log.redoable(budgetId, session)]);
    return { undo: undo?.words ?? null, redo: redo?.words ?? null };
  }
}
