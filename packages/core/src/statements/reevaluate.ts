import type { Cell } from './cell.ts';
import { fillCells, shareBase, type StatementGrid } from './evaluate.ts';
import { linesRead } from './expression.ts';
import type { StatementPlan } from './statement-plan.ts';

/**
 * The grid after amounts of some accounts changed in its sources: what depends on them is computed again,
 * every other row is the same as before, by identity.
 * @param accounts chart positions; empty gives the grid itself
 */
export function reevaluate(grid: StatementGrid, accounts: ReadonlySet<number>): StatementGrid {
  if (accounts.size === 0) return grid;
  const { plan } = grid;
  const affected = linesAffected(plan, accounts);
  const shared = shareAffected(plan, affected);
  const cells = grid.cells.map((row, index): Cell[] => (affected[index] || shared[index] ? [...row] : (row as Cell[])));
  fillCells(grid, cells, {
    lines: plan.lines.filter(({ index }) => affected[index]),
    derived: plan.lines.filter(({ index }) => affected[index] || shared[index]),
  });
  return { ...grid, cells };
}

/** Which lines show shares of a line that is affected, by index. */
function shareAffected(plan: StatementPlan, affected: readonly boolean[]): boolean[] {
  const shares = plan.columns.flatMap((column) => (column.kind === 'share' ? [column] : []));
  return plan.lines.map(
    (line) =>
      line.source.kind !== 'nothing' &&
      shares.some((column) => {
        const base = shareBase(plan, line, column);
        return base >= 0 && affected[base]!;
      }),
  );
}

/** Which lines hold accounts of a set, or add or read such lines, by index. */
function linesAffected(plan: StatementPlan, accounts: ReadonlySet<number>): boolean[] {
  const affected = new Array<boolean | undefined>(plan.lines.length);
  const holds = (held: readonly number[]): boolean => held.some((account) => accounts.has(account));
  const isAffected = (index: number): boolean => {
    const known = affected[index];
    if (known !== undefined) return known;
    // a line that reads itself shows no figure whatever changes
    affected[index] = false;
    return (affected[index] = depends(index));
  };
  const depends = (index: number): boolean => {
    const { source } = plan.lines[index]!;
    switch (source.kind) {
      case 'accounts':
      case 'slice':
        return holds(source.accounts);
      case 'members':
        return source.lines.some(isAffected);
      case 'earnings':
        return holds(plan.income);
      case 'expression':
        return linesRead(source.expression).some((key) => {
          const read = plan.lineOfKey.get(key);
          return read !== undefined && isAffected(read);
        });
      case 'nothing':
      case 'statistic':
      case 'faulty':
        return false;
    }
  };
  return plan.lines.map(({ index }) => isAffected(index));
}
