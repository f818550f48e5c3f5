import { linesRead, RESERVED_NAMES } from './expression.ts';
import type { LineIssue } from './line-issue.ts';
import type { PlannedLine } from './planned-line.ts';

/** Indexes of formula lines, each after those it reads; unknown and circular references are listed. */
export function formulaOrder(lines: readonly PlannedLine[]): { readonly order: readonly number[]; readonly issues: readonly LineIssue[] } {
  const byKey = new Map(lines.map((line) => [line.key, line]));
  const issues: LineIssue[] = [];
  const order: number[] = [];
  const state = new Map<number, 'open' | 'done'>();
  const visit = (line: PlannedLine): void => {
    if (line.source.kind !== 'expression' || state.get(line.index) === 'done') return;
    state.set(line.index, 'open');
    for (const key of linesRead(line.source.expression)) {
      const read = byKey.get(key);
      if (!read) {
        if (!RESERVED_NAMES.includes(key)) issues.push({ line: line.key, code: 'unknownLine', token: key });
      } else if (state.get(read.index) === 'open') issues.push({ line: line.key, code: 'circular', token: key });
      else visit(read);
    }
    state.set(line.index, 'done');
    order.push(line.index);
  };
  lines.forEach(visit);
  return { order, issues };
}
