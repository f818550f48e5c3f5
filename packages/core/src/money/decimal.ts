/** A decimal number held exactly: `digits` x 10^-`scale`. */
export type Decimal = { readonly digits: bigint; readonly scale: number };

/**
 * Reads a plain or exponent decimal text exactly.
 * @throws RangeError when the text is no finite decimal number.
 * @example parseDecimal('2.50') // { digits: 250n, scale: 2 }
 */
export function parseDecimal(text: string): Decimal {
  const match = /^([+-]?)(\d*)(?:\.(\d*))?(?:e([+-]?\d+))?$/i.exec(text.trim());
  if (!match || `${match[2]}${match[3]}` === '') throw new RangeError(`"${text}" is not a decimal number`);
  const [, sign, whole = '', fraction = '', power = '0'] = match;
  const digits = BigInt(`${whole}${fraction}`) * (sign === '-' ? -1n : 1n);
  const scale = fraction.length - Number(power);
  return scale >= 0 ? { digits, scale } : { digits: digits * 10n ** BigInt(-scale), scale: 0 };
}

/** Brings decimals to one scale and returns their whole digits, in order. Empty gives empty. */
export function toCommonScale(decimals: readonly Decimal[]): bigint[] {
  const scale = decimals.reduce((widest, each) => Math.max(widest, each.scale), 0);
  return decimals.map((each) => each.digits * 10n ** BigInt(scale - each.scale));
}

/**
 * Multiplies a whole number by a decimal and rounds half away from zero, exactly.
 * @example multiplyByDecimal(105, parseDecimal('1.1')) // 116 (115.5)
 */
export function multiplyByDecimal(value: number, factor: Decimal): number {
  const product = BigInt(value) * factor.digits;
  const unit = 10n ** BigInt(factor.scale);
  const size = product < 0n ? -product : product;
  const rounded = (size * 2n + unit) / (unit * 2n);
  return Number(product < 0n ? -rounded : rounded);
}
