import { LARGEST_MINOR, type Minor, minor } from './minor.ts';

/** Why a text is not an amount. `suggestion` is the text to write instead, where there is one. */
export type AmountIssue = {
  readonly code:
    | 'empty'
    | 'thousandsSeparator'
    | 'parentheses'
    | 'trailingMinus'
    | 'currencySign'
    | 'exponentNotation'
    | 'tooManyDecimals'
    | 'decimalComma'
    | 'tooLarge'
    | 'notANumber';
  readonly suggestion?: string;
  readonly decimals?: number;
};
export type ParsedAmount = { readonly ok: true; readonly value: Minor } | { readonly ok: false; readonly issue: AmountIssue };

const MOST_DIAGNOSED = 100;
const PLAIN = /^([+-]?)(\d*)(?:\.(\d*))?$/;
const refuse = (issue: AmountIssue): ParsedAmount => ({ ok: false, issue });

/**
 * Reads a decimal text as minor units, from its digits and never through a float.
 * Accepts an optional sign, digits, and at most `exponent` decimals; anything else is refused with
 * the reason and, where it is clear what was meant, the text to write. Surrounding spaces are ignored.
 * @param exponent decimals of the currency (2 for USD)
 * @example parseAmount('1234.5', 2) // { ok: true, value: 123450 }
 */
export function parseAmount(text: string, exponent: number): ParsedAmount {
  const trimmed = text.trim();
  if (trimmed === '') return refuse({ code: 'empty' });
  const match = PLAIN.exec(trimmed);
  if (!match || (match[2] === '' && !match[3])) return refuse(diagnose(trimmed, exponent));
  const [, sign, whole = '', fraction = ''] = match;
  if (fraction.length > exponent) {
    return refuse({ code: 'tooManyDecimals', decimals: exponent });
  }
  const value = Number(whole + fraction.padEnd(exponent, '0'));
  if (value > LARGEST_MINOR) return refuse({ code: 'tooLarge' });
  return { ok: true, value: minor(sign === '-' ? -value : value) };
}

/**
 * An amount as a person types it: as `parseAmount` reads it, and also with a currency sign, thousands separators,
 * parentheses or a trailing minus. Files are read by `parseAmount`: there, one rule holds for a whole column.
 * @example parseTypedAmount('$2,214.30', 2) // { ok: true, value: 221430 }
 */
export function parseTypedAmount(text: string, exponent: number): ParsedAmount {
  const parsed = parseAmount(text, exponent);
  if (parsed.ok) return parsed;
  const { code, suggestion } = parsed.issue;
  return suggestion === undefined || code === 'decimalComma' ? parsed : parseAmount(suggestion, exponent);
}

function diagnose(text: string, exponent: number): AmountIssue {
  if (text.length > MOST_DIAGNOSED) return { code: 'notANumber' };
  const suggest = (code: AmountIssue['code'], candidate: string): AmountIssue => {
    const plain = candidate.replaceAll(/[\s,']/g, '');
    return parseAmount(plain, exponent).ok ? { code, suggestion: plain } : { code };
  };
  if (/^[+-]?[\d.]+e[+-]?\d+$/i.test(text)) return { code: 'exponentNotation' };
  if (/^\(.*\)$/.test(text)) return suggest('parentheses', `-${text.slice(1, -1).replace(/[$€£¥]/g, '')}`);
  if (/^[\d.,]+\s*-$/.test(text)) return suggest('trailingMinus', `-${text.slice(0, -1).trimEnd()}`);
  if (/[$€£¥]|^[A-Z]{3}\s|\s[A-Z]{3}$/.test(text)) {
    return suggest('currencySign', text.replaceAll(/[$€£¥]|[A-Z]{3}/g, ''));
  }
  if (/^[+-]?\d{1,3}([, '\u00a0\u202f]\d{3})+(\.\d*)?$/.test(text)) return suggest('thousandsSeparator', text.replaceAll(/[^\d.+-]/g, ''));
  if (/^[+-]?\d+,\d{1,2}$/.test(text)) return suggest('decimalComma', text.replace(',', '.'));
  return { code: 'notANumber' };
}
