import type { TieOutDto } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, type ColumnSet, INCOME_LINES, periodOfYear } from '@wise-margin/core';

import type { BudgetStore } from '../../budget-store/index.ts';
import type { Books } from '../../companies/index.ts';
import type { Database } from '../../database/database.ts';
import type { Evaluator } from '../../evaluation/index.ts';
import { pair } from './pair.ts';

const WHOLE_YEAR: ColumnSet = {
  key: 'whole-year',
  name: 'Whole year',
  blocks: [
    {
      key: 'year',
      heading: '{span}',
      span: { kind: 'fullYear' },
      columns: [{ kind: 'amount', key: 'budget', heading: 'Budget', scenario: 'budget', span: { kind: 'fullYear' } }],
    },
  ],
};
/** Debits less credits of the months of a budget's income accounts, by budget. */
const LINE_TOTALS = `SELECT l.budget_id AS budget, -sum(c.amount) AS net FROM budget_lines l JOIN budgets b ON b.id = l.budget_id JOIN accounts a ON a.id = l.account_id
  JOIN budget_cells c ON c.line_id = l.id WHERE b.company_id = $1 AND a.class IN (SELECT value FROM json_each($2)) GROUP BY l.budget_id`;
const INCOME_CLASSES = JSON.stringify(
  Object.entries(ACCOUNT_CLASSES).flatMap(([key, { statement }]) => (statement === 'income' ? [key] : [])),
);

/** Net income of each budget in review or approved, on its statement, against the sum of its lines as they are stored. */
export async function budgetTies(
  { database, budgetStore, evaluator }: { readonly database: Database; readonly budgetStore: BudgetStore; readonly evaluator: Evaluator },
  books: Books,
): Promise<TieOutDto[]> {
  const totals = new Map(
    (await database.select<{ budget: number; net: number }>(LINE_TOTALS, [books.id, INCOME_CLASSES])).map(({ budget, net }) => [
      budget,
      net,
    ]),
  );
  const ties: TieOutDto[] = [];
  for (const { id, year, name, state } of await budgetStore.list(books.id)) {
    const asOf = periodOfYear(books.calendar, year, 1);
    if ((state !== 'approved' && state !== 'inReview') || asOf === null) continue;
    const { grid } = await evaluator.evaluate(books, { lineSet: INCOME_LINES, columnSet: WHOLE_YEAR, asOf, filter: {}, budgetId: id });
    const cell = grid.cells[grid.plan.lineOfKey.get('net_income')!]![0]!;
    ties.push(
      pair({
        key: `budget-${id}`,
        group: 'Budgets',
        name: `FY${year} ${name} adds up from its lines`,
        first: { words: `Net income of the budget, FY${year}`, amount: cell.kind === 'amount' ? cell.value : 0 },
        second: { words: 'Sum of its lines and months', amount: totals.get(id) ?? 0 },
        where: 'A line has an account or a month that the statement does not count. Open the budget.',
        link: `budgets/${id}`,
      }),
    );
  }
  return ties;
}
