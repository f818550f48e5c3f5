import type { Minor } from '../../money/minor.ts';
import { minor } from '../../money/minor.ts';
import { type Spread, spreadTotal, spreadWords } from '../spread.ts';
import { type BasisDefinition, MONTHS, NOTHING, wholeMonths } from './basis-context.ts';
import { shapeIssues } from './shape-issues.ts';

/** A year's total, debit positive, in a shape over the months. */
export type TypedTotal = { readonly kind: 'typedTotal'; readonly total: Minor; readonly spread: Spread };
/** Nothing but what is typed by month: zero-based. */
export type Typed = { readonly kind: 'typed' };

export const typedTotal: BasisDefinition<TypedTotal> = {
  derive: ({ total, spread }, context) => ({
    months: wholeMonths(spreadTotal(minor(total), spread, { months: MONTHS, context })),
    issues: shapeIssues(spread, context),
  }),
  words: ({ total, spread }, { amount }) => `Annual total of ${amount(total)}, spread ${spreadWords(spread)}`,
};
export const typed: BasisDefinition<Typed> = {
  derive: () => ({ months: NOTHING, issues: [] }),
  words: () => 'Manual entry',
};
