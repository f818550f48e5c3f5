import { type FiscalCalendar, type PeriodIndex, periodOfKey } from '../calendar/fiscal-calendar.ts';
import { monthNumber } from '../calendar/month-names.ts';

/** What a typed search can mean, all at once: `6110` is an amount, and may as well be an account. */
export type SearchText = {
  /** as typed, without spaces at its ends */
  readonly text: string;
  /** in small letters; each has a letter or a figure */
  readonly words: readonly string[];
  readonly amount: AmountRange | null;
  readonly month: PeriodIndex | null;
};
/** Amounts without their sign, in minor units, both ends included; `most` is Infinity without an upper end. */
export type AmountRange = { readonly least: number; readonly most: number };

const UNITS: Readonly<Record<string, number>> = { '': 1, k: 1e3, m: 1e6, b: 1e9 };
const LARGEST = Number.MAX_SAFE_INTEGER;

/**
 * Reads what a person typed into the search.
 * @param of.exponent decimals of the currency
 * @param of.last the month a name without a year is looked back from, such as the last posted one; null without postings
 * `>50k` in dollars is from 5,000,001 cents on.
 */
export function readSearch(
  typed: string,
  of: { readonly calendar: FiscalCalendar; readonly exponent: number; readonly last: PeriodIndex | null },
): SearchText {
  const text = typed.trim();
  const parts = text.toLowerCase().split(/\s+/).filter(Boolean);
  return {
    text,
    words: parts.filter((part) => /[\p{L}\p{N}]/u.test(part)),
    amount: readAmountRange(parts.join(' '), of.exponent),
    month: readMonth(parts, of),
  };
}

/** `9466` and `(9,466)` stand for what a statement in dollars shows as 9,466; `9,466.00` for that amount alone; `>50k`, `<1.2m`, `50k to 60k`. */
function readAmountRange(text: string, exponent: number): AmountRange | null {
  const sign = text.slice(0, 2).match(/^[<>]=?/)?.[0] ?? '';
  if (sign !== '') {
    const bound = readAmount(text.slice(sign.length), exponent);
    if (bound === null) return null;
    const whole = sign.endsWith('=') ? 0 : 1;
    return sign.startsWith('>') ? { least: bound.value + whole, most: Infinity } : { least: 0, most: bound.value - whole };
  }
  const ends = text.split(/ to |\.\./);
  const [from, to] = ends.map((end) => readAmount(end, exponent));
  if (from === null || from === undefined || ends.length > 2) return null;
  if (to === null) return null;
  if (to !== undefined) return { least: Math.min(from.value, to.value), most: Math.max(from.value, to.value) };
  const half = Math.floor(from.step / 2);
  return { least: Math.max(from.value - half, 0), most: from.value + Math.max(half - 1, 0) };
}

/** An amount in minor units, and the step between it and the next one written with as many digits. */
function readAmount(text: string, exponent: number): { readonly value: number; readonly step: number } | null {
  const bare = text
    .trim()
    .replace(/^\((.*)\)$/, '$1')
    .replace(/^[-−]/, '')
    .replace(/^[$€£]/, '');
  const parts = /^(\d{1,15}|\d{1,3}(?:,\d{3}){1,4})(?:\.(\d{1,4}))?([kmb]?)$/.exec(bare);
  if (!parts) return null;
  const [, whole = '', decimals = '', unit = ''] = parts;
  const step = (UNITS[unit]! * 10 ** exponent) / 10 ** decimals.length;
  const value = Math.round(Number(`${whole.replaceAll(',', '')}.${decimals || '0'}`) * UNITS[unit]! * 10 ** exponent);
  return value > LARGEST ? null : { value, step: Math.max(Math.round(step), 1) };
}

/** `oct 2025`, `October 25`, `2025-10`, `10/2025`; `oct` alone is the latest October up to the last month. Null when the calendar has no such month. */
function readMonth(
  words: readonly string[],
  { calendar, last }: { readonly calendar: FiscalCalendar; readonly last: PeriodIndex | null },
): PeriodIndex | null {
  const text = words.join(' ');
  const key = /^(\d{4})-(\d{1,2})$/.exec(text);
  if (key) return monthOf(calendar, Number(key[1]), Number(key[2]));
  const slashed = /^(\d{1,2})\/(\d{4})$/.exec(text);
  if (slashed) return monthOf(calendar, Number(slashed[2]), Number(slashed[1]));
  const [name = '', year] = words;
  const month = words.length > 2 ? 0 : monthNumber(name);
  if (month === 0) return null;
  if (year !== undefined)
    return /^\d{2}(\d{2})?$/.test(year) ? monthOf(calendar, Number(year.length === 2 ? `20${year}` : year), month) : null;
  const of = (key: string) => Number(key.slice(5)) === month;
  const earlier = calendar.periods.slice(0, (last ?? calendar.periods.length - 1) + 1);
  return earlier.findLast((period) => of(period.key))?.index ?? calendar.periods.find((period) => of(period.key))?.index ?? null;
}

function monthOf(calendar: FiscalCalendar, year: number, month: number): PeriodIndex | null {
  return periodOfKey(calendar, `${year}-${String(month).padStart(2, '0')}`);
}
