import { isIncomeAccount, signOf } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import { type Minor, minor } from '../money/minor.ts';
import { type Basis, deriveMonths } from './basis.ts';
import { type BudgetBooks, type BudgetHead, type PlacedLine, sliceKey } from './budget-books.ts';
import type { BudgetLine } from './budget-line.ts';
import { historyMonths, lineContext, sliceFilter } from './line-context.ts';
import { type ProposedMethod, proposedMethod } from './proposed-method.ts';
import { slicesByAccount, slotsOfYear } from './slices.ts';

/** Percent changes as decimal texts: one for all classes, and those of single classes instead. */
export type BudgetChanges = { readonly all: string; readonly byClass?: Partial<Readonly<Record<AccountClass, string>>> };
/** How the lines of a class begin, in words. */
export const FIRST_BASES = {
  ownHistory: 'Proposed for each account',
  sameMonths: 'Same months of the year',
  averageTwo: 'Average of two years',
  averageShape: 'Annual total, average seasonality',
  evenYear: 'Annual total, spread evenly',
  fixedAmount: 'Latest month, repeated',
  annualized: 'Latest months, annualized',
  typed: 'Manual entry',
} as const;
export type FirstBasis = keyof typeof FIRST_BASES;

/** How many years back the history that decides a method reaches. */
const YEARS_LOOKED_AT = 4;

/** The method an account's own history asks for: its whole years up to the one the budget starts from, over all slices. */
export function methodOfHistory(
  books: BudgetBooks,
  { position, fromYear, projected }: { readonly position: number; readonly fromYear: number; readonly projected: boolean },
): ProposedMethod & { readonly years: readonly number[] } {
  const whole = Array.from({ length: YEARS_LOOKED_AT }, (_, back) => fromYear - YEARS_LOOKED_AT + 1 + back).flatMap((year) => {
    const months = historyMonths(books, { position, filter: {}, year }, { projected, includeNonrecurring: false });
    return months.every((amount) => amount !== null) ? [{ year, months }] : [];
  });
  const { class: of } = books.chart.accounts[position]!;
  const years = whole.filter(({ months }) => months.some((amount) => amount !== 0));
  return {
    ...proposedMethod(
      of,
      years.map(({ months }) => months.map(Number)),
    ),
    years: years.map(({ year }) => year),
  };
}

/**
 * A year's budget for all lines at once: one line for every income account and slice with an amount in the
 * year it starts from (or the one before, for an average of two).
 * @param options.projected months of that year that are not posted yet are taken from its approved budget
 * @returns lines with ids from 1
 */
export function firstBudget(options: {
  readonly books: BudgetBooks;
  readonly head: BudgetHead & { readonly fromYear: number };
  readonly changes: BudgetChanges;
  readonly bases?: Partial<Readonly<Record<AccountClass, FirstBasis>>>;
  readonly projected: boolean;
  readonly roundTo: Minor;
}): BudgetLine[] {
  const { books, head, changes, bases = {}, projected, roundTo } = options;
  const { accounts } = books.chart;
  const lines: PlacedLine[] = [];
  const spans = [head.fromYear - 1, head.fromYear].flatMap((year) => slotsOfYear(books.calendar, year) ?? []);
  const slices = slicesByAccount(head, [...books.cube.facts, ...(books.approved.get(head.fromYear)?.cube.facts ?? [])], spans);
  accounts.forEach((account, position) => {
    if (!isIncomeAccount(account)) return;
    const of = account.class;
    const asked = bases[of] ?? 'sameMonths';
    const own =
      asked === 'ownHistory' || asked === 'averageShape' ? methodOfHistory(books, { position, fromYear: head.fromYear, projected }) : null;
    const kind = asked === 'ownHistory' ? own!.method : asked;
    const changePercent = changes.byClass?.[of] ?? changes.all;
    const years = kind === 'averageTwo' ? [head.fromYear - 1, head.fromYear] : [head.fromYear];
    for (const dimensions of slices.get(position)?.values() ?? []) {
      const empty: PlacedLine = {
        id: lines.length + 1,
        position,
        account: account.number,
        dimensions,
        slice: sliceKey(dimensions),
        basis: { kind: 'typed' },
        months: [],
      };
      const place = { position, filter: sliceFilter(head, empty) };
      const reading = { projected, includeNonrecurring: false };
      const history = years.map((year) => historyMonths(books, { ...place, year }, reading));
      if (history.flat().every((amount) => amount === null || amount === 0)) continue;
      const latest = history.at(-1)!.findLast((amount) => amount !== null) ?? minor(0);
      const posted = historyMonths(books, { ...place, year: head.fromYear }).filter((amount) => amount !== null).length;
      const basis = firstBasis(kind, {
        year: head.fromYear,
        changePercent,
        common: { ...(roundTo > 0 ? { roundTo } : {}), ...(projected ? { projected } : {}) },
        latest: minor(signOf(account) * latest),
        posted,
        shapeYears: own?.years ?? [],
      });
      lines.push({ ...empty, basis });
    }
  });
  return lines.map((line) => {
    const months = deriveMonths(line.basis, lineContext(books, head, { line, lines }), new Map());
    return { ...line, months: months.map((amount) => ({ amount, held: false })) };
  });
}

function firstBasis(
  kind: Exclude<FirstBasis, 'ownHistory'>,
  how: {
    readonly year: number;
    readonly changePercent: string;
    readonly common: Pick<Basis, 'roundTo' | 'projected'>;
    readonly latest: Minor;
    /** months of the year that have a posting */
    readonly posted: number;
    /** whole years with amounts; without any, history gives the shape */
    readonly shapeYears: readonly number[];
  },
): Basis {
  const { year, changePercent, common, latest, posted, shapeYears } = how;
  switch (kind) {
    case 'sameMonths':
      return { kind, year, changePercent, ...common };
    case 'averageTwo':
      return { kind: 'averageYears', years: [year - 1, year], changePercent, ...common };
    case 'averageShape': {
      const spread = shapeYears.length > 0 ? ({ by: 'shares', years: shapeYears } as const) : 'history';
      return { kind: 'yearTotal', year, changePercent, spread, ...common };
    }
    case 'evenYear':
      return { kind: 'yearTotal', year, changePercent, spread: 'even', ...common };
    case 'fixedAmount':
      return { kind: 'fixedMonths', steps: [{ from: 0, value: latest }] };
    case 'annualized':
      return { kind: 'latestMonths', count: Math.max(1, posted), changePercent, ...common };
    case 'typed':
      return { kind: 'typed' };
  }
}
