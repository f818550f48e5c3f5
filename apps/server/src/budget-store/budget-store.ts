import {
  BalanceCube,
  type BalanceRule,
  type Basis,
  type BudgetLine,
  type BudgetMonth,
  type BudgetNote,
  type DimensionCombination,
  isIncomeAccount,
  type LineChange,
  lineFacts,
  minor,
  type NoteChange,
  type PlacedLine,
  sliceKey,
  slotCount,
  ZERO,
} from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Books } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import type { BudgetRow } from '../database/models.ts';
import { notFound } from '../http/problem.ts';
import type { RuleChange } from './change-log.ts';

export type StoredBudget = {
  readonly row: BudgetRow;
  readonly lines: readonly PlacedLine[];
  readonly notes: readonly BudgetNote[];
  /** how balance-sheet accounts move where that was set manually, by account number */
  readonly rules: ReadonlyMap<string, BalanceRule>;
  readonly cube: BalanceCube;
};

/** How a month's override is stored: none, entered by hand, or given by a total over several months. */
const FROM_TOTAL = 2;
const heldCode = ({ held, fromTotal }: BudgetMonth): number => (!held ? 0 : fromTotal ? FROM_TOTAL : 1);

/** Lines to be added to a budget. */
type NewLines = { readonly books: Books; readonly budgetId: number; readonly lines: readonly BudgetLine[] };

/** Reads and writes budgets, and keeps the cube of each budget true to its version and its company's. */
export class BudgetStore {
  readonly #database: Database;
  readonly #held = new Map<number, { readonly version: string; readonly budget: StoredBudget }>();

  constructor(database: Database) {
    this.#database = database;
  }

  /** Lets go of everything held, so that it is read again. */
  forget(): void {
    this.#held.clear();
  }

