import { multiplyByDecimal } from '../money/decimal.ts';
import { type Fraction, NO_FRACTION, roundFraction } from '../money/fraction.ts';
import { type Minor, minor } from '../money/minor.ts';
import { roundToStep } from '../money/round.ts';
import {
  type BasisContext,
  type BasisDefinition,
  type BasisIssue,
  type HistoryMonths,
  type HistoryReading,
  MONTHS,
} from './bases/basis-context.ts';
import {
  type DriverRate,
  driverRate,
  type FixedMonths,
  fixedMonths,
  type Payroll,
  payroll,
  type PercentOf,
  percentOf,
} from './bases/from-drivers.ts';
import {
  type AverageYears,
  averageYears,
  type LatestMonths,
  latestMonths,
  type SameMonths,
  sameMonths,
  type Trend,
  trend,
  type YearTotal,
  yearTotal,
} from './bases/from-history.ts';
import { changeFactor } from './bases/percent.ts';
import { type Typed, typed, type TypedTotal, typedTotal } from './bases/typed.ts';
import { roundTogether } from './round-together.ts';
import { spreadTotal } from './spread.ts';

/** What every basis may add: nothing before a month, rounding, and limits a month, the limits in the shown sign. */
export type BasisLimits = {
  /** 0 to 11; months before it hold nothing */
  readonly fromMonth?: number;
  /** minor units; 0 or absent leaves amounts unrounded */
  readonly roundTo?: Minor;
  readonly least?: Minor;
  readonly most?: Minor;
  /** months of history that are not posted yet are taken from the approved budget of their year */
  readonly projected?: true;
  /** amounts marked as not recurring stay in the history it draws on */
  readonly includeNonrecurring?: true;
};
type Method =
  | SameMonths
  | YearTotal
  | AverageYears
  | LatestMonths
  | Trend
  | DriverRate
  | FixedMonths
  | PercentOf
  | Payroll
  | TypedTotal
  | Typed;
/** How a line's year is derived. Percentages and rates are decimal texts, so that they are taken exactly. */
export type Basis = Method & BasisLimits;
export type BasisKind = Method['kind'];

/** The ways to derive a year, in the order they are offered. */
export const BASES: { readonly [Kind in BasisKind]: BasisDefinition<Method & { readonly kind: Kind }> } = {
  sameMonths,
  yearTotal,
  averageYears,
  latestMonths,
  trend,
  percentOf,
  driverRate,
  fixedMonths,
  payroll,
  typedTotal,
  typed,
};
export const BASIS_KINDS = Object.keys(BASES) as readonly BasisKind[];
const definitionOf = (basis: Basis): BasisDefinition<Basis> => BASES[basis.kind] as BasisDefinition<Basis>;

/**
 * Applies a percent change and rounds to a step, half away from zero, exactly.
 * @param changePercent decimal text: '3' raises by 3%
 * @param roundTo minor units; 0 leaves the amount unrounded
 * @throws RangeError when the percentage is no decimal number
 * @example changed(minor(10000), '3', minor(0)) // 10300
 */
export function changed(amount: Minor, changePercent: string, roundTo: Minor): Minor {
  const factor = changeFactor(changePercent);
  if (!factor) throw new RangeError(`"${changePercent}" is not a decimal number`);
  return minor(roundToStep(multiplyByDecimal(amount, factor), roundTo));
}

/** The months of a year as a basis gives them, its issues, and the nonrecurring items excluded from its history. Debit positive. */
export type DerivedYear = { readonly months: Minor[]; readonly issues: readonly BasisIssue[]; readonly excluded: Minor };

/** The context with history read as the basis wants it, and the nonrecurring items excluded so far. */
function readAs(basis: Basis, context: BasisContext): { readonly context: BasisContext; readonly excluded: () => Minor } {
  const reading: HistoryReading = { projected: basis.projected ?? false, includeNonrecurring: basis.includeNonrecurring ?? false };
  const sum = (months: HistoryMonths): number => months.reduce<number>((total, amount) => total + (amount ?? 0), 0);
  const excluded = new Map<string, number>();
  const read = <Months extends HistoryMonths>(key: string, months: (how: HistoryReading) => Months): Months => {
    const taken = months(reading);
    if (!reading.includeNonrecurring) excluded.set(key, sum(months({ ...reading, includeNonrecurring: true })) - sum(taken));
    return taken;
  };
  return {
    // beneath it the whole context, of which nothing is read that is not asked for
    context: Object.assign(Object.create(context) as BasisContext, {
      year: (year: number) => read(`FY${year}`, (how) => context.year(year, how)),
      latest: (count: number) => read(`latest ${count}`, (how) => context.latest(count, how)),
    }),
    excluded: () => minor([...excluded.values()].reduce((total, amount) => total + amount, 0)),
  };
}

