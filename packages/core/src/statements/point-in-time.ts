import { type Chart, isBalanceAccount } from '../chart/account.ts';
import type { BalanceMeasure } from './column-set.ts';
import { linesRead } from './expression.ts';
import type { PlannedLine } from './planned-line.ts';

/**
 * Whether a line shows balances at a moment: in every column, in columns whose measure is a balance, or
 * never, as flows over months do.
 */
export type PointInTime = 'always' | 'byColumn' | 'never';

const isMoment = (measure: BalanceMeasure): boolean => measure === 'closing' || measure === 'opening';

/** Whether a line shows balances at a moment in columns with a measure. */
export const isAtMoment = (line: PointInTime, measure: BalanceMeasure): boolean =>
  line === 'always' || (line === 'byColumn' && isMoment(measure));

/**
 * For each planned line by index, whether it shows balances at a moment. A total or a formula does where
 * everything it reads does; lines without figures count as `always`, since nothing of theirs is compared.
 */
export function pointsInTime(chart: Chart, lines: readonly PlannedLine[]): PointInTime[] {
  const byKey = new Map(lines.map(({ key, index }) => [key, index]));
  const known = new Map<number, PointInTime>();
  const of = (index: number): PointInTime => {
    const held = known.get(index);
    if (held !== undefined) return held;
    // a formula that reads itself shows no figure
    known.set(index, 'always');
    const found = find(lines[index]!);
    known.set(index, found);
    return found;
  };
  const together = (parts: readonly PointInTime[]): PointInTime =>
    parts.includes('never') ? 'never' : parts.includes('byColumn') ? 'byColumn' : 'always';
  const byMeasure = (measure: BalanceMeasure | null): PointInTime =>
    measure === null ? 'byColumn' : isMoment(measure) ? 'always' : 'never';
  const find = ({ source, measure }: PlannedLine): PointInTime => {
    switch (source.kind) {
      case 'accounts':
      case 'slice':
        return source.accounts.length > 0 && source.accounts.every((account) => isBalanceAccount(chart.accounts[account]!))
          ? byMeasure(measure)
          : source.accounts.length === 0
            ? 'always'
            : 'never';
      case 'earnings':
        return byMeasure(measure);
      case 'members':
        return together(source.lines.map(of));
      case 'expression':
        return together(linesRead(source.expression).map((key) => (byKey.has(key) ? of(byKey.get(key)!) : 'never')));
      case 'statistic':
        return 'never';
      case 'nothing':
      case 'faulty':
        return 'always';
    }
  };
  return lines.map(({ index }) => of(index));
}
