import { BudgetDesk, type BudgetBooks, type DeskBatch, type DeskRefusal } from '@wise-margin/core';
import { type BudgetEditRequest, type DeskAnswerDto, type DeskDto } from '@wise-margin/contract';
import { deskIssueWords, packLine } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';
import { type Books, refuseUnknownFilter } from '../../companies/index.ts';

import type { Actor } from '../../database/audit.ts';
import { ProblemError } from '../../http/problem.ts';
import { ChangeLog, type StoredBudget, budgetBooks, headOf } from '../../budget-store/index.ts';

import { BudgetWriter } from '../budget-writer.ts';
import { changeWords } from './change-words.ts';
import { conflictWords } from './conflict-words.ts';
import { describeBudget } from '../describe.ts';
import { deskDto } from './worksheet-dto.ts';
import { refusedEdits } from './refused-edits.ts';
import { steppedRules } from './applicable-rule-changes.ts';
import type { BudgetParts } from '../budget-context.ts';

/** An undo, redo or deriving anew: whose, its key when it is to count once, and the version its answer begins from. */
type StepRequest = { readonly session: string; readonly key?: string | undefined; readonly base?: number | undefined };
const NOTHING_TO_STEP = {
  undo: 'You have no change left to undo.',
  redo: 'You have no change to redo.',
} as const;
/** Budgets as they are worked on: all a desk draws on, edits, undo and redo, what others changed. */
export class DeskService {
  readonly #parts: BudgetParts;
  readonly #log: ChangeLog;
  readonly #writer: BudgetWriter;

  constructor(parts: BudgetParts) {
    this.#parts = parts;
    this.#log = new ChangeLog(parts.database);
    this.#writer = new BudgetWriter(parts, this.#log);
  }

