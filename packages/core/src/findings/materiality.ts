import { type Minor, minor } from '../money/minor.ts';

/** How large a variance must be to need an explanation. A part that is null is not asked. */
export type Limit = {
  /** in minor units, without a sign */
  readonly amount: Minor | null;
  /** of the size of the base, as a fraction */
  readonly percent: number | null;
  /** whether both must be passed, or either is enough */
  readonly passes: 'both' | 'either';
  /** variances smaller than this are never material, whatever their percent: a tiny base makes any percent */
  readonly least: Minor;
};
export type SpanLimits = { readonly month: Limit; readonly yearToDate: Limit };
export type FindingSpan = keyof SpanLimits;
/** Limits of a company, and those of a view, a class of accounts or a line that stand in their place. */
export type Materiality = SpanLimits & { readonly overrides: readonly LimitOverride[] };
export type LimitOverride = SpanLimits & { readonly of: 'view' | 'class' | 'line'; readonly key: string };

/**
 * Whether a variance is material. Without an amount and a percent nothing is.
 * A base of zero has no percent, and any variance from it passes the percent limit.
 * @param variance compared less base, in minor units of any sign
 */
export function isMaterial(variance: number, base: number, { amount, percent, passes, least }: Limit): boolean {
  const size = Math.abs(variance);
  if (size === 0 || size < least || (amount === null && percent === null)) return false;
  const byAmount = amount === null ? null : size >= amount;
  const byPercent = percent === null ? null : reaches(size, percent, Math.abs(base));
  const asked = [byAmount, byPercent].filter((each) => each !== null);
  return passes === 'both' ? asked.every(Boolean) : asked.some(Boolean);
}

/** Decimals of a percent limit that count: a ten-millionth of a percent, far past what anyone enters. */
const FRACTION_UNITS = 1e9;

/** Whether a size is at least a fraction of a base, without rounding: 7 is 7% of 100, where 0.07 * 100 is a little more than 7. */
function reaches(size: number, fraction: number, base: number): boolean {
  return BigInt(size) * BigInt(FRACTION_UNITS) >= BigInt(Math.round(fraction * FRACTION_UNITS)) * BigInt(base);
}

/** The limit of a line: its own, else that of its accounts' class, else that of the view, else the company's. */
export function limitFor(
  materiality: Materiality,
  {
    span,
    view,
    line,
    accountClass,
  }: { readonly span: FindingSpan; readonly view: string; readonly line: string; readonly accountClass: string | null },
): Limit {
  const places = { line, class: accountClass, view } as const;
  for (const of of ['line', 'class', 'view'] as const) {
    const found = materiality.overrides.find((override) => override.of === of && override.key === places[of]);
    if (found) return found[span];
  }
  return materiality[span];
}

/**
 * Limits to begin with, from a year's revenue: one percent of an average month for a month, a quarter of a percent
 * of the year for the year to date, each to one leading digit; or ten percent, from a fifth of that amount on.
 * Without revenue, 1,000 units of currency.
 * @param revenue of twelve months, in minor units
 * @param unit minor units in one unit of currency
 */
export function suggestedMateriality(revenue: number, unit: number): Materiality {
  const limit = (size: number): Limit => {
    const amount = Math.max(leadingDigit(Math.abs(size) / unit), 1) * unit;
    return { amount: minor(amount), percent: 0.1, passes: 'either', least: minor(Math.round(amount / 5)) };
  };
  const or = (size: number) => (size === 0 ? 1000 * unit : size);
  return { month: limit(or(revenue / 1200)), yearToDate: limit(or(revenue / 400)), overrides: [] };
}

/** A number to its leading digit: 3,833 is 4,000. */
function leadingDigit(value: number): number {
  if (value < 1) return 0;
  const scale = 10 ** Math.floor(Math.log10(value));
  return Math.round(value / scale) * scale;
}
