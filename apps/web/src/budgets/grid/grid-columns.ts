import type { GridDto } from '@wise-margin/contract';

export type BudgetColumn = {
  /** of its cells in the grid */
  readonly position: number;
  readonly heading: string;
  readonly kind: 'month' | 'quarter' | 'year' | 'beside';
  /** months of the fiscal year (0 to 11) a figure typed here is for; none beside the year */
  readonly months: readonly number[];
};

const QUARTERS = [0, 1, 2, 3] as const;

/** The columns of the month grid in their order: quarters after their months where they are wanted, the year, and what stands beside it. */
export function budgetColumns({ columns, blocks }: GridDto, withQuarters: boolean): BudgetColumn[] {
  const inBlock = (prefix: string) =>
    columns.flatMap((column, position) => (blocks[column.block]!.key.startsWith(prefix) ? [position] : []));
  const months = inBlock('months.');
  const quarters = inBlock('quarters.');
  const ordered: BudgetColumn[] = QUARTERS.flatMap((quarter): BudgetColumn[] => {
    const own = [0, 1, 2].map((step) => quarter * 3 + step);
    const single = own.map((month): BudgetColumn => {
      const position = months[month]!;
      return { position, heading: blocks[columns[position]!.block]!.heading.slice(0, 3), kind: 'month', months: [month] };
    });
    const position = quarters[quarter];
    return withQuarters && position !== undefined
      ? [...single, { position, heading: `Q${quarter + 1}`, kind: 'quarter', months: own }]
      : single;
  });
  return [
    ...ordered,
    ...inBlock('year').map((position): BudgetColumn => {
      const isYear = columns[position]!.key === 'year.budget';
      return {
        position,
        heading: isYear ? 'Year' : columns[position]!.heading,
        kind: isYear ? 'year' : 'beside',
        months: isYear ? QUARTERS.flatMap((quarter) => [0, 1, 2].map((step) => quarter * 3 + step)) : [],
      };
    }),
  ];
}
