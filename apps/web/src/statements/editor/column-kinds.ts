import { type Column, type ColumnPlace, type ColumnSet, renameColumn } from '@wise-margin/core';

import { fittingHeading, formulaName, isMadeOf } from './formula-names.ts';

export const COLUMN_KINDS: readonly (readonly [Column['kind'], string])[] = [
  ['amount', 'Amount'],
  ['difference', 'Variance between two columns'],
  ['percentDifference', 'Percentage variance'],
  ['share', 'Percent of a line'],
  ['formula', 'Formula'],
  ['runningTotal', 'Running total'],
  ['benchmark', 'Benchmark'],
];
export const MEASURES = [
  ['closing', 'Closing balance'],
  ['change', 'Net change'],
  ['opening', 'Opening balance'],
  ['average', 'Average of opening and closing'],
] as const;

/** A column of a kind, with what it needs to begin with; what it is made from is left open where there is nothing to choose. */
export function columnOfKind(kind: Column['kind'], before: Column, others: readonly (readonly [string, string])[]): Column {
  const { key, heading } = before;
  const first = others[0]?.[0] ?? '';
  const second = others[1]?.[0] ?? '';
  const common = { key, heading, ...(before.hidden ? { hidden: true } : {}) };
  const made = ((): Column => {
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
        return { ...common, kind, expression: '', result: 'amount' };
      case 'runningTotal':
        return { ...common, kind, of: first };
      case 'benchmark':
        return { ...common, kind };
    }
  })();
  return withFittingHeading(before, made);
}

/** The changed column; a heading nobody chose follows the change, as from Actual to Budget. */
export function withFittingHeading(before: Column, after: Column): Column {
  const isOwn = before.heading !== fittingHeading(before);
  return isOwn || after.heading !== before.heading ? after : { ...after, heading: fittingHeading(after) };
}

/** A column set in which the formula name of a column follows its heading where it was made of it; references go along. */
export function withFollowingName(
  set: ColumnSet,
  place: ColumnPlace,
  { before, after }: { readonly before: Column; readonly after: Column },
): { readonly set: ColumnSet; readonly column: string } {
  if (after.heading === before.heading || after.heading.trim() === '' || !isMadeOf(place.column, before.heading))
    return { set, column: place.column };
  const inUse = set.blocks.find(({ key }) => key === place.block)?.columns.flatMap(({ key }) => (key === place.column ? [] : [key])) ?? [];
  const key = formulaName(after.heading, inUse);
  return { set: renameColumn(set, place, key), column: key };
}
