import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import { type Minor, minor } from '../money/minor.ts';
import { balanceValue, incomeValue, slotSpanOf } from './account-values.ts';
import { type CellDrillDown, cellDrillDown } from './cell-drill-down.ts';
import { slabFor, type StatementGrid } from './evaluate.ts';
import type { Expression } from './expression.ts';

/** What a figure is laid out by. */
export type GroupBy =
  | { readonly kind: 'account' }
  | { readonly kind: 'month' }
  | { readonly kind: 'dimension'; readonly name: string }
  /** the part of a projection that was posted, and the part that is still budget */
  | { readonly kind: 'part' };
/** A part of a figure: accounts of one line, taken a number of times (-1 is subtracted). */
export type FigureLeaf = {
  readonly factor: number;
  readonly line: number;
  readonly column: number;
  readonly source: CellDrillDown & { readonly kind: 'accounts' };
};
/** A group's part of a figure, in the figure's sign. */
export type FigureGroup = {
  /** chart position, period index, `opening`, value of the dimension ('' is none), `actual` or `budget` */
  readonly key: string;
  readonly amount: Minor;
};

/**
 * The accounts that a figure adds up and subtracts, through totals and formulas of sums; null when it is no such sum
 * (ratios, shares, products, benchmarks). A blank figure has none.
 */
export function figureLeaves(grid: StatementGrid, line: number, column: number): FigureLeaf[] | null {
  const drillDown = cellDrillDown(grid, line, column);
  if (drillDown.kind === 'accounts') return [{ factor: 1, line, column, source: drillDown }];
  if (drillDown.kind !== 'cells') return grid.cells[line]![column]!.kind === 'blank' ? [] : null;
  const source = grid.plan.lines[line]!.source;
  const factors =
    drillDown.operation === 'sum'
      ? null
      : linearFactors(drillDown.operation === 'formula' && source.kind === 'expression' ? source.expression : null);
  if (drillDown.operation !== 'sum' && factors === null) return null;
  const leaves: FigureLeaf[] = [];
  for (const part of drillDown.parts) {
    const factor = factors === null ? 1 : (factors.get(grid.plan.lines[part.line]!.key) ?? 0);
    const own = figureLeaves(grid, part.line, part.column);
    if (own === null) return null;
    leaves.push(...own.map((leaf) => ({ ...leaf, factor: factor * leaf.factor })));
  }
  return leaves;
}

/** How often each line counts in a formula of sums and differences; null for any other formula. */
export function linearFactors(expression: Expression | null): Map<string, number> | null {
  if (expression === null) return null;
  const factors = new Map<string, number>();
  const add = (node: Expression, factor: number): boolean => {
    switch (node.kind) {
      case 'line':
        factors.set(node.key, (factors.get(node.key) ?? 0) + factor);
        return true;
      case 'negate':
        return add(node.operand, -factor);
      case 'binary':
        if (node.operator !== '+' && node.operator !== '-') return false;
        return add(node.left, factor) && add(node.right, node.operator === '+' ? factor : -factor);
      default:
        return false;
    }
  };
  return add(expression, 1) ? factors : null;
}

/**
 * A figure's parts laid out by account, month or dimension; zeros are left out. By month a closing balance is what stood
 * before its span and the movement of each month. The groups add up to the figure, where the scenario has the dimension.
 * @returns null for what has no such parts: opening and average balances have no months
 */
export function groupLeaves(grid: StatementGrid, leaves: readonly FigureLeaf[], by: GroupBy): FigureGroup[] | null {
  const sums = new Map<string, number>();
  const add = (key: string, amount: number) => sums.set(key, (sums.get(key) ?? 0) + amount);
  for (const leaf of leaves) if (!addLeaf(grid, leaf, { by, add })) return null;
  return [...sums].flatMap(([key, amount]) => (amount === 0 ? [] : [{ key, amount: minor(amount) }]));
}

type Adding = { readonly by: GroupBy; readonly add: (key: string, amount: number) => void };

function addLeaf(grid: StatementGrid, leaf: FigureLeaf, { by, add }: Adding): boolean {
  const { accounts } = leaf.source;
  switch (by.kind) {
    case 'account':
      for (const { account, amount } of accounts) add(String(account), leaf.factor * amount);
      return true;
    case 'month':
      return addMonths(grid, leaf, add);
    case 'part':
      return addMonths(grid, leaf, (key, amount) =>
        add(key === 'opening' || Number(key) <= (grid.plan.through ?? grid.plan.asOf) ? 'actual' : 'budget', amount),
      );
    case 'dimension':
      addValues(grid, leaf, { name: by.name, add });
      return true;
  }
}

function addMonths(grid: StatementGrid, { factor, line, source }: FigureLeaf, add: Adding['add']): boolean {
  const { plan } = grid;
  const { span, measure, sign, accounts, filter, scenario } = source;
  if (measure === 'opening' || measure === 'average') return false;
  const slab = slabFor(grid.sources(scenario), plan.lines[line]!, { span, filter });
  for (const { account } of accounts) {
    const isBalanceSheet = plan.isBalanceSheet[account]!;
    if (isBalanceSheet && measure === 'closing')
      add('opening', factor * sign * slab.closing(account, slotSpanOf(plan.calendar, span).from - 1));
    for (let period = span.from as number; period <= span.to; period += 1) {
      const slots = slotSpanOf(plan.calendar, { from: period as PeriodIndex, to: period as PeriodIndex });
      add(String(period), factor * sign * slab.change(account, slots.from, slots.to));
    }
  }
  return true;
}

function addValues(
  grid: StatementGrid,
  { factor, source }: FigureLeaf,
  { name, add }: { readonly name: string; readonly add: Adding['add'] },
): void {
  const { plan } = grid;
  const { span, measure, sign, accounts, filter, scenario } = source;
  const slots = slotSpanOf(plan.calendar, span);
  const slices = grid.sources(scenario).slices(
    filter,
    accounts.map(({ account }) => account),
    name,
  );
  for (const [value, row] of slices.positions) {
    const income = incomeValue(slices.income, row, { span: slots, measure });
    const balance = balanceValue(slices.balance, row, { span: slots, measure });
    add(value, factor * sign * (income + balance));
  }
}

/** What a figure is the sum of: accounts of one side, or of the two sides of a difference. */
export type FigureSides = {
  readonly compared: readonly FigureLeaf[];
  /** null for a figure that is no difference */
  readonly base: readonly FigureLeaf[] | null;
  readonly columns: { readonly compared: number; readonly base: number | null };
};

/** The sides of a figure; null for what is no sum of accounts. */
export function figureSides(grid: StatementGrid, line: number, column: number): FigureSides | null {
  const from = cellDrillDown(grid, line, column);
  if (from.kind === 'cells' && (from.operation === 'difference' || from.operation === 'percentDifference')) {
    const [compared, base] = [from.parts[0]!, from.parts[1]!];
    const leaves = [figureLeaves(grid, compared.line, compared.column), figureLeaves(grid, base.line, base.column)] as const;
    if (leaves[0] === null || leaves[1] === null) return null;
    return { compared: leaves[0], base: leaves[1], columns: { compared: compared.column, base: base.column } };
  }
  const leaves = figureLeaves(grid, line, column);
  return leaves && leaves.length > 0 ? { compared: leaves, base: null, columns: { compared: column, base: null } } : null;
}

/** The sum of a side, in the figure's sign. */
export const sumOfLeaves = (leaves: readonly FigureLeaf[]): number =>
  leaves.reduce((sum, { factor, source }) => sum + factor * source.sum, 0);
