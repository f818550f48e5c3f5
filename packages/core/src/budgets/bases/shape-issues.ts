import { isOfLine, type Spread } from '../spread.ts';
import type { BasisContext, BasisIssue } from './basis-context.ts';

/** What the shape of a total lacks: lines it should take the shape of that are not there, or hold nothing. Empty when it lacks nothing. */
export function shapeIssues(spread: Spread, { lines }: Pick<BasisContext, 'lines'>): readonly BasisIssue[] {
  if (!isOfLine(spread)) return [];
  const { accounts } = spread;
  return (lines(accounts) ?? []).some((amount) => amount !== 0) ? [] : [{ code: 'noShape', accounts }];
}
