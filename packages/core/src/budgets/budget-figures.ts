import { type FiscalCalendar, periodOfYear, PERIODS_PER_YEAR, slotCount, slotOfYear } from '../calendar/fiscal-calendar.ts';
import { isIncomeAccount } from '../chart/account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { type DimensionFilter, filterKey } from '../ledger/dimension.ts';
import { minor } from '../money/minor.ts';
import type { ColumnSet } from '../statements/column-set.ts';
import { evaluate, type StatementGrid } from '../statements/evaluate.ts';
import type { LineSet } from '../statements/line-set.ts';
import { reevaluate } from '../statements/reevaluate.ts';
import type { ScenarioSource, ScenarioSources } from '../statements/scenario-source.ts';
import { actualScenario, budgetScenario, noScenario, projectionScenario, statisticScenario } from '../statements/scenarios.ts';
import { planStatement, type StatementPlan } from '../statements/statement-plan.ts';
import { STATISTIC } from '../statements/statistic-figures.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import type { LineChange } from './line-trace.ts';

// slices looked at one after the other while a budget is worked on
const MOST_GRIDS = 8;

/** The amounts of a line as facts of a cube, or the difference to what they were; months without any make none. */
export function lineFacts(
  calendar: FiscalCalendar,
  year: number,
  { before, after }: { readonly before: Pick<PlacedLine, 'months'> | null; readonly after: PlacedLine },
): BalanceFact[] {
  return after.months.flatMap(({ amount }, month) => {
    const difference = minor(amount - (before?.months[month]!.amount ?? 0));
    const slot = slotOfYear(calendar, year, month + 1);
    return difference === 0 || slot === null
      ? []
      : [{ account: after.position, slot, combination: after.dimensions, layer: 'ordinary' as const, amount: difference }];
  });
}

/** A budget as a statement that is brought up to date line by line, beside last year's outlook and budget. */
export class BudgetFigures {
  readonly #books: BudgetBooks;
  readonly #head: BudgetHead;
  /** this budget in its year, the approved ones in theirs */
  readonly #cube: BalanceCube;
  readonly #sources: ScenarioSources;
  readonly #plan: StatementPlan;
  /** what was looked at last, with the accounts that changed since */
  readonly #grids = new Map<string, { readonly grid: StatementGrid; readonly touched: Set<number> }>();

  /** @throws RangeError when the budget's year lies outside the calendar */
  constructor(options: {
    readonly books: BudgetBooks;
    readonly head: BudgetHead;
    readonly lines: Iterable<PlacedLine>;
    readonly lineSet: LineSet;
    readonly columnSet: ColumnSet;
  }) {
    const { books, head, lines, lineSet, columnSet } = options;
    this.#books = books;
    this.#head = head;
    const { chart, calendar } = books;
    const asOf = periodOfYear(calendar, head.year, PERIODS_PER_YEAR);
    if (asOf === null) throw new RangeError(`FY${head.year} is outside the calendar`);
    this.#cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
    const others = [...books.approved].filter(([year]) => year !== head.year);
    for (const [, { cube }] of others) this.#cube.post(cube.facts);
    this.#cube.post([...lines].flatMap((after) => lineFacts(calendar, head.year, { before: null, after })));
    this.#plan = planStatement({ lineSet, columnSet, chart, calendar, asOf, exponent: books.exponent }).plan;
    const budgets = new Map([...others.map(([year, { dimensions }]) => [year, { cube: this.#cube, dimensions }] as const)]);
    budgets.set(head.year, { cube: this.#cube, dimensions: head.dimensions });
    const actual = actualScenario(books, { cube: books.cube, last: books.lastActual });
    const budget = budgetScenario(books, budgets);
    const projection = projectionScenario(books, actual, { budget: budgetScenario(books, books.approved), through: books.lastActual });
    const byName: Readonly<Record<string, ScenarioSource>> = { actual, budget, projection };
    this.#sources = (ref) =>
      byName[ref] ?? (ref.startsWith(STATISTIC) ? statisticScenario(books, ref.slice(STATISTIC.length)) : noScenario(ref));
  }

  /** Takes changed lines in. */
  accept(changes: readonly LineChange[]): void {
    for (const { after } of changes) for (const { touched } of this.#grids.values()) touched.add(after.position);
    this.#cube.post(changes.flatMap((change) => lineFacts(this.#books.calendar, this.#head.year, change)));
  }

  /** The budget under a filter, as it stands; rows that did not change since the last look are the same by identity. */
  grid(filter: DimensionFilter): StatementGrid {
    const key = filterKey(filter);
    const held = this.#grids.get(key);
    const grid = held ? reevaluate(held.grid, held.touched) : evaluate(this.#plan, this.#sources, filter);
    this.#grids.delete(key);
    const [oldest] = this.#grids.keys();
    if (this.#grids.size >= MOST_GRIDS && oldest !== undefined) this.#grids.delete(oldest);
    this.#grids.set(key, { grid, touched: new Set() });
    return grid;
  }
}
