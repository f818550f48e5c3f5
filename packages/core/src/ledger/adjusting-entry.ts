import { daysInMonth, type IsoDate, isoDate } from '../calendar/iso-date.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { EntryContent, LineContent } from './entry-content.ts';

const opposite = (line: LineContent): LineContent => ({ ...line, amount: minor(-line.amount) });

/** The entry that takes another back on a later day: the same lines on the other side. */
export const reversingEntry = (entry: EntryContent, date: string): EntryContent => ({ ...entry, date, lines: entry.lines.map(opposite) });

/**
 * What a correction posts on a later day when the month of the entry is closed: each line that differs is taken back and
 * written as it should be; lines that stay are left alone. Balanced when both contents are.
 * @returns an entry without lines when nothing but dates, journal or kind differs
 */
export function correctingEntry(
  before: EntryContent,
  after: EntryContent,
  { date, memo }: { readonly date: string; readonly memo: string },
): EntryContent {
  const places = Math.max(before.lines.length, after.lines.length);
  const lines = Array.from({ length: places }, (_, place) => [before.lines[place], after.lines[place]] as const).flatMap(
    ([old, corrected]) => {
      if (old && corrected && sameLine(old, corrected)) return [];
      if (old && corrected && sameLine({ ...old, amount: corrected.amount }, corrected)) {
        // another amount alone is one line of the difference
        return [{ ...corrected, amount: minor(corrected.amount - old.amount), memo }];
      }
      return [...(old ? [{ ...opposite(old), memo }] : []), ...(corrected ? [{ ...corrected, memo }] : [])];
    },
  );
  return { date, source: after.source, kind: 'adjustment', state: 'posted', lines };
}

function sameLine(a: LineContent, b: LineContent): boolean {
  const dimensions = (line: LineContent) =>
    JSON.stringify(
      Object.entries(line.dimensions)
        .filter(([, value]) => value !== '')
        .sort(),
    );
  return (
    a.account === b.account &&
    a.amount === b.amount &&
    a.party === b.party &&
    a.document === b.document &&
    a.due === b.due &&
    a.memo === b.memo &&
    dimensions(a) === dimensions(b)
  );
}

/** The lines of one entry that moves sums between accounts and dimension values. @param sums of what each gains; zeros are left out */
export const movingLines = (
  sums: readonly { readonly account: string; readonly dimensions: LineContent['dimensions']; readonly amount: Minor }[],
  memo: string,
): LineContent[] => sums.filter(({ amount }) => amount !== 0).map((sum) => ({ ...sum, memo, party: '', document: '', due: null }));

/**
 * The date a month later of an entry that recurs: the same day of the month, the last day of a month that is shorter.
 * @param day of the first one, so that the 31st comes back after a shorter month
 */
export function nextMonth(date: IsoDate, day: number): IsoDate {
  const [year, month] = [Number(date.slice(0, 4)), Number(date.slice(5, 7))];
  const [nextYear, following] = month === 12 ? [year + 1, 1] : [year, month + 1];
  return isoDate(nextYear, following, Math.min(day, daysInMonth(nextYear, following)));
}
