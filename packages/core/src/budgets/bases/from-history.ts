import {
  addFractions,
  type Fraction,
  fraction,
  fractionOf,
  multiplyFractions,
  NO_FRACTION,
  roundFraction,
  sumFractions,
} from '../../money/fraction.ts';
import { type Minor, minor } from '../../money/minor.ts';
import { exactLine } from '../../trend/exact-line.ts';
import { exactAverageOfShares } from '../../trend/exact-shares.ts';
import { type Spread, spreadTotal, spreadWords } from '../spread.ts';
import { type BasisDefinition, type BasisIssue, type HistoryMonths, MONTHS, NOTHING, wholeMonths } from './basis-context.ts';
import { changeFactor, changeWords } from './percent.ts';
import { shapeIssues } from './shape-issues.ts';

/** A year's months, each changed by a percentage and then by an amount in the shown sign. */
export type SameMonths = {
  readonly kind: 'sameMonths';
  readonly year: number;
  readonly changePercent: string;
  readonly changeAmount?: Minor;
};
/** A year's total in a shape over the months. */
export type YearTotal = { readonly kind: 'yearTotal'; readonly year: number; readonly changePercent: string; readonly spread: Spread };
export type AverageYears = { readonly kind: 'averageYears'; readonly years: readonly number[]; readonly changePercent: string };
export type LatestMonths = { readonly kind: 'latestMonths'; readonly count: number; readonly changePercent: string };
/** A straight line through months or through years' totals, with the shape of an average year or without. */
export type Trend = {
  readonly kind: 'trend';
  readonly of: 'months' | 'years';
  readonly years: readonly number[];
  readonly seasonal: boolean;
};

const yearsWords = (years: readonly number[]): string =>
  years.length === 1 ? `FY${years[0]}` : `FY${Math.min(...years)} to FY${Math.max(...years)}`;
const numbers = (months: HistoryMonths): number[] => months.flatMap((amount) => amount ?? []);

/** A year's months, with what is missing; missing months count as zero. */
function heldYear(months: HistoryMonths, year: number): { readonly months: readonly Fraction[]; readonly issues: readonly BasisIssue[] } {
  const held = numbers(months).length;
  if (held === 0) return { months: NOTHING, issues: [{ code: 'noHistory', years: [year] }] };
  return {
    months: wholeMonths(months.map((amount) => amount ?? 0)),
    issues: held < 12 ? [{ code: 'partOfYear', year, months: held }] : [],
  };
}

function changedBy(months: readonly Fraction[], percent: string, issues: readonly BasisIssue[]) {
  const factor = changeFactor(percent);
  if (!factor) return { months: NOTHING, issues: [...issues, { code: 'notANumber', field: 'changePercent', text: percent } as const] };
  return { months: months.map((amount) => multiplyFractions(amount, fractionOf(factor))), issues };
}

export const sameMonths: BasisDefinition<SameMonths> = {
  derive: ({ year, changePercent, changeAmount = 0 }, context) => {
    const { months, issues } = heldYear(context.year(year), year);
    const given = changedBy(months, changePercent, issues);
    const more = fraction(context.sign * changeAmount);
    return { ...given, months: given.months.map((amount) => addFractions(amount, more)) };
  },
  words: ({ year, changePercent, changeAmount = minor(0) }, { amount }) => {
    const percent = changeWords(changePercent);
    if (changeAmount === 0) return `Same months of FY${year}, ${percent}`;
    const byAmount = `${changeAmount < 0 ? 'minus' : 'plus'} ${amount(minor(Math.abs(changeAmount)))} a month`;
    return `Same months of FY${year}, ${percent === 'unchanged' ? '' : `${percent} and `}${byAmount}`;
  },
};

