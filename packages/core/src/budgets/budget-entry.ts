import { type Decimal, multiplyByDecimal, parseDecimal } from '../money/decimal.ts';
import { LARGEST_MINOR, type Minor, minor } from '../money/minor.ts';

export type BudgetEntryIssue = { readonly code: 'notAnAmount' | 'tooManyDecimals' | 'divisionByZero' | 'tooLarge' };
export type BudgetEntry = { readonly ok: true; readonly value: Minor } | { readonly ok: false; readonly issue: BudgetEntryIssue };

const NUMBER = String.raw`(?:\d{1,3}(?:,\d{3})+|\d+)?(?:\.\d+)?`;
const AMOUNT = new RegExp(`^([-+]?)(${NUMBER})([km]?)$`, 'i');
// currency signs and codes as spreadsheets show them, with any kind of space beside them
const CURRENCY = /^\p{Sc}|\p{Sc}$|^[A-Z]{3}(?=[\s\d(-])|(?<=[\s\d)])[A-Z]{3}$/gu;
const DASHES = /^[-–—−]$/;
const MOST_TYPED = 100;

/** An amount without what a spreadsheet shows around it: `$1,250.00`, `(500)`, `1,250-`, `USD 12`, `–` for zero. */
function undecorated(text: string): string {
  // every space in Unicode, no-break ones among them, counts as one
  const trimmed = text.replaceAll(/[\s\u00a0\u202f]+/g, ' ').trim();
  if (DASHES.test(trimmed)) return '0';
  const bare = (value: string) => value.trim().replaceAll(CURRENCY, '').trim();
  const outer = bare(trimmed).replace(/^[−–]/, '-');
  const inside = /^\(([^()]*)\)$/.exec(outer)?.[1];
  if (inside !== undefined) return `-${bare(inside)}`;
  const signed = /^([-+])(.*)$/.exec(outer);
  if (signed) return `${signed[1]}${bare(signed[2]!)}`;
  return /^[^-+*/%]+-$/.test(outer) ? `-${bare(outer.slice(0, -1))}` : outer;
}
const CHANGE = new RegExp(`^([-+])(${NUMBER})\\s*%$`);
const SCALE = new RegExp(`^([*/])\\s*(${NUMBER})$`);
const THOUSANDS: Readonly<Record<string, number>> = { '': 0, k: 3, m: 6 };

/**
 * What a person types or pastes into a budget cell, in the shown sign: an amount (`1,250.50`, `-300`,
 * `(300)`, `$12`, `12k`, `1.2m`, `-` for zero), or a change of what stands there (`+5%`, `*1.1`, `/12`). Exact; products
 * and quotients are rounded half away from zero to the minor unit.
 * @param current the amount standing in the cell, shown sign
 * @example parseBudgetEntry('+5%', minor(10000), 2) // { ok: true, value: 10500 }
 */
export function parseBudgetEntry(text: string, current: Minor, exponent: number): BudgetEntry {
  if (text.length > MOST_TYPED) return { ok: false, issue: { code: 'notAnAmount' } };
  const plain = undecorated(text);
  const digits = (number: string): Decimal | null => (/\d/.test(number) ? parseDecimal(number.replaceAll(',', '')) : null);
  const refuse = (code: BudgetEntryIssue['code']): BudgetEntry => ({ ok: false, issue: { code } });
  const accept = (value: number): BudgetEntry => (Math.abs(value) > LARGEST_MINOR ? refuse('tooLarge') : { ok: true, value: minor(value) });

  const change = CHANGE.exec(plain);
  if (change) {
    const percent = digits(change[2]!);
    if (!percent) return refuse('notAnAmount');
    const sign = change[1] === '-' ? -1n : 1n;
    return accept(
      multiplyByDecimal(current, { digits: 100n * 10n ** BigInt(percent.scale) + sign * percent.digits, scale: percent.scale + 2 }),
    );
  }
  const scale = SCALE.exec(plain);
  if (scale) {
    const factor = digits(scale[2]!);
    if (!factor) return refuse('notAnAmount');
    if (scale[1] === '*') return accept(multiplyByDecimal(current, factor));
    if (factor.digits === 0n) return refuse('divisionByZero');
    return accept(divideRounded(BigInt(current) * 10n ** BigInt(factor.scale), factor.digits));
  }
  const amount = AMOUNT.exec(plain);
  const number = amount && digits(amount[2]!);
  if (!amount || !number) return refuse('notAnAmount');
  const power = exponent + THOUSANDS[amount[3]!.toLowerCase()]!;
  if (number.scale > power) return refuse('tooManyDecimals');
  const value = Number(number.digits * 10n ** BigInt(power - number.scale));
  return accept(amount[1] === '-' ? -value : value);
}

/** Whole quotient, half away from zero; the divisor is above zero. */
function divideRounded(dividend: bigint, divisor: bigint): number {
  const size = dividend < 0n ? -dividend : dividend;
  const rounded = Number((size * 2n + divisor) / (divisor * 2n));
  return dividend < 0n ? -rounded : rounded;
}
