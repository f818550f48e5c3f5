import { type BudgetStateDto } from '@wise-margin/contract';
import { BudgetWorksheet, type Minor, type PlacedLine, toDecimalText, type WorksheetResult } from '@wise-margin/core';
import { budgetLockWords } from '@wise-margin/presentation';
import type { Transaction } from 'sequelize';

import { budgetBooksOf, type ChangeLog, headOf, type LoggedChange, type RuleChange, type StoredBudget } from '../budget-store/index.ts';
import type { Books } from '../companies/index.ts';
import { type Actor, recordAudit } from '../database/audit.ts';
import type { AuditChange } from '../database/audit-chain.ts';
import { ProblemError } from '../http/problem.ts';
import type { BudgetContext } from './budget-context.ts';
import { changedAmounts } from './worksheet/change-dto.ts';

/** What a change made of a budget, and how it is recorded. */
export type MadeChange = {
  readonly result: WorksheetResult;
  readonly rules?: readonly RuleChange[];
  readonly entry: Pick<LoggedChange, 'kind' | 'of' | 'words' | 'session'> & { readonly actor: Actor; readonly key?: string | null };
};

/** Changes budgets: each change is written with its record, or not at all. */
export class BudgetWriter {
  readonly #parts: BudgetContext;
  readonly #log: ChangeLog;

  constructor(parts: BudgetContext, log: ChangeLog) {
    this.#parts = parts;
    this.#log = log;
  }

  /**
   * Opens a worksheet, lets it change, and writes what changed with its record, all in one transaction.
   * @param act gives null when there is nothing to write
   * @throws ProblemError 409 when the budget is locked
   */
  async change(
    books: Books,
    budgetId: number,
    act: (at: {
      readonly worksheet: BudgetWorksheet;
      readonly budget: StoredBudget;
      readonly transaction: Transaction;
    }) => Promise<MadeChange | null>,
  ): Promise<void> {
    const budgetBooks = await budgetBooksOf(books, this.#parts.store);
    const written = await this.#parts.database.write(async (transaction) => {
      const budget = await this.#parts.store.of(books, budgetId);
      const why = budgetLockWords(budget.row.state as BudgetStateDto);
      if (why) throw new ProblemError(409, 'Locked', `${budget.row.name} ${why}`);
      const worksheet = new BudgetWorksheet({ books: budgetBooks, head: headOf(budget.row), ...budget });
      const acted = await act({ worksheet, budget, transaction });
      if (acted === null) return null;
      const { result, rules = [], entry } = acted;
      const { actor } = entry;
      const lines = await this.#parts.store.write(
        { books, budget },
        { changes: result.changes, notes: result.notes, rules, actor },
        transaction,
      );
      const version = budget.row.version + 1;
      await this.#log.add(
        { key: null, ...entry, budgetId, version, lines, notes: result.notes, rules, cells: storedCells(result, lines) },
        transaction,
      );
      const details = { version, words: entry.words };
      await recordAudit(
        this.#parts.database,
        {
          companyId: books.id,
          actor,
          action: `budget.${entry.kind}`,
          subject: `budget ${budgetId}`,
          details,
          changes: amountChanges(books, budget.row.year, lines),
        },
        transaction,
      );
      return { budget, lines, rules, notes: [...worksheet.notes] };
    });
    if (written) this.#parts.store.accept(books, written);
  }
}

/** Cells by the ids their lines were stored under. */
function storedCells(result: WorksheetResult, stored: readonly { readonly after: PlacedLine }[]): string[] {
  const ids = new Map(result.changes.map(({ after }, index) => [after.id, stored[index]!.after.id]));
  return result.cells.map((cell) => {
    const [id, month] = cell.split(':');
    return `${ids.get(Number(id)) ?? id}:${month}`;
  });
}

/** The amounts a change moved, before and after; those beyond the limit are counted. */
function amountChanges(books: Books, year: number, lines: LoggedChange['lines']): AuditChange[] {
  const { cells, more } = changedAmounts(books, year, lines);
  const text = (amount: number | null): string | null => (amount === null ? null : toDecimalText(amount as Minor, books.currency.exponent));
  const listed = cells.map(({ account, slice, month, from, to }): AuditChange => {
    return { what: [account, slice, month].filter(Boolean).join(', '), from: text(from), to: text(to) };
  });
  return more === 0 ? listed : [...listed, { what: 'further amounts', from: null, to: more }];
}