export const yearTotal: BasisDefinition<YearTotal> = {
  derive: ({ year, changePercent, spread }, context) => {
    const { months, issues } = heldYear(context.year(year), year);
    const given = changedBy([sumFractions(months)], changePercent, issues);
    // the shape of history is that of the year itself
    const history = context.year(year).map((amount) => amount ?? 0);
    const shaped = Object.create(context, { history: { value: history } }) as typeof context;
    const spreadMonths = spreadTotal(roundFraction(given.months[0]!), spread, { months: MONTHS, context: shaped });
    return { months: wholeMonths(spreadMonths), issues: [...given.issues, ...shapeIssues(spread, context)] };
  },
  words: ({ year, changePercent, spread }) => `Total of FY${year}, ${changeWords(changePercent)}, spread ${spreadWords(spread)}`,
};

/** Each month is the mean of that month over the years that have it. */
export const averageYears: BasisDefinition<AverageYears> = {
  derive: ({ years, changePercent }, context) => {
    const held = years.map((year) => ({ year, months: context.year(year) }));
    const without = held.filter(({ months }) => numbers(months).length === 0).map(({ year }) => year);
    const means = MONTHS.map((month) => {
      const amounts = held.flatMap(({ months }) => months[month] ?? []);
      return amounts.length === 0
        ? NO_FRACTION
        : fraction(
            amounts.reduce((sum, amount) => sum + BigInt(amount), 0n),
            amounts.length,
          );
    });
    return changedBy(means, changePercent, without.length > 0 ? [{ code: 'noHistory', years: without }] : []);
  },
  words: ({ years, changePercent }) => `Average of the same months of ${yearsWords(years)}, ${changeWords(changePercent)}`,
};

/** The latest months annualized, a twelfth of it each month. */
export const latestMonths: BasisDefinition<LatestMonths> = {
  derive: ({ count, changePercent }, context) => {
    const latest = context.latest(count);
    if (latest.length === 0) return { months: NOTHING, issues: [{ code: 'tooFewMonths', held: 0 }] };
    const mean = fraction(
      latest.reduce((sum, amount) => sum + BigInt(amount), 0n),
      latest.length,
    );
    const issues: BasisIssue[] = latest.length < count ? [{ code: 'tooFewMonths', held: latest.length }] : [];
    return changedBy(
      MONTHS.map(() => mean),
      changePercent,
      issues,
    );
  },
  words: ({ count, changePercent }) => `Latest ${count} months, annualized, ${changeWords(changePercent)}`,
};

/**
 * The next year on the straight line through the months, or through the years' totals. With a season the
 * year's total takes the average shares of the years; without one a trend of years is a twelfth each month.
 */
export const trend: BasisDefinition<Trend> = {
  derive: ({ of, years, seasonal }, context) => {
    const sorted = [...years].sort((a, b) => a - b);
    const held = sorted.map((year) => context.year(year));
    const whole = held.filter((months) => numbers(months).length === 12).map((months) => months as readonly Minor[]);
    const line =
      of === 'months'
        ? exactLine(held.flat())
        : exactLine(
            held.map((months) => (numbers(months).length === 12 ? numbers(months).reduce((sum, amount) => sum + amount, 0) : null)),
          );
    if (!line) {
      const wholeYears = sorted.filter((_, index) => numbers(held[index]!).length === 12);
      return {
        months: NOTHING,
        issues: of === 'years' ? [{ code: 'fewWholeYears', whole: wholeYears }] : [{ code: 'noHistory', years: sorted }],
      };
    }
    const next = MONTHS.map((month): Fraction =>
      of === 'months' ? line(held.length * 12 + month) : multiplyFractions(line(held.length), fraction(1, 12)),
    );
    const shares = seasonal ? exactAverageOfShares(whole) : null;
    const total = sumFractions(next);
    return { months: shares ? shares.map((share) => multiplyFractions(share, total)) : next, issues: [] };
  },
  words: ({ of, years, seasonal }) => `Linear trend of the ${of} of ${yearsWords(years)}${seasonal ? ', with average seasonality' : ''}`,
};
