import { MONTH_NAMES, monthNumber } from '../calendar/month-names.ts';

const MONTHS = MONTH_NAMES.map((name) => name.toLowerCase());
// "may" and "march" are words too; they count only with a year or beside another sign of a period
const IN_FULL = new RegExp(
  `\\b(${MONTHS.join('|')}|${MONTHS.filter((name) => name.length > 4)
    .map((name) => name.slice(0, 3))
    .join('|')}|sept)\\b\\.?(?:,? ?'?(20\\d\\d|\\d\\d)\\b)?`,
);
const LONGEST = 300;

/**
 * The month that a text names, 1 to 12, with its calendar year where it has one; null where it names none.
 * `may` and `march` are read as months only with a year after them.
 * @param text in lower case
 */
export function namedMonth(text: string): { readonly month: number; readonly year: number | null } | null {
  const found = IN_FULL.exec(text.slice(0, LONGEST));
  if (!found) return null;
  const [, name, year] = found;
  if ((name === 'may' || name === 'march') && year === undefined) return null;
  const month = monthNumber(name!.slice(0, 3));
  return { month, year: year === undefined ? null : Number(year.length === 2 ? `20${year}` : year) };
}
