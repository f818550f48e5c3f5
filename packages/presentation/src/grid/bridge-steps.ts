import type { VarianceExplanationDto } from '@wise-margin/contract';

/** More steps than this are shown together as one. */
const MOST_STEPS = 8;
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
 * The steps of a bridge, largest first as the layout has them; what is past the most that are shown is one step. They
 * lead from the base to the figure compared with it.
 */
export function bridgeSteps({ parts, rest }: Pick<Layout, 'parts' | 'rest'>, base: number): BridgeStep[] {
  const shown = parts.length + Math.min(rest.count, 1) <= MOST_STEPS ? parts : parts.slice(0, MOST_STEPS - 1);
  const left = parts.slice(shown.length);
  const others = rest.amount + left.reduce((sum, { amount }) => sum + amount, 0);
  const count = rest.count + left.length;
  const steps = shown.map(({ key, name, amount, entry }) => ({ key, name, amount, entry }));
  if (count > 0) steps.push({ key: '', name: `${count.toLocaleString('en-US')} others`, amount: others, entry: null });
  let at = base;
  return steps.map((step) => {
    const from = at;
    at += step.amount;
    return { ...step, from };
  });
}
