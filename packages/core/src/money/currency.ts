/** A currency by its ISO 4217 code and the number of decimals its minor unit stands for. */
export type Currency = {
  readonly code: string;
  readonly exponent: number;
  readonly words: string;
  /** what stands before an amount where the sign is asked for */
  readonly sign: string;
};

// ISO 4217 minor-unit exponents; every other code is taken as two decimals.
const EXPONENTS: Readonly<Record<string, number>> = {
  BHD: 3,
  CLP: 0,
  IQD: 3,
  ISK: 0,
  JOD: 3,
  JPY: 0,
  KRW: 0,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  PYG: 0,
  TND: 3,
  UGX: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
};
const WORDS: Readonly<Record<string, string>> = {
  USD: 'US dollars',
  CAD: 'Canadian dollars',
  EUR: 'Euros',
  GBP: 'Pounds sterling',
  JPY: 'Japanese yen',
};

const SIGNS: Readonly<Record<string, string>> = { USD: '$', CAD: '$', AUD: '$', EUR: '€', GBP: '£', JPY: '¥' };

/**
 * Looks a currency up by its three-letter code.
 * @throws RangeError when the code is not three capital letters.
 * @example currency('JPY').exponent // 0
 */
export function currency(code: string): Currency {
  if (!/^[A-Z]{3}$/.test(code)) throw new RangeError(`"${code}" is not a three-letter currency code such as USD`);
  return { code, exponent: EXPONENTS[code] ?? 2, words: WORDS[code] ?? code, sign: SIGNS[code] ?? `${code} ` };
}
