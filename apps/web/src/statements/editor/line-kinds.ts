import type { Line } from '@wise-margin/core';

export const LINE_KINDS: readonly (readonly [Line['kind'], string])[] = [
  ['accounts', 'Accounts as one line'],
  ['groups', 'Accounts, a line for each group'],
  ['breakOut', 'Accounts broken out'],
  ['section', 'Section with a heading'],
  ['total', 'Total of a section'],
  ['formula', 'Formula'],
  ['earnings', 'Result in equity'],
  ['statistic', 'Statistic'],
  ['spacer', 'Empty line'],
];
export type Selecting = Line & { readonly kind: 'accounts' | 'groups' | 'breakOut' };
export const isSelecting = (line: Line): line is Selecting =>
  line.kind === 'accounts' || line.kind === 'groups' || line.kind === 'breakOut';

/** A line of a kind, with what it needs to begin with; name and look stay. */
export function lineOfKind(kind: Line['kind'], before: Line, sections: readonly string[]): Line {
  const { key, name, emphasis, rule, hidden, polarity } = before;
  const common = {
    key,
    name,
    ...(emphasis ? { emphasis } : {}),
    ...(rule ? { rule } : {}),
    ...(hidden ? { hidden } : {}),
    ...(polarity ? { polarity } : {}),
  };
  const selecting = isSelecting(before) ? { selection: before.selection, sign: before.sign } : { selection: {}, sign: 'credit' as const };
  switch (kind) {
    case 'accounts':
    case 'groups':
      return { ...common, kind, ...selecting };
    case 'breakOut':
      return { ...common, kind, ...selecting, by: 'account' };
    case 'section':
      return { ...common, kind, lines: before.kind === 'section' ? before.lines : [] };
    case 'total':
      return { ...common, kind, of: sections[0] ?? '', sign: 'credit' };
    case 'formula':
      return { ...common, kind, expression: '0', result: 'amount' };
    case 'earnings':
      return { ...common, kind, years: 'current' };
    case 'statistic':
      return { ...common, kind, series: 'headcount', over: 'average' };
    case 'spacer':
      return { ...common, kind };
  }
}
