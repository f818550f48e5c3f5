import { describe, expect, it } from 'vitest';

import { monthCalendar } from '../calendar/fiscal-calendar.ts';
import { readStatisticsFile } from './statistics-file.ts';

const calendar = monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027 });
const read = (...rows: string[]) =>
  readStatisticsFile(
    rows.map((row) => row.split(',')),
    calendar,
  );
const codes = (...rows: string[]) => read(...rows).issues.map(({ row, column, code }) => `${row} ${column} ${code}`);

describe('a statistics file', () => {
  it('gives values by series, fiscal period and dimensions; empty rows and values of dimensions are none', () => {
    expect(read('series,period,value,department', 'headcount,2027-07,14,Workshop', '', 'headcount,2026-01,.5,').facts).toEqual([
      { series: 'headcount', period: 18, dimensions: { department: 'Workshop' }, value: 14 },
      { series: 'headcount', period: 0, dimensions: {}, value: 0.5 },
    ]);
  });
  it.each([
    ['nothing', [''], ['0  emptyFile']],
    ['a column too few', ['series,value', 'a,1'], ['1 period missingColumn']],
    ['a column twice', ['series,period,value,value', 'a,2026-01,1,2'], ['1 value repeatedColumn']],
    ['cells too many', ['series,period,value', 'a,2026-01,1,2'], ['2  cellCount']],
    [
      'no number',
      ['series,period,value', 'a,2026-01,ten', 'a,2026-02,', 'a,2026-03,1e5'],
      ['2 value notANumber', '3 value required', '4 value notANumber'],
    ],
    [
      'periods',
      ['series,period,value', 'a,Oct 2026,1', 'a,2026-13,1', 'a,2031-01,1', 'a,,1'],
      ['2 period periodLayout', '3 period periodLayout', '4 period outsideYears', '5 period required'],
    ],
    ['a value given twice', ['series,period,value', 'a,2026-01,1', 'a,2026-01,2'], ['3 series repeated']],
  ])('refuses %s', (_, rows, expected) => expect(codes(...rows)).toEqual(expected));
});
