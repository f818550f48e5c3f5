import { minor } from '../money/minor.ts';
import { roundToStep } from '../money/round.ts';
import type { Cell } from './cell.ts';
import { sidesOn } from './comparable-months.ts';
import type { StatementGrid } from './evaluate.ts';
import type { Expression } from './expression.ts';
import type { PlannedColumn } from './planned-column.ts';
import type { StatementPlan } from './statement-plan.ts';

/** A line taken into a sum, added or taken away. */
type Term = { readonly line: number; readonly sign: 1 | -1 };

/**
 * Every figure as a multiple of `step` minor units, such that they foot: in each amount column the parts of
 * a line, the lines of a total and the terms of a formula of sums add up to what is shown for it, and a
 * difference is the difference of what is shown. A total is rounded half away from zero, and its parts
 * take the units that are left over by largest remainder, ties to the first; each stays within one step of
 * its exact figure. A line that stands in two totals is fixed by the larger one; the other is then its
 * sum. Percentages and ratios stay those of the exact figures.
 * Source: largest remainder (Hamilton) rule, applied from the totals down.
 * @param step as of `displayStep`; 1 gives the grid as it is
 */
export function footGrid(grid: StatementGrid, step: number): StatementGrid {
  if (step <= 1) return grid;
  const { plan } = grid;
  const terms = plan.lines.map((_, index) => termsOf(plan, index));
  const parts = partsOf(plan);
  const cells = grid.cells.map((row) => [...row]);
  for (const column of plan.columns) if (column.kind === 'amount') footColumn(cells, column.index, { plan, terms, parts, step });
  for (const index of plan.columnOrder) {
    cells.forEach((row, line) => (row[index] = derivedFooted(plan, row, { column: plan.columns[index]!, line, step })));
  }
  return { ...grid, cells };
}

/** A derived amount from the figures shown; what is no sum of columns is rounded by itself. */
function derivedFooted(
  plan: StatementPlan,
  row: readonly Cell[],
  { column, line, step }: { readonly column: PlannedColumn; readonly line: number; readonly step: number },
): Cell {
  const cell = row[column.index]!;
  if (cell.kind !== 'amount') return cell;
  if (column.kind === 'difference') {
    const sides = sidesOn(column, plan.pointsInTime[line]!, plan.columns) ?? column;
    const [compared, base] = [row[sides.compared]!, row[sides.base]!];
    if (compared.kind === 'amount' && base.kind === 'amount') return { ...cell, value: minor(compared.value - base.value) };
  }
  if (column.kind === 'runningTotal') {
    const added = column.columns.map((each) => row[each]!);
    return { ...cell, value: minor(added.reduce((sum, each) => sum + (each.kind === 'amount' ? each.value : 0), 0)) };
  }
  return { ...cell, value: minor(roundToStep(cell.value, step)) };
}

