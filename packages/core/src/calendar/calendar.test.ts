import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import {
  firstSlot,
  fiscalYearOfDate,
  lastSlot,
  monthCalendar,
  periodAt,
  type PeriodIndex,
  periodOfDate,
  periodOfKey,
  periodOfYear,
  slotCount,
} from './fiscal-calendar.ts';
import { type IsoDate, parseIsoDate } from './iso-date.ts';
import { longPeriodName, spanWords } from './period-words.ts';
import { resolveSpan, SPAN_KINDS, type SpanDefinition } from './span.ts';

const calendar = monthCalendar({ startMonth: 4, firstYear: 2025, lastYear: 2027, hasAdjustmentPeriod: true });
const october = periodOfKey(calendar, '2026-10')!;
const keys = (definition: SpanDefinition, asOf = october) => {
  const resolved = resolveSpan(calendar, definition, { asOf });
  return resolved.ok ? [periodAt(calendar, resolved.span.from).key, periodAt(calendar, resolved.span.to).key] : resolved.reason;
};

describe('a fiscal calendar from April', () => {
  it('names years by the calendar year they end in', () => {
    expect(periodAt(calendar, 0 as PeriodIndex)).toMatchObject({
      year: 2025,
      number: 1,
      key: '2024-04',
      start: '2024-04-01',
      end: '2024-04-30',
    });
    expect(periodAt(calendar, october)).toMatchObject({ year: 2027, number: 7 });
    expect(fiscalYearOfDate('2026-03-31' as IsoDate, 4)).toBe(2026);
    expect(fiscalYearOfDate('2026-04-01' as IsoDate, 4)).toBe(2027);
    expect(fiscalYearOfDate('2026-04-01' as IsoDate, 1)).toBe(2026);
  });
  it('knows leap years', () =>
    expect([
      parseIsoDate('2024-02-29'),
      parseIsoDate('2026-02-29'),
      parseIsoDate('2100-02-29'),
      parseIsoDate('2000-02-29'),
      parseIsoDate('2026-13-01'),
      parseIsoDate('2026-1-01'),
    ]).toEqual(['2024-02-29', null, null, '2000-02-29', null, null]));
  it('counts the adjustment period with the last month', () => {
    const march = periodOfYear(calendar, 2025, 12)!;
    expect([firstSlot(calendar, march), lastSlot(calendar, march)]).toEqual([11, 12]);
    expect(firstSlot(calendar, periodOfYear(calendar, 2026, 1)!)).toBe(13);
    expect(slotCount(calendar)).toBe(39);
  });
  it('refuses a start month that is none', () =>
    expect(() => monthCalendar({ startMonth: 13, firstYear: 2025, lastYear: 2025 })).toThrow('from 1 to 12'));
  it('finds the period of every day it holds, and of no other', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.date({ min: new Date('2019-01-01'), max: new Date('2029-12-31'), noInvalidDate: true }),
        (startMonth, day) => {
          const held = monthCalendar({ startMonth, firstYear: 2022, lastYear: 2025 });
          const date = day.toISOString().slice(0, 10) as IsoDate;
          const index = periodOfDate(held, date);
          const inside = date >= held.periods[0]!.start && date <= held.periods.at(-1)!.end;
          expect(index !== null).toBe(inside);
          if (index !== null) {
            expect(date >= periodAt(held, index).start && date <= periodAt(held, index).end).toBe(true);
            expect(periodAt(held, index).year).toBe(fiscalYearOfDate(date, startMonth));
          }
        },
      ),
    ));
});

describe('spans as of October 2026, period 7', () => {
  it.each([
    ['month', ['2026-10', '2026-10']],
    ['quarter', ['2026-10', '2026-12']],
    ['quarterToDate', ['2026-10', '2026-10']],
    ['yearToDate', ['2026-04', '2026-10']],
    ['fullYear', ['2026-04', '2027-03']],
    ['trailingTwelve', ['2025-11', '2026-10']],
    ['restOfYear', ['2026-11', '2027-03']],
    ['fromBeginning', ['2024-04', '2026-10']],
  ] as const)('%s', (kind, expected) => expect(keys({ kind })).toEqual(expected));
  it('shifts by months, quarters and years', () => {
    expect(keys({ kind: 'month', shift: { months: -1 } })).toEqual(['2026-09', '2026-09']);
    expect(keys({ kind: 'quarter', shift: { quarters: -1 } })).toEqual(['2026-07', '2026-09']);
    expect(keys({ kind: 'yearToDate', shift: { years: -1 } })).toEqual(['2025-04', '2025-10']);
  });
  it('stays where it is pinned', () => expect(keys({ kind: 'month', pinnedTo: '2025-06' })).toEqual(['2025-06', '2025-06']));
  it('tells why it has no months', () => {
    expect(keys({ kind: 'month', shift: { years: -3 } })).toBe('outsideCalendar');
    expect(keys({ kind: 'month', pinnedTo: '1999-01' })).toBe('outsideCalendar');
    expect(keys({ kind: 'restOfYear' }, periodOfKey(calendar, '2027-03')!)).toBe('emptySpan');
    expect(keys({ kind: 'trailingTwelve' }, periodOfKey(calendar, '2024-05')!)).toBe('outsideCalendar');
  });
  it('moves with the month: every kind holds together and ends where it says', () =>
    fc.assert(
      fc.property(fc.constantFrom(...SPAN_KINDS), fc.integer({ min: 0, max: 35 }), (kind, asOf) => {
        const resolved = resolveSpan(calendar, { kind }, { asOf: asOf as PeriodIndex });
        if (!resolved.ok) return;
        expect(resolved.span.from).toBeLessThanOrEqual(resolved.span.to);
        if (['month', 'quarterToDate', 'yearToDate', 'trailingTwelve', 'fromBeginning'].includes(kind)) expect(resolved.span.to).toBe(asOf);
      }),
    ));
  it('reads in words', () => {
    expect(spanWords(calendar, { from: periodOfKey(calendar, '2026-04')!, to: october })).toBe('Apr to Oct 2026');
    expect(spanWords(calendar, { from: periodOfKey(calendar, '2025-11')!, to: october })).toBe('Nov 2025 to Oct 2026');
    expect(longPeriodName(calendar, october)).toBe('October 2026');
  });
});