/**
 * The twelve months a basis gives by itself, debit positive, with what it lacks. A total typed keeps its
 * total. A basis that rounds, or is shared, adds up to the account's rounded year, over all lines of the account with
 * the same basis; one with limits is rounded and limited by month. Nonrecurring items are excluded from the
 * history unless the basis keeps them.
 */
export function deriveYear(basis: Basis, from: BasisContext): DerivedYear {
  const { context, excluded } = readAs(basis, from);
  const { months, issues } = definitionOf(basis).derive(basis, context);
  if (basis.kind === 'typedTotal') return { months: months.map((amount) => roundFraction(amount)), issues, excluded: minor(0) };
  const { roundTo = 0, least, most } = basis;
  const begun = fromItsMonth(basis, months);
  const isJoint = roundTo > 1 || (basis.kind === 'percentOf' && basis.shared !== undefined);
  const rounded = isJoint && least === undefined && most === undefined ? roundedWithOthers(basis, begun, from) : null;
  const limited =
    rounded ??
    begun.map((amount, month) => {
      if (month < (basis.fromMonth ?? 0)) return minor(0);
      const shown = context.sign * roundFraction(amount, Math.max(1, roundTo));
      return minor(context.sign * Math.min(Math.max(shown, least ?? -Infinity), most ?? Infinity));
    });
  return { months: limited, issues, excluded: excluded() };
}

const fromItsMonth = ({ fromMonth = 0 }: Basis, months: readonly Fraction[]): Fraction[] =>
  months.map((amount, month) => (month < fromMonth ? NO_FRACTION : amount));

/** A line's months rounded together with those of the account's lines that have the same basis. */
function roundedWithOthers(basis: Basis, months: readonly Fraction[], from: BasisContext): Minor[] {
  const { contexts, own } = from.alike?.(basis) ?? { contexts: [from], own: 0 };
  const lines = contexts.map((each, index) => {
    if (index === own) return months;
    const { context } = readAs(basis, each);
    return fromItsMonth(basis, definitionOf(basis).derive(basis, context).months);
  });
  return roundTogether(lines, Math.max(1, basis.roundTo ?? 1))[own]!;
}

/**
 * The twelve months of a line under its basis, debit positive. A total typed is shared over the months that
 * are not held, after what the held ones take.
 * @param held amounts of held months by position, which stay as they are
 * @returns twelve amounts; at a held position, the held amount
 */
export function deriveMonths(basis: Basis, context: BasisContext, held: ReadonlyMap<number, Minor>): Minor[] {
  if (basis.kind !== 'typedTotal') {
    const { months } = deriveYear(basis, context);
    return MONTHS.map((month) => held.get(month) ?? months[month]!);
  }
  const free = MONTHS.filter((month) => !held.has(month));
  const taken = [...held.values()].reduce<number>((sum, amount) => sum + amount, 0);
  const given = free.length === 0 ? [] : spreadTotal(minor(basis.total - taken), basis.spread, { months: free, context });
  return MONTHS.map((month) => held.get(month) ?? given[free.indexOf(month)]!);
}

/**
 * A basis as the sentence that is shown: `Same months of FY2026, plus 3%, rounded to 100`.
 * @param format an amount as it is written
 * @param how.month a month of the fiscal year (0 to 11) as it is called
 * @param how.excluded nonrecurring items excluded from its history, in the shown sign; zero says nothing
 */
export function basisWords(
  basis: Basis,
  format: (amount: Minor) => string,
  {
    month = (index) => `month ${index + 1}`,
    excluded = minor(0),
  }: { readonly month?: ((month: number) => string) | undefined; readonly excluded?: Minor } = {},
): string {
  const { fromMonth, roundTo, least, most, projected, includeNonrecurring } = basis;
  return [
    definitionOf(basis).words(basis, { amount: format, month }),
    projected ? 'remaining months from the approved budget' : '',
    includeNonrecurring ? 'nonrecurring items included' : '',
    fromMonth ? `from ${month(fromMonth)} on` : '',
    roundTo !== undefined && roundTo > 1 ? `rounded to ${format(roundTo)}` : '',
    least === undefined ? '' : `minimum ${format(least)} a month`,
    most === undefined ? '' : `maximum ${format(most)} a month`,
    excluded === 0 ? '' : `${format(excluded)} of nonrecurring items excluded`,
  ]
    .filter((text) => text !== '')
    .join(', ');
}
