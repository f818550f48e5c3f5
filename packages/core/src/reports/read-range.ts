import {
  firstSlot,
  type FiscalCalendar,
  lastSlot,
  type PeriodIndex,
  periodOfDate,
  periodOfKey,
  periodOfYear,
  type Slot,
} from '../calendar/fiscal-calendar.ts';
import { type IsoDate, isoDate, parseIsoDate } from '../calendar/iso-date.ts';
import { monthNumber } from '../calendar/month-names.ts';

/** The days a report is about, both included. */
export type ReportRange = {
  readonly from: IsoDate;
  readonly to: IsoDate;
  /** where both ends are ends of fiscal periods: their slots, the adjustment period with the last one */
  readonly slots: { readonly from: Slot; readonly to: Slot } | null;
  /** income accounts count from here: the start of the fiscal year in which the range starts */
  readonly yearStart: { readonly day: IsoDate; readonly slot: Slot };
};
export type RangeIssue = { readonly code: 'unreadable' | 'outsideYears' | 'reversed'; readonly text: string };
export type ReadRange = { readonly ok: true; readonly range: ReportRange } | { readonly ok: false; readonly issue: RangeIssue };

type Days = { readonly from: IsoDate; readonly to: IsoDate };
/** A part of a range as typed: days; outside the calendar null; not readable undefined. `isDay` is a date without a start of its own. */
type Point = (Days & { readonly isDay: boolean }) | null | undefined;

/**
 * Reads a range as people type it: a month (`Oct 2026`, `2026-10`), a day (`2026-10-15`, `10/15/2026`, `Oct 15, 2026`),
 * a quarter (`Q1 FY2027`), a year (`FY2027`), or two of them (`Apr 2026 to Jun 2026`, `2026-04..2026-06`). A day by itself
 * stands for the fiscal year to that day.
 * `ytd` is the fiscal year to the as-of month, `qtd` its quarter to it, `mtd` that month; months without a year
 * (`Apr to Oct`) are of the fiscal year of the as-of month, or of the year of the other end.
 * @param asOf by default the last month of the calendar
 * @example readRange('Q1 FY2027', calendar) // Apr 1, 2026 to Jun 30, 2026 where years start in April
 */
export function readRange(text: string, calendar: FiscalCalendar, asOf: PeriodIndex | null = null): ReadRange {
  const typed = text.trim().split(/\s+/).join(' ');
  const refuse = (code: RangeIssue['code'], of: string): ReadRange => ({ ok: false, issue: { code, text: of } });
  if (typed === '' || typed.length > 60) return refuse('unreadable', typed);
  const named = toDateOf(typed.toLowerCase(), calendar, asOf ?? ((calendar.periods.length - 1) as PeriodIndex));
  if (named) return { ok: true, range: rangeOf(calendar, named) };
  const parts = withYears(
    typed.split(/ ?(?:\.\.|–|—) ?| (?:to|through|thru|-) |(?<=\d{4}) ?- ?(?=\d{1,2}\/)|(?<=[a-z]{3})-(?=[a-z]{3})/i),
    calendar,
    asOf,
  );
  if (parts.length > 2) return refuse('unreadable', typed);
  const points = parts.map((part) => readPoint(part, calendar));
  for (const [at, point] of points.entries()) {
    if (point === undefined) return refuse('unreadable', parts[at]!);
    if (point === null) return refuse('outsideYears', parts[at]!);
  }
  const [first, last] = [points[0]!, points.at(-1)!];
  const from = points.length === 1 && first.isDay ? yearStartOf(calendar, first.from).day : first.from;
  if (from > last.to) return refuse('reversed', typed);
  return { ok: true, range: rangeOf(calendar, { from, to: last.to }) };
}

/** `ytd`, `qtd`, `mtd`, in words too; null for anything else. */
function toDateOf(text: string, calendar: FiscalCalendar, asOf: PeriodIndex): Days | null {
  const kind = /^(?:(y|q|m)td|(year|quarter|month) to date)$/.exec(text);
  if (!kind) return null;
  const period = calendar.periods[asOf]!;
  const back = { y: period.number - 1, q: (period.number - 1) % 3, m: 0 }[(kind[1] ?? kind[2]![0]) as 'y' | 'q' | 'm'];
  return { from: calendar.periods[asOf - back]!.start, to: period.end };
}

/** Parts of a range in which a month without a year has one: that of the other end, else of the fiscal year of the as-of month. */
function withYears(parts: readonly string[], calendar: FiscalCalendar, asOf: PeriodIndex | null): string[] {
  const isMonthAlone = (part: string) => /^[a-z]{3,9}\.?$/i.test(part) && monthNumber(part.replace('.', '').toLowerCase()) > 0;
  if (!parts.some(isMonthAlone)) return [...parts];
  const given = parts.map((part) => /(\d{4})$/.exec(part)?.[1]).find((year) => year !== undefined);
  const { year } = calendar.periods[asOf ?? calendar.periods.length - 1]!;
  return parts.map((part) => {
    if (!isMonthAlone(part)) return part;
    const month = monthNumber(part.replace('.', '').toLowerCase());
    const inYear = calendar.periods.find((period) => period.year === year && Number(period.key.slice(5)) === month);
    return `${part} ${given ?? inYear!.key.slice(0, 4)}`;
  });
}

