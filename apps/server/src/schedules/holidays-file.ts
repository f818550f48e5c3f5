import rrule from 'rrule';

import { refused } from '../http/problem.ts';

/** A day that is no business day. */
export type Holiday = { readonly date: string; readonly name: string };
const MOST_DAYS = 5000;
// rules that repeat are laid out this many years ahead
const YEARS_AHEAD = 20;
const DAY = 86_400_000;

/**
 * Reads the days of a calendar file (RFC 5545): every event of whole days, over all of its days, with rules that repeat
 * laid out for twenty years.
 * @throws ProblemError 422 for a file that is no calendar, an event without a date, or more than 5,000 days
 */
export function readHolidays(content: string, from: Date): Holiday[] {
  // a long line goes on in the next, which begins with a blank
  const lines = content.replaceAll(/\r?\n[ \t]/g, '').split(/\r?\n/);
  if (!lines.some((line) => line.trim().toUpperCase() === 'BEGIN:VCALENDAR'))
    throw refused(
      'The file is no calendar file: it does not begin with BEGIN:VCALENDAR. Export holidays as .ics and choose that file.',
      'file',
    );
  const holidays = new Map<string, string>();
  let event: Map<string, string> | null = null;
  for (const [at, line] of lines.entries()) {
    const text = line.trim();
    if (text.toUpperCase() === 'BEGIN:VEVENT') event = new Map();
    else if (text.toUpperCase() === 'END:VEVENT' && event) {
      for (const day of daysOf(event, { row: at + 1, from })) holidays.set(day, event.get('SUMMARY') ?? 'Holiday');
      if (holidays.size > MOST_DAYS)
        throw refused(`The file has more than ${MOST_DAYS.toLocaleString('en-US')} days. Choose a calendar of holidays alone.`, 'file');
      event = null;
    } else if (event) {
      const colon = text.indexOf(':');
      if (colon > 0) event.set(text.slice(0, colon).split(';')[0]!.toUpperCase(), text.slice(colon + 1));
    }
  }
  return [...holidays].map(([date, name]) => ({ date, name })).sort((a, b) => (a.date < b.date ? -1 : 1));
}

function daysOf(event: ReadonlyMap<string, string>, { row, from }: { readonly row: number; readonly from: Date }): string[] {
  const start = dateOf(event.get('DTSTART'));
  if (start === null)
    throw refused(`Row ${row}: the event has no date it begins on (DTSTART). Add one such as DTSTART;VALUE=DATE:20261225.`, 'file');
  // the end is the day after the last
  const end = dateOf(event.get('DTEND')) ?? start + DAY;
  const length = Math.max(1, Math.round((end - start) / DAY));
  const rule = event.get('RRULE');
  const starts = rule === undefined ? [start] : repeated(rule, { start, from, row });
  return starts.flatMap((first) => Array.from({ length }, (_, at) => new Date(first + at * DAY).toISOString().slice(0, 10)));
}

function repeated(rule: string, { start, from, row }: { readonly start: number; readonly from: Date; readonly row: number }): number[] {
  try {
    const options = rrule.RRule.parseString(rule);
    const until = new Date(Date.UTC(from.getUTCFullYear() + YEARS_AHEAD, 11, 31));
    const last = options.until && options.until < until ? options.until : until;
    return new rrule.RRule({ ...options, dtstart: new Date(start), until: last })
      .all((_, count) => count < MOST_DAYS)
      .map((date) => date.getTime());
  } catch {
    throw refused(`Row ${row}: the rule RRULE:${rule.slice(0, 100)} cannot be read. Correct it, or list the days one by one.`, 'file');
  }
}

/** `20261225` or `20261225T000000Z`, as a moment of universal time; null for what is no date. */
function dateOf(text: string | undefined): number | null {
  const parts = /^(\d{4})(\d{2})(\d{2})/.exec(text ?? '');
  if (!parts) return null;
  const time = Date.parse(`${parts[1]}-${parts[2]}-${parts[3]}T00:00:00Z`);
  return Number.isNaN(time) ? null : time;
}
