import type { SpanDefinition, SpanKind } from './span.ts';

const KINDS: Readonly<Record<SpanKind, string>> = {
  month: 'month',
  quarter: 'whole quarter',
  quarterToDate: 'quarter to date',
  yearToDate: 'year to date',
  fullYear: 'full year',
  trailingTwelve: 'trailing twelve months',
  restOfYear: 'rest of the year',
  fromBeginning: 'since the first month',
};
const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const counted = (count: number, unit: string): string =>
  `${NUMBERS[Math.abs(count)] ?? Math.abs(count)} ${unit}${Math.abs(count) === 1 ? '' : 's'} ${count < 0 ? 'earlier' : 'later'}`;

/**
 * What a span definition stands for, whatever the as-of month: `same month, one year earlier`,
 * `year to date, moves with the month`, `month, pinned to Mar 2026`.
 * @param nameOf the name of a period by its key
 * @example spanDefinitionWords({ kind: 'month', shift: { years: -1 } }) // 'same month, one year earlier'
 */
export function spanDefinitionWords(
  { kind, shift = {}, pinnedTo }: SpanDefinition,
  nameOf: (key: string) => string = (key) => key,
): string {
  const shifts = (['years', 'quarters', 'months'] as const).flatMap((unit) => {
    const count = shift[unit] ?? 0;
    return count === 0 ? [] : [counted(count, unit.slice(0, -1))];
  });
  if (pinnedTo !== undefined) {
    return [KINDS[kind], ...shifts, `pinned to ${nameOf(pinnedTo)}`].join(', ');
  }
  if (shifts.length === 0) return `${KINDS[kind]}, follows the as-of month`;
  return [kind === 'month' && shift.years !== undefined && !shift.months && !shift.quarters ? 'same month' : KINDS[kind], ...shifts].join(
    ', ',
  );
}
