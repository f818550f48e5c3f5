import type { VarianceExplanationDto } from '@wise-margin/contract';

/** So many steps are shown in any case, and so many at most. */
const STEPS = { usual: 7, most: 20 };
/** The part of all sizes that may stand together in one step. */
const OTHERS = 0.1;
type Layout = VarianceExplanationDto['layouts'][number];
export type BridgeStep = {
  /** empty for the others */
  readonly key: string;
  readonly name: string;
  readonly amount: number;
  /** where the step begins, in minor units */
  readonly from: number;
  readonly entry: number | null;
};

/**
 * The steps of a bridge, largest first as the layout has them; the smallest, which come to a tenth of all sizes at
 * most, are one step. They lead from the base to the figure compared with it.
 */
export function bridgeSteps({ parts, rest }: Pick<Layout, 'parts' | 'rest'>, base: number): BridgeStep[] {
  const count = rest.count + parts.length;
  const shown = count <= STEPS.usual + 1 ? parts : parts.slice(0, named(parts, rest.amount));
  const left = parts.slice(shown.length);
  const others = rest.amount + left.reduce((sum, { amount }) => sum + amount, 0);
  const together = count - shown.length;
  const steps = shown.map(({ key, name, amount, entry }) => ({ key, name, amount, entry }));
  if (together > 0) steps.push({ key: '', name: `${together.toLocaleString('en-US')} others`, amount: others, entry: null });
  let at = base;
  return steps.map((step) => {
    const from = at;
    at += step.amount;
    return { ...step, from };
  });
}

/** How many steps are named. */
function named(parts: Layout['parts'], rest: number): number {
  const sizes = parts.map(({ amount }) => Math.abs(amount));
  const all = sizes.reduce((sum, size) => sum + size, Math.abs(rest));
  let left = all;
  for (const [at, size] of sizes.entries()) {
    if (at >= STEPS.most || (at >= STEPS.usual && left <= OTHERS * all)) return at;
    left -= size;
  }
  return sizes.length;
}