/** The range of two dates. @throws RangeError for dates outside the calendar */
export function rangeOf(calendar: FiscalCalendar, { from, to }: Days): ReportRange {
  const [first, last] = [periodOfDate(calendar, from), periodOfDate(calendar, to)];
  if (first === null || last === null) throw new RangeError(`${from} to ${to} is outside the fiscal years of the calendar`);
  const isWhole = calendar.periods[first]!.start === from && calendar.periods[last]!.end === to;
  return {
    from,
    to,
    slots: isWhole ? { from: firstSlot(calendar, first), to: lastSlot(calendar, last) } : null,
    yearStart: yearStartOf(calendar, from),
  };
}

/** The same days a number of years earlier, and ends of months kept as ends; null where the calendar does not reach. */
export function yearsEarlier(calendar: FiscalCalendar, { from, to }: ReportRange, years: number): ReportRange | null {
  const shift = (date: IsoDate, end: 'start' | 'end'): IsoDate | null => {
    const period = periodOfDate(calendar, date)!;
    const earlier = calendar.periods[period - 12 * years];
    if (!earlier) return null;
    if (calendar.periods[period]![end] === date) return earlier[end];
    const same = parseIsoDate(`${Number(date.slice(0, 4)) - years}${date.slice(4)}`);
    // the day after February 28 where a year has no 29th
    return same ?? isoDate(Number(date.slice(0, 4)) - years, 2, 28);
  };
  const [first, last] = [shift(from, 'start'), shift(to, 'end')];
  if (first === null || last === null) return null;
  if (periodOfDate(calendar, first) === null || periodOfDate(calendar, last) === null) return null;
  return rangeOf(calendar, { from: first, to: last });
}

function yearStartOf(calendar: FiscalCalendar, date: IsoDate): ReportRange['yearStart'] {
  const { year } = calendar.periods[periodOfDate(calendar, date)!]!;
  const first = periodOfYear(calendar, year, 1)!;
  return { day: calendar.periods[first]!.start, slot: firstSlot(calendar, first) };
}

function readPoint(text: string, calendar: FiscalCalendar): Point {
  const plain = text.trim().toLowerCase().replaceAll(',', ' ').replaceAll('  ', ' ');
  for (const read of [readYear, readPeriod, readDay]) {
    const point = read(plain, calendar);
    if (point !== undefined) return point;
  }
  return undefined;
}

/** `fy2027`, `q1 fy2027`, `fy2027 q1`; null outside the calendar, undefined for anything else. */
function readYear(text: string, calendar: FiscalCalendar): Point {
  const match = /^(?:q([1-4]) ?fy ?(\d{4})|fy ?(\d{4})(?: ?q([1-4]))?)$/.exec(text);
  if (!match) return undefined;
  const year = Number(match[2] ?? match[3]);
  const quarter = match[1] ?? match[4];
  const [first, last] = quarter === undefined ? [1, 12] : [3 * Number(quarter) - 2, 3 * Number(quarter)];
  const [from, to] = [periodOfYear(calendar, year, first), periodOfYear(calendar, year, last)];
  if (from === null || to === null) return null;
  return { from: calendar.periods[from]!.start, to: calendar.periods[to]!.end, isDay: false };
}

/** `oct 2026`, `october 2026`, `2026-10`, `10/2026`. */
function readPeriod(text: string, calendar: FiscalCalendar): Point {
  const named = /^([a-z]{3,9})\.? (\d{4})$/.exec(text);
  const numbered = /^(\d{4})-(\d{2})$/.exec(text) ?? swapped(/^(\d{1,2})\/(\d{4})$/.exec(text));
  const month = named ? monthNumber(named[1]!) : numbered ? Number(numbered[2]) : 0;
  if (month < 1 || month > 12) return undefined;
  const period = periodOfKey(calendar, `${named ? named[2]! : numbered![1]!}-${String(month).padStart(2, '0')}`);
  if (period === null) return null;
  const { start: from, end: to } = calendar.periods[period]!;
  return { from, to, isDay: false };
}

function readDay(text: string, calendar: FiscalCalendar): Point {
  const date = readDate(text);
  if (date === null) return undefined;
  return periodOfDate(calendar, date) === null ? null : { from: date, to: date, isDay: true };
}

/** A day as people type it, in any year: `2026-10-15`, `10/15/2026`, `Oct 15, 2026`; null when it is none. */
export function readDate(text: string): IsoDate | null {
  const plain = text.trim().toLowerCase().replaceAll(',', ' ').replaceAll('  ', ' ');
  const slashed = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/.exec(plain);
  const named = /^([a-z]{3,9})\.? (\d{1,2}) (\d{4})$/.exec(plain);
  if (slashed) return dateOf(Number(slashed[3]), Number(slashed[1]), Number(slashed[2]));
  return named ? dateOf(Number(named[3]), monthNumber(named[1]!), Number(named[2])) : parseIsoDate(plain);
}

const dateOf = (year: number, month: number, day: number): IsoDate | null => parseIsoDate(isoDate(year, month, day));
const swapped = (match: RegExpExecArray | null) => (match ? [match[0], match[2]!, match[1]!] : null);
