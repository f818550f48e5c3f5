import { type Minor, minor, parseAmount } from '@wise-margin/core';

export type DecimalSign = '.' | ',';

/**
 * An amount as banks write it: thousands separators, a currency sign or code, parentheses or a minus on either side.
 * @param decimal the character before the cents
 * @returns null where it is not an amount, or has more decimals than the currency
 */
export function readBankAmount(text: string, decimal: DecimalSign, exponent: number): Minor | null {
  let bare = text.trim().replace(/−/g, '-');
  if (bare.length > 60) return null;
  const isNegative = /^\(.*\)$/.test(bare) || bare.startsWith('-') || bare.endsWith('-') || /\bDR$/i.test(bare);
  bare = bare.replace(/[()\s'+-]/g, '').replace(/^[^\d.,]{1,4}|[^\d.,]{1,4}$/g, '');
  const thousands = decimal === '.' ? ',' : '.';
  const [whole = '', ...fractions] = bare.split(decimal);
  if (fractions.length > 1 || fractions.some((part) => part.includes(thousands)) || !areThousands(whole, thousands)) return null;
  const plain = `${whole.replaceAll(thousands, '')}${fractions.length === 0 ? '' : `.${trimmed(fractions[0]!, exponent)}`}`;
  const parsed = parseAmount(plain, exponent);
  return parsed.ok ? minor(isNegative && parsed.value !== 0 ? -parsed.value : parsed.value) : null;
}

/** Zeros past the currency's decimals say nothing: `12.5000` is 12.50. */
function trimmed(fraction: string, exponent: number): string {
  const past = fraction.slice(exponent);
  return /^0*$/.test(past) ? fraction.slice(0, exponent) : fraction;
}

function areThousands(whole: string, separator: string): boolean {
  const [first = '', ...groups] = whole.split(separator);
  return /^\d*$/.test(first) && (groups.length === 0 || first.length <= 3) && groups.every((group) => /^\d{3}$/.test(group));
}
