import { FIRST_BASES, type ProposedMethod } from '@wise-margin/core';

/** Why a method is proposed, in words and number: `92% of its monthly variation repeats each year (FY2024 to FY2026)`. */
export function methodWords({ because, repeats }: ProposedMethod, years: readonly number[]): string {
  switch (because) {
    case 'depreciation':
      return 'Depreciation stays at its latest month until the assets change';
    case 'fewYears':
      return 'Fewer than two full years with amounts';
    case 'noVariation':
      return `The same amount every month (${span(years)})`;
    case 'variation':
      return `${Math.round((repeats ?? 0) * 100)}% of its monthly variation repeats each year (${span(years)})`;
  }
}

const span = (years: readonly number[]): string => `FY${Math.min(...years)} to FY${Math.max(...years)}`;

/** The name of a proposed method, as the choice of it reads. */
export const methodName = ({ method }: ProposedMethod): string => FIRST_BASES[method];
