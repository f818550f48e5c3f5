import type { Block, Column } from './column-set.ts';
import type { Line, LineSet } from './line-set.ts';

/** A column made ready for a block: what it is called where it is chosen, and its definition. */
export type ReadyColumn = {
  readonly words: string;
  readonly column: Column;
  /** the column reads the total of the block's repeat, which is added with it */
  readonly needsTotal?: true;
};

/** Total lines of a line set with their names, in order. */
function totalsOf(lines: readonly Line[]): { readonly key: string; readonly name: string }[] {
  return lines.flatMap((line) => {
    if (line.kind === 'section') return totalsOf(line.lines);
    if (line.kind === 'total') return [{ key: line.key, name: line.name }];
    return line.kind === 'formula' && line.result === 'amount' ? [{ key: line.key, name: line.name }] : [];
  });
}

/**
 * The columns an analyst adds most, made from the amounts a block has: variances to budget and to the prior year, percent of budget reached, percents of the
 * line's group and of each total, and in a repeat percents of the row's total and of the grand total, which is the
 * percent base of the lines in the total of the repeat. None for a block without amounts.
 */
export function readyColumns(block: Block, lineSet: LineSet): ReadyColumn[] {
  const amounts = block.columns.filter((column) => column.kind === 'amount');
  const [first] = amounts;
  if (!first) return [];
  const actual = amounts.find(
    ({ scenario, span }) => (scenario === 'actual' && (span.shift?.years ?? 0) >= 0) || scenario === 'projection',
  );
  const budget = amounts.find(({ scenario }) => scenario.startsWith('budget'));
  const inTotal = `${block.key}.total.${(actual ?? first).key}`;
  const share = (words: string, heading: string, how: Partial<Column & { kind: 'share' }>): ReadyColumn => ({
    words,
    column: { kind: 'share', key: 'share', heading, of: (actual ?? first).key, ...how },
  });
  const prior = amounts.find((each) => each.scenario === 'actual' && (each.span.shift?.years ?? 0) < 0);
  const variances = (base: Column | undefined, to: string): ReadyColumn[] =>
    actual && base && base !== actual
      ? [
          {
            words: `Variance to ${to}`,
            column: { kind: 'difference', key: 'variance', heading: 'Variance', compared: actual.key, base: base.key },
          },
          {
            words: `Percentage variance to ${to}`,
            column: { kind: 'percentDifference', key: 'percent', heading: '%', compared: actual.key, base: base.key },
          },
        ]
      : [];
  return [
    ...variances(budget, 'budget'),
    ...variances(prior, 'prior year'),
    ...(actual && budget
      ? [
          {
            words: 'Percent of budget reached',
            column: {
              kind: 'formula' as const,
              key: 'budget_reached',
              heading: '% of budget',
              expression: `${actual.key} / ${budget.key}`,
              result: 'percent' as const,
            },
          },
        ]
      : []),
    ...(block.repeat
      ? [
          {
            ...share('Percent of the row’s total', '% of row', { key: 'of_row', ownLine: true, baseColumn: inTotal }),
            needsTotal: true as const,
          },
          ...(lineSet.percentBase === undefined
            ? []
            : [
                {
                  ...share('Percent of the grand total', '% of grand total', { key: 'of_all', baseColumn: inTotal }),
                  needsTotal: true as const,
                },
              ]),
        ]
      : []),
    share('Percent of the line’s group', '% of group', { ownGroup: true }),
    ...totalsOf(lineSet.lines).map(({ key, name }) =>
      share(`Percent of ${name.toLowerCase()}`, `% of ${name.toLowerCase()}`, { baseLine: key }),
    ),
  ];
}
