import type { BudgetDto, CompanyDto } from '@wise-margin/contract';

type Compared = Pick<BudgetDto, 'id' | 'name' | 'year' | 'state' | 'copiedFrom'>;

/**
 * What a budget can be compared with, the likeliest first: the version it was copied from, another version of its
 * year, the projection of the year before, then all other budgets. Columns without an amount are not offered.
 */
export function comparisonChoices(
  { lastActual, periods }: Pick<CompanyDto, 'lastActual' | 'periods'>,
  own: Compared,
  others: readonly Compared[],
): (readonly [value: string, words: string])[] {
  const hasActuals = (year: number) => periods.some((period) => period.year === year && lastActual !== null && period.key <= lastActual);
  const hasApproved = (year: number) => others.some((budget) => budget.year === year && budget.state === 'approved');
  const rank = ({ id, year, state }: Compared): number =>
    id === own.copiedFrom ? 0 : year === own.year ? (state === 'approved' ? 1 : 2) : 4;
  const versions = others.map((budget) => ({
    rank: rank(budget),
    option: [String(budget.id), `${budget.name}, FY${budget.year}`] as const,
  }));
  const before = own.year - 1;
  const scenarios = [
    ...(hasActuals(before) ? [{ rank: 3, option: ['priorYear', `Projection, FY${before}`] as const }] : []),
    ...(hasActuals(own.year) ? [{ rank: 5, option: ['actual', `Actual, FY${own.year}`] as const }] : []),
    ...(hasActuals(own.year) || hasApproved(own.year) ? [{ rank: 5, option: ['projection', `Projection, FY${own.year}`] as const }] : []),
  ];
  return [...versions, ...scenarios].sort((a, b) => a.rank - b.rank).map(({ option }) => option);
}
