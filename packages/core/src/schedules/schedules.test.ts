import { Temporal } from '@js-temporal/polyfill';
import fc from 'fast-check';
import { RRule } from 'rrule';
import { describe, expect, it } from 'vitest';

import { daysLater } from '../calendar/day-number.ts';
import type { IsoDate } from '../calendar/iso-date.ts';
import { businessDayOf } from './business-days.ts';
import { nextRuns, runsBetween, type Schedule, type ScheduleDay } from './schedule.ts';
import { instantOf, isTimeZone, wallTime } from './zoned-time.ts';

// Days are checked against a well-kept library of calendar rules (rrule, RFC 5545), moments against the Temporal
// polyfill of the language’s standards body; both from the npm registry.
const NONE: ReadonlySet<string> = new Set();
const START = Date.UTC(2020, 0, 1);
const END = Date.UTC(2030, 0, 1);
const schedule = (day: ScheduleDay, parts: Partial<Schedule> = {}): Schedule => ({
  day,
  minutes: 450,
  zone: 'UTC',
  holidays: NONE,
  ...parts,
});
const daysByRule = (options: ConstructorParameters<typeof RRule>[0]): string[] =>
  new RRule({ freq: RRule.MONTHLY, dtstart: new Date(START), until: new Date(END - 1), ...options })
    .all()
    .map((date) => date.toISOString().slice(0, 10));
const days = (day: ScheduleDay): string[] =>
  runsBetween(schedule(day, { minutes: 0 }), { after: START - 1, until: END - 1 }).map(({ date }) => date);
const WORKDAYS = [RRule.MO, RRule.TU, RRule.WE, RRule.TH, RRule.FR];

describe('ten years of days', () => {
  it.each([1, 4, 10, 20, -1, -3])('on business day %i', (number) => {
    expect(days({ kind: 'businessDay', number })).toEqual(daysByRule({ byweekday: WORKDAYS, bysetpos: number }));
  });
  it('on every business day', () => {
    const weekdays = new RRule({ freq: RRule.WEEKLY, dtstart: new Date(START), until: new Date(END - 1), byweekday: WORKDAYS });
    expect(days({ kind: 'everyBusinessDay' })).toEqual(weekdays.all().map((date) => date.toISOString().slice(0, 10)));
    const next = nextRuns(schedule({ kind: 'everyBusinessDay' }, { holidays: new Set(['2026-11-26']) }), Date.UTC(2026, 10, 25), 3);
    expect(next.map(({ date }) => date)).toEqual(['2026-11-25', '2026-11-27', '2026-11-30']);
  });
  it.each([1, 15, 28])('on day %i', (number) => {
    expect(days({ kind: 'dayOfMonth', number })).toEqual(daysByRule({ bymonthday: number }));
  });
  it.each([29, 30, 31])('on day %i, or the last of a shorter month, leap years among them', (number) => {
    const last = Array.from({ length: number - 27 }, (_, at) => 28 + at);
    expect(days({ kind: 'dayOfMonth', number })).toEqual(daysByRule({ bymonthday: last, bysetpos: -1 }));
  });
});

describe('holidays', () => {
  const holidays = new Set(['2026-01-01', '2026-01-19', '2026-07-03', '2026-11-26', '2026-12-25']);
  const inMonth = (month: number, number: number) => businessDayOf({ year: 2026, month }, { number, holidays });
  it('are no business days', () => {
    // Jan 1, 2026 is a Thursday and a holiday: the first business day is the second
    expect([inMonth(1, 1), inMonth(1, 4), inMonth(7, 3), inMonth(12, -5)]).toEqual([
      '2026-01-02',
      '2026-01-07',
      '2026-07-06',
      '2026-12-24',
    ]);
  });
  it('may leave a month with fewer, or with none', () => {
    const all = new Set(Array.from({ length: 28 }, (_, at) => `2026-02-${String(at + 1).padStart(2, '0')}`));
    expect(businessDayOf({ year: 2026, month: 2 }, { number: 4, holidays: all })).toBeNull();
    all.delete('2026-02-10');
    expect([4, -9].map((number) => businessDayOf({ year: 2026, month: 2 }, { number, holidays: all }))).toEqual([
      '2026-02-10',
      '2026-02-10',
    ]);
    all.add('2026-02-10');
    const run = nextRuns(schedule({ kind: 'businessDay', number: 1 }, { holidays: all }), Date.UTC(2026, 0, 31), 1)[0]!;
    expect(run.date).toBe('2026-03-02');
  });
});

const ZONES = ['America/New_York', 'Europe/Berlin', 'Australia/Lord_Howe', 'Asia/Kolkata', 'Pacific/Apia', 'America/St_Johns', 'UTC'];
describe('moments of a zone', () => {
  it('are those of the standard, over ten years, every day at any time', () => {
    const date = fc.integer({ min: 0, max: 3652 }).map((days) => daysLater('2020-01-01' as IsoDate, days));
    fc.assert(
      fc.property(date, fc.integer({ min: 0, max: 1439 }), fc.constantFrom(...ZONES), (day, minutes, zone) => {
        const time = Temporal.PlainDateTime.from(day).add({ minutes });
        expect(instantOf(day, minutes, zone)).toBe(time.toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds);
      }),
      { numRuns: 600 },
    );
  });
  it('of an hour that is skipped follow the clock before it; of one that comes twice the first is meant', () => {
    // clocks in New York go from 2:00 to 3:00 on Mar 8, 2026, and from 2:00 back to 1:00 on Nov 1, 2026
    const skipped = instantOf('2026-03-08' as IsoDate, 150, 'America/New_York');
    expect([skipped, wallTime(skipped, 'America/New_York')]).toEqual([Date.UTC(2026, 2, 8, 7, 30), { date: '2026-03-08', minutes: 210 }]);
    expect(instantOf('2026-11-01' as IsoDate, 90, 'America/New_York')).toBe(Date.UTC(2026, 10, 1, 5, 30));
  });
  it('are known by the names of zones only', () => {
    expect([isTimeZone('America/New_York'), isTimeZone('New York'), isTimeZone('')]).toEqual([true, false, false]);
  });
});

describe('times of a schedule', () => {
  const fourth = schedule({ kind: 'businessDay', number: 4 }, { zone: 'America/New_York' });
  it('are one a month, at the time of the zone in summer and winter', () => {
    const runs = runsBetween(fourth, { after: Date.UTC(2026, 0, 1), until: Date.UTC(2027, 0, 1) });
    expect(runs).toHaveLength(12);
    expect(runs.every(({ at }) => wallTime(at, 'America/New_York').minutes === 450)).toBe(true);
    expect(new Set(runs.map(({ at }) => new Date(at).getUTCHours()))).toEqual(new Set([11, 12]));
  });
  it('up to a moment and from it on leave none out and have none twice', () => {
    fc.assert(
      fc.property(fc.integer({ min: START, max: END }), (at) => {
        const whole = runsBetween(fourth, { after: START, until: END });
        expect([...runsBetween(fourth, { after: START, until: at }), ...runsBetween(fourth, { after: at, until: END })]).toEqual(whole);
        expect(nextRuns(fourth, at, 3).slice(0, 1)).toEqual(runsBetween(fourth, { after: at, until: at + 70 * 86_400_000 }).slice(0, 1));
      }),
    );
  });
  it('of a clock that was set back are none', () => {
    expect(runsBetween(fourth, { after: Date.UTC(2026, 5, 1), until: Date.UTC(2026, 4, 1) })).toEqual([]);
  });
});
