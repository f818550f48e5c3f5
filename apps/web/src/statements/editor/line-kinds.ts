import type { CompanyDto } from '@wise-margin/contract';
import type { Line, StatisticOver } from '@wise-margin/core';

import { formulaName, isMadeOf } from './formula-names.ts';

export const LINE_KINDS: readonly (readonly [Line['kind'], string])[] = [
  ['accounts', 'Accounts on one line'],
  ['groups', 'Accounts, one line per group'],
  ['breakOut', 'Each account'],
  ['section', 'Section'],
  ['total', 'Total of a section'],
  ['formula', 'Formula'],
  ['earnings', 'Current-year earnings'],
  ['statistic', 'Statistic'],
  ['spacer', 'Blank line'],
];
export type Selecting = Line & { readonly kind: 'accounts' | 'groups' | 'breakOut' };
export const isSelecting = (line: Line): line is Selecting =>
  line.kind === 'accounts' || line.kind === 'groups' || line.kind === 'breakOut';

/** The name a line gets until it is given one of its own; a blank line has none. */
const FITTING_NAMES: Readonly<Record<Line['kind'], string>> = {
  accounts: 'New line',
  groups: 'New line',
  breakOut: 'New line',
  section: 'New section',
  total: 'Total',
  formula: 'Formula',
  earnings: 'Current-year earnings',
  statistic: 'Statistic',
  spacer: '',
};

/** What a new line starts from: the section a total is of, and a statistic of the company. */
export type LineStart = {
  readonly section: Line | null;
  readonly statistic?: { readonly series: string; readonly over: StatisticOver };
};

/** The first statistic of a company, over months as it goes; nothing where it has none. */
export function firstStatistic({
  statistics,
  aggregations,
}: Pick<CompanyDto, 'statistics' | 'aggregations'>): Pick<LineStart, 'statistic'> {
  const [series] = statistics;
  return series === undefined ? {} : { statistic: { series, over: aggregations[series] ?? 'sum' } };
}

/** A new line of a kind. */
export function newLine(kind: Line['kind'], start: LineStart): Line {
  const name = FITTING_NAMES[kind];
  return { ...lineOfKind(kind, { kind: 'spacer', key: formulaName(name || 'blank', []), name: '' }, start), name } as Line;
}

/** A line of a kind, with what it needs to begin with; a name of its own and the look stay. */
export function lineOfKind(kind: Line['kind'], before: Line, { section, statistic }: LineStart): Line {
  const { key, emphasis, rule, hidden, polarity } = before;
  const name = before.name === FITTING_NAMES[before.kind] ? FITTING_NAMES[kind] : before.name;
  const common = {
    key,
    name,
    ...(emphasis ? { emphasis } : {}),
    ...(rule ? { rule } : {}),
    ...(hidden ? { hidden } : {}),
    ...(polarity ? { polarity } : {}),
  };
  const selecting = isSelecting(before)
    ? { selection: before.selection, ...(before.sign ? { sign: before.sign } : {}) }
    : { selection: {} };
  switch (kind) {
    case 'accounts':
    case 'groups':
      return { ...common, kind, ...selecting };
    case 'breakOut':
      return { ...common, kind, ...selecting, by: 'account' };
    case 'section':
      return { ...common, kind, lines: before.kind === 'section' ? before.lines : [] };
    case 'total':
      return { ...common, kind, of: section?.key ?? '' };
    case 'formula':
      return { ...common, kind, expression: '', result: 'amount' };
    case 'earnings':
      return { ...common, kind, years: 'current' };
    case 'statistic':
      return { ...common, kind, ...(statistic ?? { series: 'headcount', over: 'average' }) };
    case 'spacer':
      return { ...common, kind };
  }
}

/** The formula name a line has after a change of its name: one made of the old name follows the new one. */
export function keyAfter(before: Line, after: Line, inUse: readonly string[]): string {
  if (after.name === before.name || after.name === '' || !isMadeOf(before.key, before.name)) return before.key;
  return formulaName(
    after.name,
    inUse.filter((key) => key !== before.key),
  );
}
