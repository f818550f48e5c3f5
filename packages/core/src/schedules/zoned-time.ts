import { dayNumber } from '../calendar/day-number.ts';
import type { IsoDate } from '../calendar/iso-date.ts';

const MINUTE = 60_000;
const DAY = 86_400_000;
const formats = new Map<string, Intl.DateTimeFormat>();

/** The clock of a time zone. @throws RangeError for a zone that does not exist */
function formatOf(zone: string): Intl.DateTimeFormat {
  const known = formats.get(zone);
  if (known) return known;
  const format = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
  formats.set(zone, format);
  return format;
}

/** Whether a name is one of a time zone, such as `America/New_York`. */
export function isTimeZone(zone: string): boolean {
  try {
    formatOf(zone);
    return true;
  } catch {
    return false;
  }
}

/** A moment as the clock on a wall of the zone shows it. */
export function wallTime(instant: number, zone: string): { readonly date: IsoDate; readonly minutes: number } {
  const parts = new Map(
    formatOf(zone)
      .formatToParts(instant)
      .map(({ type, value }) => [type, value]),
  );
  const date = `${parts.get('year')!.padStart(4, '0')}-${parts.get('month')!}-${parts.get('day')!}` as IsoDate;
  return { date, minutes: Number(parts.get('hour')) * 60 + Number(parts.get('minute')) };
}

/** The milliseconds a date and time would be at if the zone kept universal time. */
const asUniversal = (date: IsoDate, minutes: number): number => dayNumber(date) * DAY + minutes * MINUTE;
/** How far the zone's clock is ahead of universal time at a moment, in milliseconds. */
function offsetAt(instant: number, zone: string): number {
  const { date, minutes } = wallTime(instant, zone);
  return asUniversal(date, minutes) - Math.floor(instant / MINUTE) * MINUTE;
}

/**
 * The moment a zone's clock shows a date and time, in milliseconds since 1970. A time that is skipped when clocks go
 * forward is taken by the clock before the change; of one that comes twice when they go back, the first is meant (RFC
 * 5545, section 3.3.5).
 * @param minutes since midnight
 */
export function instantOf(date: IsoDate, minutes: number, zone: string): number {
  const local = asUniversal(date, minutes);
  const [before, after] = [offsetAt(local - DAY, zone), offsetAt(local + DAY, zone)];
  const fitting = [local - before, local - after].filter((instant) => offsetAt(instant, zone) === local - instant);
  return fitting.length === 0 ? local - before : Math.min(...fitting);
}
