import {
  BalanceCube,
  isIncomeAccount,
  minor,
  slotCount,
  slotOfYear,
  ZERO,
  type BalanceFact,
  type Basis,
  type BudgetLine,
  type BudgetMonth,
  type DimensionCombination,
  type Minor,
} from '@wise-margin/core';
import type { Transaction } from 'sequelize';
import type { Books } from '../companies/books.ts';
import type { Database } from '../database/database.ts';
import type { BudgetRow } from '../database/models.ts';
import { notFound } from '../http/problem.ts';

/** A stored budget line; `position` is its account's place in the chart. */
export type StoredLine = BudgetLine & { readonly id: number; readonly position: number };
export type StoredBudget = {
  readonly row: BudgetRow;
  readonly lines: readonly StoredLine[];
  readonly cube: BalanceCube;
};

/** Reads and writes budgets, and keeps the cube of each budget true to its version and its company's. */
export class BudgetStore {
  readonly #database: Database;
  readonly #held = new Map<number, { readonly version: string; readonly budget: StoredBudget }>();

  constructor(database: Database) {
    this.#database = database;
  }

  async list(companyId: number): Promise<BudgetRow[]> {
    return this.#database.models.budgets.findAll({
      where: { companyId },
      order: [
        ['year', 'DESC'],
        ['id', 'DESC'],
      ],
    });
  }

  /** @throws ProblemError 404 */
  async of(books: Books, budgetId: number): Promise<StoredBudget> {
    const row = await this.#database.models.budgets.findOne({ where: { id: budgetId, companyId: books.id } });
    if (!row) throw notFound(`budget ${budgetId}`);
    return this.ofRow(books, row);
  }

  /** The budget of a row just read. */
  async ofRow(books: Books, row: BudgetRow): Promise<StoredBudget> {
    const version = versionOf(books, row);
    const held = this.#held.get(row.id);
    if (held?.version === version) return held.budget;
    const lines = await this.#lines(books, row.id);
    const budget = { row, lines, cube: cubeOf(books, row.year, lines) };
    this.#held.set(row.id, { version, budget });
    return budget;
  }

  /** Adds lines of a new budget. */
  async insertLines(books: Books, budgetId: number, lines: readonly BudgetLine[], transaction: Transaction): Promise<void> {
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
      [JSON.stringify(numbered.flatMap(({ line, id }) => line.months.map(({ amount, held }, month) => [id, month, amount, held ? 1 : 0])))],
      transaction,
    );
  }

  /** Replaces basis and months of held lines. */
  async updateLines(
    changes: readonly { readonly id: number; readonly basis: Basis; readonly months: readonly BudgetMonth[] }[],
    transaction: Transaction,
  ): Promise<void> {
    await this.#database.run(
      'UPDATE budget_lines SET basis = change.basis FROM (SELECT value ->> 0 AS id, value ->> 1 AS basis FROM json_each($1)) AS change WHERE budget_lines.id = change.id',
      [JSON.stringify(changes.map(({ id, basis }) => [id, JSON.stringify(basis)]))],
      transaction,
    );
    await this.#database.run(
      'INSERT INTO budget_cells (line_id, month, amount, held) SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($1) WHERE true ON CONFLICT DO UPDATE SET amount = excluded.amount, held = excluded.held',
      [JSON.stringify(changes.flatMap(({ id, months }) => months.map(({ amount, held }, month) => [id, month, amount, held ? 1 : 0])))],
      transaction,
    );
  }

  /**
   * Takes written lines into what is held, so that an edit reads nothing back: only what changed is
   * added to the cube. Without a held budget, or when another version was written, the next look reads it.
   */
  accept(books: Books, before: StoredBudget, changes: readonly StoredLine[]): void {
    const held = this.#held.get(before.row.id);
    if (held?.budget !== before) return;
    const changed = new Map(changes.map((line) => [line.id, line]));
    const lines = before.lines.map((line) => changed.get(line.id) ?? line);
    before.cube.post(
      before.lines.flatMap((line) => {
        const after = changed.get(line.id);
        return after
          ? lineFacts(
              books,
              before.row.year,
              after.months.map(({ amount }, month) => minor(amount - line.months[month]!.amount)),
              line,
            )
          : [];
      }),
    );
    const row = before.row;
    row.version += 1;
    this.#held.set(row.id, { version: versionOf(books, row), budget: { row, lines, cube: before.cube } });
  }

  async #lines(books: Books, budgetId: number): Promise<StoredLine[]> {
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
      months.get(line_id)![month] = { amount: minor(amount), held: held === 1 };
    }
    return rows.map((row) => ({
      id: row.id,
      position: row.position,
      account: books.chart.accounts[row.position]!.number,
      dimensions: JSON.parse(row.dimension_values) as DimensionCombination,
      basis: JSON.parse(row.basis) as Basis,
      months: months.get(row.id) ?? Array.from({ length: 12 }, () => ({ amount: ZERO, held: false })),
    }));
  }
}

const versionOf = (books: Books, row: BudgetRow): string => `${books.version}.${row.version}.${row.state}.${row.name}`;

/** The facts of a line's amounts; months of zero make none. */
function lineFacts(books: Books, year: number, amounts: readonly Minor[], line: StoredLine): BalanceFact[] {
  return amounts.flatMap((amount, month) => {
    const slot = slotOfYear(books.calendar, year, month + 1);
    return amount === 0 || slot === null
      ? []
      : [{ account: line.position, slot, combination: line.dimensions, layer: 'ordinary' as const, amount }];
  });
}

function cubeOf(books: Books, year: number, lines: readonly StoredLine[]): BalanceCube {
  const cube = new BalanceCube({ isIncome: books.chart.accounts.map(isIncomeAccount), slots: slotCount(books.calendar) });
  cube.post(
    lines.flatMap((line) =>
      lineFacts(
        books,
        year,
        line.months.map(({ amount }) => amount),
        line,
      ),
    ),
  );
  return cube;
}
