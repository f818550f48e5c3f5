import type { Column } from '@wise-margin/core';

export const COLUMN_KINDS: readonly (readonly [Column['kind'], string])[] = [
  ['amount', 'Amount'],
  ['difference', 'Difference of two columns'],
  ['percentDifference', 'Percent difference of two columns'],
  ['share', 'Share of a line'],
  ['formula', 'Formula over columns'],
  ['runningTotal', 'Running total'],
  ['benchmark', 'Benchmark of the line'],
];
export const MEASURES = [
  ['closing', 'Closing balance'],
  ['change', 'Net change'],
  ['opening', 'Opening balance'],
  ['average', 'Average of opening and closing'],
] as const;
/** A column of a kind, with what it needs to begin with. */
export function columnOfKind(kind: Column['kind'], before: Column, others: readonly (readonly [string, string])[]): Column {
  const { key, heading } = before;
  const first = others[0]?.[0] ?? 'actual';
  const second = others[1]?.[0] ?? first;
  const common = { key, heading, ...(before.hidden ? { hidden: true } : {}) };
  switch (kind) {
    case 'amount':
      return { ...common, kind, scenario: 'actual', span: { kind: 'month' } };
    case 'difference':
    case 'percentDifference': {
      const from = before.kind === 'difference' || before.kind === 'percentDifference' ? before : { compared: first, base: second };
      return { ...common, kind, compared: from.compared, base: from.base };
    }
    case 'share':
      return { ...common, kind, of: first };
    case 'formula':
      return { ...common, kind, expression: `${first} - ${second}`, result: 'amount' };
    case 'runningTotal':
      return { ...common, kind, of: first };
    case 'benchmark':
      return { ...common, kind };
  }
}