function footColumn(
  cells: Cell[][],
  column: number,
  {
    plan,
    terms,
    parts,
    step,
  }: { plan: StatementPlan; terms: readonly (readonly Term[])[]; parts: readonly (readonly Term[])[]; step: number },
): void {
  const exact = plan.lines.map(({ index }) => {
    const cell = cells[index]![column]!;
    return cell.kind === 'amount' ? cell.value : null;
  });
  const shown: (number | null)[] = exact.map(() => null);
  const amountsOf = (list: readonly Term[]): Term[] => list.filter(({ line }) => exact[line] !== null);
  /** shares a fixed figure out over those of its terms that are not fixed yet, then goes on into them */
  const share = (line: number): void => {
    for (const list of [amountsOf(terms[line]!), amountsOf(parts[line]!)]) {
      const free = list.filter((term) => shown[term.line] === null);
      const contributions = free.map((term) => (term.sign * exact[term.line]!) / step);
      const floors = contributions.map(Math.floor);
      const fixed = list.reduce((sum, term) => sum + term.sign * (shown[term.line] ?? 0), 0);
      let left = Math.round((shown[line]! - fixed) / step) - floors.reduce((sum, units) => sum + units, 0);
      const byRemainder = free
        .map((_, index) => index)
        .sort((a, b) => contributions[b]! - floors[b]! - (contributions[a]! - floors[a]!) || a - b);
      for (const index of byRemainder) {
        const extra = left > 0 ? 1 : 0;
        left -= extra;
        shown[free[index]!.line] = free[index]!.sign * (floors[index]! + extra) * step;
      }
      for (const term of free) share(term.line);
    }
  };
  const reaches = new Map<number, number>();
  const reach = (line: number): number => {
    const held = reaches.get(line);
    if (held !== undefined) return held;
    const sum = amountsOf([...terms[line]!, ...parts[line]!]).reduce((total, term) => total + reach(term.line), 1);
    reaches.set(line, sum);
    return sum;
  };
  const within = new Set([...terms, ...parts].flatMap((list) => list.map(({ line }) => line)));
  const roots = plan.lines.flatMap(({ index }) => (exact[index] === null || within.has(index) ? [] : [index]));
  roots.sort((a, b) => reach(b) - reach(a) || a - b);
  for (const root of roots) {
    shown[root] ??= roundToStep(exact[root]!, step);
    share(root);
  }
  // what two totals wanted differently is settled by the parts
  const settled = new Set<number>();
  const resolve = (line: number): number => {
    const list = amountsOf(terms[line]!).length > 0 ? amountsOf(terms[line]!) : amountsOf(parts[line]!);
    if (!settled.has(line) && list.length > 0) shown[line] = list.reduce((sum, term) => sum + term.sign * resolve(term.line), 0);
    settled.add(line);
    return shown[line]!;
  };
  for (const { index } of plan.lines) {
    if (exact[index] === null) continue;
    const cell = cells[index]![column] as Cell & { kind: 'amount' };
    cells[index]![column] = { ...cell, value: minor(resolve(index)) };
  }
}

/** The lines a total or a formula adds up, nested totals in place of what stands in them; empty where a line is no sum of lines. */
function termsOf(plan: StatementPlan, index: number): readonly Term[] {
  const line = plan.lines[index]!;
  if (line.source.kind === 'expression') return line.source.result === 'amount' ? (sumTerms(plan, line.source.expression, 1) ?? []) : [];
  if (line.source.kind !== 'members') return [];
  const own = new Set(line.source.lines);
  const inner = plan.lines
    .filter(({ index: other, source }) => other < index && source.kind === 'members' && source.lines.length > 0)
    .sort((a, b) => membersOf(plan, b.index).length - membersOf(plan, a.index).length || a.index - b.index);
  const taken: Term[] = [];
  for (const total of inner) {
    const members = membersOf(plan, total.index);
    if (!members.every((member) => own.has(member))) continue;
    for (const member of members) own.delete(member);
    taken.push({ line: total.index, sign: (line.sign * total.sign) as 1 | -1 });
  }
  for (const member of own) taken.push({ line: member, sign: (line.sign * plan.lines[member]!.sign) as 1 | -1 });
  return taken.sort((a, b) => a.line - b.line);
}

const membersOf = (plan: StatementPlan, index: number): readonly number[] => {
  const { source } = plan.lines[index]!;
  return source.kind === 'members' ? source.lines : [];
};

/** Terms of an expression that only adds and takes away lines, each once; null for any other. */
function sumTerms(plan: StatementPlan, expression: Expression, sign: 1 | -1): Term[] | null {
  if (expression.kind === 'line') {
    const line = plan.lineOfKey.get(expression.key);
    return line === undefined ? null : [{ line, sign }];
  }
  if (expression.kind === 'negate') return sumTerms(plan, expression.operand, -sign as 1 | -1);
  if (expression.kind !== 'binary' || (expression.operator !== '+' && expression.operator !== '-')) return null;
  const left = sumTerms(plan, expression.left, sign);
  const right = sumTerms(plan, expression.right, (expression.operator === '+' ? sign : -sign) as 1 | -1);
  if (!left || !right) return null;
  const both = [...left, ...right];
  return new Set(both.map(({ line }) => line)).size === both.length ? both : null;
}

/** The lines each line opens to, by the line they open from. */
function partsOf(plan: StatementPlan): readonly (readonly Term[])[] {
  const parts: Term[][] = plan.lines.map(() => []);
  for (const line of plan.lines) {
    if (line.kind !== 'account' && line.kind !== 'slice') continue;
    parts[line.parent]!.push({ line: line.index, sign: 1 });
  }
  return parts;
}