  /** The budgets of a company, latest year first; the rows are shared, and left as they are. */
  async list(companyId: number): Promise<readonly BudgetRow[]> {
    return this.#database.remembered(`budgets of ${companyId}`, () =>
      this.#database.models.budgets.findAll({
        where: { companyId },
        order: [
          ['year', 'DESC'],
          ['id', 'DESC'],
        ],
      }),
    );
  }

  /** @throws ProblemError 404 */
  async of(books: Books, budgetId: number): Promise<StoredBudget> {
    const row = (await this.list(books.id)).find(({ id }) => id === budgetId);
    if (!row) throw notFound(`budget ${budgetId}`);
    return this.ofRow(books, row);
  }

  /** The budget of a row just read. */
  async ofRow(books: Books, row: BudgetRow): Promise<StoredBudget> {
    const version = versionOf(books, row);
    const held = this.#held.get(row.id);
    if (held?.version === version) return held.budget;
    const lines = await this.#lines(books, row.id);
    const budget = { row, lines, notes: await this.#notes(row.id), rules: await this.#rules(row.id), cube: cubeOf(books, row.year, lines) };
    this.#held.set(row.id, { version, budget });
    return budget;
  }

  /** Adds lines under ids one after the other, and gives the first of them. */
  async insertLines({ books, budgetId, lines }: NewLines, transaction: Transaction): Promise<number> {
    const idOf = new Map(books.chart.accounts.map((account, position) => [account.number, books.accountIds[position]!]));
    const [highest] = await this.#database.select<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM budget_lines', [], transaction);
    const numbered = lines.map((line, index) => ({ line, id: highest!.id + index + 1 }));
    await this.#database.run(
      'INSERT INTO budget_lines (id, budget_id, account_id, dimension_values, basis) SELECT value ->> 0, $1, value ->> 1, value ->> 2, value ->> 3 FROM json_each($2)',
      [
        budgetId,
        JSON.stringify(
          numbered.map(({ line, id }) => [id, idOf.get(line.account)!, JSON.stringify(line.dimensions), JSON.stringify(line.basis)]),
        ),
      ],
      transaction,
    );
    await this.#database.run(
      'INSERT INTO budget_cells (line_id, month, amount, held) SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($1)',
      [JSON.stringify(numbered.flatMap(({ line, id }) => line.months.map((each, month) => [id, month, each.amount, heldCode(each)])))],
      transaction,
    );
    return highest!.id + 1;
  }

  async #notes(budgetId: number): Promise<BudgetNote[]> {
    const rows = await this.#database.select<{ account: string; slice: string; month: number; text: string }>(
      'SELECT account, slice, month, text FROM budget_notes WHERE budget_id = $1 ORDER BY account, month',
      [budgetId],
    );
    return rows.map((row) => ({ ...row, month: row.month < 0 ? null : row.month }));
  }

  async #rules(budgetId: number): Promise<Map<string, BalanceRule>> {
    const rows = await this.#database.select<{ account: string; rule: string }>(
      'SELECT account, rule FROM budget_balance_rules WHERE budget_id = $1 ORDER BY account',
      [budgetId],
    );
    return new Map(rows.map(({ account, rule }) => [account, JSON.parse(rule) as BalanceRule]));
  }

  /**
   * Writes what a worksheet changed: lines that were there, new ones under ids of their own, notes; and counts the version up.
   * @returns the changes with the ids they are stored under, in the same order
   */
  async write(
    { books, budget: { row } }: { readonly books: Books; readonly budget: StoredBudget },
    made: {
      readonly changes: readonly LineChange[];
      readonly notes: readonly NoteChange[];
      readonly rules: readonly RuleChange[];
      readonly actor: Actor;
    },
    transaction: Transaction,
  ): Promise<LineChange[]> {
    const { changes, notes, rules, actor } = made;
    await this.#updateLines(
      changes.flatMap(({ after }) => (after.id > 0 ? [after] : [])),
      transaction,
    );
    const added = changes.flatMap(({ after }) => (after.id > 0 ? [] : [after]));
    const first = added.length > 0 ? await this.insertLines({ books, budgetId: row.id, lines: added }, transaction) : 0;
    await this.writeNotes(row.id, { notes, actor }, transaction);
    await this.writeRules(row.id, rules, transaction);
    await this.#database.models.budgets.increment('version', { where: { id: row.id }, transaction });
    return changes.map((change) =>
      change.after.id > 0 ? change : { before: change.before, after: { ...change.after, id: first + added.indexOf(change.after) } },
    );
  }

  /** Sets and takes away notes. */
  async writeNotes(
    budgetId: number,
    { notes, actor }: { readonly notes: readonly NoteChange[]; readonly actor: Actor },
    transaction: Transaction,
  ): Promise<void> {
    for (const { before, after } of notes) {
      const place = [budgetId, (after ?? before)!.account, (after ?? before)!.slice, (after ?? before)!.month ?? -1];
      if (after === null)
        await this.#database.run(
          'DELETE FROM budget_notes WHERE budget_id = $1 AND account = $2 AND slice = $3 AND month = $4',
          place,
          transaction,
        );
      else
        await this.#database.run(
          `INSERT INTO budget_notes (budget_id, account, slice, month, text, at, actor) VALUES ($1, $2, $3, $4, $5, $6, $7)
           ON CONFLICT DO UPDATE SET text = excluded.text, at = excluded.at, actor = excluded.actor`,
          [...place, after.text, actor.now().toISOString(), actor.name],
          transaction,
        );
    }
  }

  /** Sets rules of balance-sheet accounts, and takes them back to what history gives. */
  async writeRules(budgetId: number, rules: readonly Pick<RuleChange, 'account' | 'after'>[], transaction: Transaction): Promise<void> {
    for (const { account, after } of rules) {
      if (after === null)
        await this.#database.run(
          'DELETE FROM budget_balance_rules WHERE budget_id = $1 AND account = $2',
          [budgetId, account],
          transaction,
        );
      else
        await this.#database.run(
          `INSERT INTO budget_balance_rules (budget_id, account, rule) VALUES ($1, $2, $3) ON CONFLICT DO UPDATE SET rule = excluded.rule`,
          [budgetId, account, JSON.stringify(after)],
          transaction,
        );
    }
  }

  async #updateLines(changes: readonly PlacedLine[], transaction: Transaction): Promise<void> {
    if (changes.length === 0) return;
    await this.#database.run(
      'UPDATE budget_lines SET basis = change.basis FROM (SELECT value ->> 0 AS id, value ->> 1 AS basis FROM json_each($1)) AS change WHERE budget_lines.id = change.id',
      [JSON.stringify(changes.map(({ id, basis }) => [id, JSON.stringify(basis)]))],
      transaction,
    );
    await this.#database.run(
      'INSERT INTO budget_cells (line_id, month, amount, held) SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($1) WHERE true ON CONFLICT DO UPDATE SET amount = excluded.amount, held = excluded.held',
      [JSON.stringify(changes.flatMap(({ id, months }) => months.map((each, month) => [id, month, each.amount, heldCode(each)])))],
      transaction,
    );
  }

  /**
   * Takes what was written into what is held, so that an edit reads nothing back: only what changed is
   * added to the cube. Without a held budget, or when another version was written, the next look reads it.
   */
  accept(
    books: Books,
    written: {
      readonly budget: StoredBudget;
      readonly lines: readonly LineChange[];
      readonly notes: readonly BudgetNote[];
      readonly rules: readonly RuleChange[];
    },
  ): void {
    const { budget: before, lines: changes, notes, rules: changedRules } = written;
    const { row } = before;
    const held = this.#held.get(row.id);
    if (held?.budget !== before) return;
    const changed = new Map(changes.map(({ after }) => [after.id, after]));
    const known = before.lines.map((line) => changed.get(line.id) ?? line);
    const added = changes.flatMap((change) => (change.before === null ? [change.after] : []));
    before.cube.post(changes.flatMap((change) => lineFacts(books.calendar, row.year, change)));
    row.version += 1;
    const rules = new Map(before.rules);
    for (const { account, after } of changedRules) {
      if (after === null) rules.delete(account);
      else rules.set(account, after);
    }
    const budget = { row, rules, lines: added.length > 0 ? inOrder([...known, ...added]) : known, notes, cube: before.cube };
    this.#held.set(row.id, { version: versionOf(books, row), budget });
  }

  async #lines(books: Books, budgetId: number): Promise<PlacedLine[]> {
    const rows = await this.#database.select<{ id: number; position: number; dimension_values: string; basis: string }>(
      'SELECT l.id, a.position, l.dimension_values, l.basis FROM budget_lines l JOIN accounts a ON a.id = l.account_id WHERE l.budget_id = $1 ORDER BY a.number, l.dimension_values',
      [budgetId],
    );
    const cells = await this.#database.select<{ line_id: number; month: number; amount: number; held: number }>(
      'SELECT c.* FROM budget_cells c JOIN budget_lines l ON l.id = c.line_id WHERE l.budget_id = $1',
      [budgetId],
    );
    const months = new Map<number, BudgetMonth[]>();
    for (const { line_id, month, amount, held } of cells) {
      if (!months.has(line_id))
        months.set(
          line_id,
          Array.from({ length: 12 }, () => ({ amount: ZERO, held: false })),
        );
      months.get(line_id)![month] = { amount: minor(amount), held: held > 0, ...(held === FROM_TOTAL ? { fromTotal: true as const } : {}) };
    }
    return rows.map((row) => ({
      id: row.id,
      position: row.position,
      account: books.chart.accounts[row.position]!.number,
      dimensions: JSON.parse(row.dimension_values) as DimensionCombination,
      slice: sliceKey(JSON.parse(row.dimension_values) as DimensionCombination),
      basis: JSON.parse(row.basis) as Basis,
      months: months.get(row.id) ?? Array.from({ length: 12 }, () => ({ amount: ZERO, held: false })),
    }));
  }
}

const versionOf = (books: Books, row: BudgetRow): string => `${books.version}.${row.version}.${row.state}.${row.name}`;

/** Lines by account number, then by slice. */
const inOrder = (lines: readonly PlacedLine[]): PlacedLine[] =>
  [...lines].sort((a, b) => (a.account === b.account ? (a.slice < b.slice ? -1 : 1) : a.account < b.account ? -1 : 1));

function cubeOf({ chart, calendar }: Books, year: number, lines: readonly PlacedLine[]): BalanceCube {
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(lines.flatMap((after) => lineFacts(calendar, year, { before: null, after })));
  return cube;
}
