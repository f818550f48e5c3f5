import { type Minor, minor } from '../money/minor.ts';
import type { StatementGrid } from '../statements/evaluate.ts';
import type { PlannedLine } from '../statements/planned-line.ts';
import type { StatementPlan } from '../statements/statement-plan.ts';
import { factorsIn, linePartsOf } from './line-parts.ts';
import { type FindingSpan, isMaterial, limitFor, type Materiality } from './materiality.ts';

/** A variance past its limit, in the line's shown sign. */
export type MaterialVariance = {
  readonly line: number;
  readonly compared: Minor;
  readonly base: Minor;
  /** compared less base */
  readonly variance: Minor;
  /** what the findings among the lines of a subtotal do not explain; the whole variance of any other line */
  readonly unexplained: Minor;
  /** what `unexplained` does to operating income, or to what the view has in its place; negative lowers it */
  readonly effect: Minor;
};

/**
 * The lines whose variance is past its limit, the largest effect on operating income first, then the largest variance.
 * A subtotal is among them only for what its own lines leave unexplained. Ratios, blank figures and hidden lines are none.
 * @param columns of the two sides, by their index
 */
export function materialVariances(
  grid: StatementGrid,
  {
    columns,
    span,
    view,
    materiality,
  }: {
    readonly columns: { readonly compared: number; readonly base: number };
    readonly span: FindingSpan;
    readonly view: string;
    readonly materiality: Materiality;
  },
): MaterialVariance[] {
  const { plan } = grid;
  const amountAt = (line: number, column: number): number | null => {
    const cell = grid.cells[line]![column]!;
    return cell.kind === 'amount' ? cell.value : null;
  };
  const found = new Map<number, MaterialVariance>();
  const explained = new Map<number, number>();
  const effects = effectFactors(plan);
  for (const line of plan.lines) if (isCandidate(plan, line)) explainedBy(line);
  return [...found.values()].sort(
    (a, b) => Math.abs(b.effect) - Math.abs(a.effect) || Math.abs(b.unexplained) - Math.abs(a.unexplained) || a.line - b.line,
  );

  /** What the findings at or below a line explain of its variance. */
  function explainedBy(line: PlannedLine): number {
    const known = explained.get(line.index);
    if (known !== undefined) return known;
    explained.set(line.index, 0);
    const parts = linePartsOf(plan, line);
    const [compared, base] = [amountAt(line.index, columns.compared), amountAt(line.index, columns.base)];
    if (parts === null || compared === null || base === null) return 0;
    let below = 0;
    for (const [part, factor] of parts) below += factor * explainedBy(plan.lines[part]!);
    const variance = compared - base;
    const limit = limitFor(materiality, { span, view, line: line.key, accountClass: classOfLine(plan, line) });
    const unexplained = variance - below;
    // small lines that outweigh one another, or outweigh the findings, make no finding of a subtotal
    const isOwn = parts.size === 0 || (unexplained > 0 === variance > 0 && isMaterial(variance, base, limit));
    const isFinding = isCandidate(plan, line) && isOwn && isMaterial(unexplained, base, limit);
    if (isFinding)
      found.set(line.index, {
        line: line.index,
        compared: minor(compared),
        base: minor(base),
        variance: minor(variance),
        unexplained: minor(unexplained),
        effect: minor((effects.get(line.index) ?? 0) * unexplained || 0),
      });
    const all = isFinding ? variance : below;
    explained.set(line.index, all);
    return all;
  }
}

const isCandidate = (plan: StatementPlan, { kind, hidden, parent }: PlannedLine): boolean =>
  !hidden && (kind === 'total' || kind === 'formula' || (kind === 'accounts' && !isPart(plan, parent)));
/** Whether a line opens from a line of accounts, and is in it. */
const isPart = (plan: StatementPlan, parent: number): boolean => parent >= 0 && plan.lines[parent]!.kind === 'accounts';

/** How each line counts in operating income; in a view without one, by whether more of it is better. */
function effectFactors(plan: StatementPlan): ReadonlyMap<number, number> {
  const operatingIncome = plan.lineOfKey.get('operating_income');
  if (operatingIncome !== undefined) return factorsIn(plan, operatingIncome);
  const factor = { higherIsBetter: 1, lowerIsBetter: -1, neutral: 0 } as const;
  return new Map(plan.lines.map(({ index, polarity }) => [index, factor[polarity]]));
}

/** The class of a line's accounts; null where they are of several. */
function classOfLine(plan: StatementPlan, { source }: PlannedLine): string | null {
  if (source.kind !== 'accounts') return null;
  const classes = new Set(source.accounts.map((account) => plan.chart.accounts[account]!.class));
  return classes.size === 1 ? [...classes][0]! : null;
}