  /** A budget with all it draws on. @throws ProblemError 404 */
  async desk(companyId: number, budgetId: number, session: string): Promise<DeskDto> {
    const books = await this.#parts.keeper.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const drawn = await budgetBooks(books, this.#parts.store);
    return deskDto({
      books,
      drawn,
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
  async edit(companyId: number, budgetId: number, request: BudgetEditRequest, actor: Actor): Promise<DeskAnswerDto> {
    const { edits, filter, base, session, key } = request;
    const books = await this.#parts.keeper.of(companyId);
    refuseUnknownFilter(books, filter);
    let refusals: readonly DeskRefusal[] = [];
    await this.#writer.change(books, budgetId, async ({ desk, budget, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const result = desk.apply(edits, filter);
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
    companyId: number,
    budgetId: number,
    made: {
      readonly batches: readonly DeskBatch[];
      readonly words: string;
      readonly session: string;
    },
    actor: Actor,
  ): Promise<void> {
    const { batches, words, session } = made;
    const books = await this.#parts.keeper.of(companyId);
    await this.#writer.change(books, budgetId, ({ desk }) => {
      const result = desk.applyAll(batches);
      if (result.refusals.length > 0) throw refusedEdits(books, result.refusals);
      if (result.changes.length === 0 && result.notes.length === 0) return Promise.resolve(null);
      return Promise.resolve({ result, entry: { kind: 'edit' as const, of: null, words, session, actor } });
    });
  }

  /** Takes the session's newest change back. @throws ProblemError 409 when there is none */
  undo(companyId: number, budgetId: number, request: StepRequest, actor: Actor): Promise<DeskAnswerDto> {
    return this.#step('undo', request, { companyId, budgetId, actor });
  }

  /** Makes the change that was taken back last again. @throws ProblemError 409 when there is none */
  redo(companyId: number, budgetId: number, request: StepRequest, actor: Actor): Promise<DeskAnswerDto> {
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
  ): Promise<DeskAnswerDto> {
    const books = await this.#parts.keeper.of(companyId);
    const since = base ?? (await this.#parts.store.of(books, budgetId)).row.version;
    let kept = 0;
    await this.#writer.change(books, budgetId, async ({ desk, budget, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const isUndo = kind === 'undo';
      const change = await (isUndo
        ? this.#log.undoable(budgetId, session, transaction)
        : this.#log.redoable(budgetId, session, transaction));
      if (!change) throw new ProblemError(409, `Nothing to ${kind}`, NOTHING_TO_STEP[kind]);
      await this.#log.setTakenBack(change.id, isUndo, transaction);
      const result = isUndo ? desk.revert(change.lines, change.notes) : desk.remake(change.lines, change.notes);
      if (result.fault) throw new ProblemError(409, `Cannot ${kind}`, `Cannot ${kind} "${change.words}": ${deskIssueWords(result.fault)}.`);
      const stepped = steppedRules(budget.rules, change.rules, isUndo);
      kept = result.kept + stepped.kept;
      return {
        result,
        rules: stepped.rules,
        entry: { kind, of: change.id, words: `${isUndo ? 'Undone' : 'Redone'}: ${change.words}`, session, actor, key: key ?? null },
      };
    });
    return this.#answer(books, budgetId, { since, session, kept });
  }

  /** Derives lines from their bases anew, so that corrected history and changed drivers flow through; held months stay. */
  async rederive(
    companyId: number,
    budgetId: number,
    { session, key, base, accounts }: StepRequest & { readonly accounts?: readonly string[] | undefined },
    actor: Actor,
  ): Promise<DeskAnswerDto> {
    const books = await this.#parts.keeper.of(companyId);
    const since = base ?? (await this.#parts.store.of(books, budgetId)).row.version;
    await this.#writer.change(books, budgetId, async ({ desk, transaction }) => {
      if (await this.#isKnown(budgetId, key, transaction)) return null;
      const { changes, fault } = desk.rederive(accounts && new Set(accounts));
      if (fault) throw new ProblemError(409, 'Cannot recalculate', `Cannot recalculate the budget: ${deskIssueWords(fault)}.`);
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
    companyId: number,
    budgetId: number,
    query: { readonly since: number; readonly session: string },
  ): Promise<DeskAnswerDto> {
    const books = await this.#parts.keeper.of(companyId);
    return this.#answer(books, budgetId, query);
  }

  /** A desk over a stored budget, on which a basis can be tried without saving it. */
  async open(
    companyId: number,
    budgetId: number,
  ): Promise<{ readonly books: Books; readonly drawn: BudgetBooks; readonly budget: StoredBudget; readonly desk: BudgetDesk }> {
    const books = await this.#parts.keeper.of(companyId);
    const budget = await this.#parts.store.of(books, budgetId);
    const drawn = await budgetBooks(books, this.#parts.store);
    return { books, drawn, budget, desk: new BudgetDesk({ books: drawn, head: headOf(budget.row), ...budget }) };
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
      'Changed by someone else',
      `${told.size === 1 ? 'This amount was' : `${told.size} of these amounts were`} changed by someone else since you opened the budget.`,
      [...told].map(([path, message]) => ({ path, message })),
    );
  }

  async #answer(
    books: Books,
    budgetId: number,
    how: {
      readonly since: number | undefined;
      readonly session: string;
      readonly refusals?: readonly DeskRefusal[];
      readonly kept?: number;
    },
  ): Promise<DeskAnswerDto> {
    const budget = await this.#parts.store.of(books, budgetId);
    const since = await this.#log.since(budgetId, how.since ?? budget.row.version - 1);
    const ids = new Set(since.flatMap(({ lines }) => lines.map(({ after }) => after.id)));
    const others = since.filter(({ session }) => session !== how.session);
    return {
      version: budget.row.version,
      lines: budget.lines.filter(({ id }) => ids.has(id)).map(packLine),
      notes: since.some(({ notes }) => notes.length > 0) ? [...budget.notes] : null,
      refusals: (how.refusals ?? []).map(({ edit, account, text, issue }) => ({ edit, account, text, message: deskIssueWords(issue) })),
      steps: await this.#steps(budgetId, how.session),
      others: others.map(({ actor, words }) => `${actor}: ${words}`),
      state: budget.row.state as DeskAnswerDto['state'],
      kept: how.kept ?? 0,
    };
  }

  async #steps(budgetId: number, session: string): Promise<DeskDto['steps']> {
    const [undo, redo] = await Promise.all([this.#log.undoable(budgetId, session), this.#log.redoable(budgetId, session)]);
    return { undo: undo?.words ?? null, redo: redo?.words ?? null };
  }
}
