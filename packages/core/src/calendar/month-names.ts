export const MONTH_NAMES: readonly string[] = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** 1 to 12 for a month's name, or at least its first three letters, in any case; 0 for anything else. */
export function monthNumber(name: string): number {
  const lower = name.toLowerCase();
  return lower.length < 3 ? 0 : MONTH_NAMES.findIndex((month) => month.toLowerCase().startsWith(lower)) + 1;
}
