import type { BalanceRule, LineChange, NoteChange } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';

/** The rule of a balance-sheet account before and after; null is what history gives. */
export type RuleChange = { readonly account: string; readonly before: BalanceRule | null; readonly after: BalanceRule | null };

/** A saved change of a budget, with what it takes to take it back. */
export type LoggedChange = {
  readonly id: number;
  readonly version: number;
  readonly at: string;
  readonly actor: string;
  readonly session: string;
  readonly kind: 'edit' | 'undo' | 'redo' | 'derive';
  /** the change an undo undid, or a redo applied again */
  readonly of: number | null;
  readonly words: string;
  readonly lines: readonly LineChange[];
  readonly notes: readonly NoteChange[];
  readonly rules: readonly RuleChange[];
  readonly cells: readonly string[];
  readonly isUndone: boolean;
};
/** A change as it is stored. */
export type ChangeRow = {
  readonly id: number;
  readonly version: number;
  readonly at: string;
  readonly actor: string;
  readonly session: string;
  readonly kind: LoggedChange['kind'];
  readonly of_change: number | null;
  readonly words: string;
  readonly lines: string;
  readonly notes: string;
  readonly rules: string;
  readonly cells: string;
  readonly undone: number;
};
export const changeOf = ({ of_change, undone, lines, notes, rules, cells, ...row }: ChangeRow): LoggedChange => ({
  ...row,
  of: of_change,
  isUndone: undone === 1,
  lines: JSON.parse(lines) as LineChange[],
  notes: JSON.parse(notes) as NoteChange[],
  rules: JSON.parse(rules) as RuleChange[],
  cells: JSON.parse(cells) as string[],
});

/** Every change of every budget, in the order they were saved. */
export class ChangeLog {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async add(
    change: Omit<LoggedChange, 'id' | 'at' | 'actor' | 'isUndone'> & {
      readonly budgetId: number;
      readonly actor: Actor;
      /** of the request it was made by, so that it counts once; null for none */
      readonly key: string | null;
    },
    transaction: Transaction,
  ): Promise<void> {
    const { budgetId, version, actor, session, kind, of, words, lines, notes, rules, cells, key } = change;
    await this.#database.run(
      `INSERT INTO budget_changes (budget_id, version, at, actor, session, kind, of_change, words, lines, notes, rules, cells, request_key)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
      [
        budgetId,
        version,
        actor.now().toISOString(),
        actor.name,
        session,
        kind,
        of,
        words,
        JSON.stringify(lines),
        JSON.stringify(notes),
        JSON.stringify(rules),
        JSON.stringify(cells),
        key,
      ],
      transaction,
    );
  }

  /** Whether a request was saved already. */
  async has(budgetId: number, key: string, transaction: Transaction): Promise<boolean> {
    const [found] = await this.#database.select<{ id: number }>(
      'SELECT id FROM budget_changes WHERE budget_id = $1 AND request_key = $2',
      [budgetId, key],
      transaction,
    );
    return found !== undefined;
  }

  async setTakenBack(id: number, isUndone: boolean, transaction: Transaction): Promise<void> {
    await this.#database.run('UPDATE budget_changes SET undone = $1 WHERE id = $2', [isUndone ? 1 : 0, id], transaction);
  }

  /** Changes after a version, the oldest first. */
  async since(budgetId: number, version: number, transaction?: Transaction): Promise<LoggedChange[]> {
    return this.#read('WHERE budget_id = $1 AND version > $2 ORDER BY id', [budgetId, version], transaction);
  }

  /** The latest changes of a session that are not undone, the oldest first. */
  async ofSession(budgetId: number, session: string, most: number): Promise<LoggedChange[]> {
    const newest = await this.#read(`WHERE budget_id = $1 AND session = $2 AND undone = 0 ORDER BY id DESC LIMIT $3`, [
      budgetId,
      session,
      most,
    ]);
    return newest.reverse();
  }

  /** When and by whom a line of each account was last changed; accounts that never were are left out. */
  async lastOf(
    budgetId: number,
    accounts: readonly string[],
  ): Promise<ReadonlyMap<string, { readonly at: string; readonly actor: string }>> {
    const rows = await this.#database.select<{ account: string; at: string; actor: string }>(
      `SELECT json_extract(l.value, '$.after.account') AS account, c.at, c.actor, max(c.id) FROM budget_changes c, json_each(c.lines) l
       WHERE c.budget_id = $1 AND json_extract(l.value, '$.after.account') IN (SELECT value FROM json_each($2)) GROUP BY 1`,
      [budgetId, JSON.stringify(accounts)],
    );
    return new Map(rows.map(({ account, at, actor }) => [account, { at, actor }]));
  }

  /** What undo undoes next in a session: its newest change that is not undone. */
  async undoable(budgetId: number, session: string, transaction?: Transaction): Promise<LoggedChange | null> {
    const [change] = await this.#read(
      `WHERE budget_id = $1 AND session = $2 AND kind IN ('edit', 'derive') AND undone = 0 ORDER BY id DESC LIMIT 1`,
      [budgetId, session],
      transaction,
    );
    return change ?? null;
  }

  /** What redo applies again: the oldest undone change since the session's newest one that is not undone. */
  async redoable(budgetId: number, session: string, transaction?: Transaction): Promise<LoggedChange | null> {
    const [change] = await this.#read(
      `WHERE budget_id = $1 AND session = $2 AND kind IN ('edit', 'derive') AND undone = 1
         AND id > coalesce((SELECT max(id) FROM budget_changes WHERE budget_id = $1 AND session = $2 AND kind IN ('edit', 'derive') AND undone = 0), 0)
       ORDER BY id LIMIT 1`,
      [budgetId, session],
      transaction,
    );
    return change ?? null;
  }

  async #read(where: string, values: readonly (string | number)[], transaction?: Transaction): Promise<LoggedChange[]> {
    return (await this.#database.select<ChangeRow>(`SELECT * FROM budget_changes ${where}`, [...values], transaction)).map(changeOf);
  }
}
