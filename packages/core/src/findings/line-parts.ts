import { linearFactors } from '../statements/figure-groups.ts';
import type { PlannedLine } from '../statements/planned-line.ts';
import type { StatementPlan } from '../statements/statement-plan.ts';

/** The lines that another one adds up, by index, each with how often: -1 is subtracted. */
export type LineParts = ReadonlyMap<number, number>;

/** The lines a subtotal is made of, one step down; empty for a line of accounts; null for what is no sum of lines, such as a ratio. */
export function linePartsOf({ lines, lineOfKey }: StatementPlan, { source, sign }: PlannedLine): LineParts | null {
  switch (source.kind) {
    case 'members':
      return new Map(source.lines.map((index) => [index, sign * lines[index]!.sign]));
    case 'expression': {
      const factors = linearFactors(source.expression);
      return factors && new Map([...factors].flatMap(([key, factor]) => (lineOfKey.has(key) ? [[lineOfKey.get(key)!, factor]] : [])));
    }
    case 'accounts':
    case 'slice':
      return new Map();
    default:
      return null;
  }
}

/** How often each line below a subtotal counts in it, through every step down; the subtotal itself once. */
export function factorsIn(plan: StatementPlan, top: number): ReadonlyMap<number, number> {
  const factors = new Map<number, number>();
  const add = (index: number, factor: number): void => {
    factors.set(index, (factors.get(index) ?? 0) + factor);
    for (const [part, own] of linePartsOf(plan, plan.lines[index]!) ?? []) add(part, factor * own);
  };
  add(top, 1);
  return factors;
}
