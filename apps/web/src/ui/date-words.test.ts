import { describe, expect, it } from 'vitest';

import { dateWords, momentWords, monthEndWords, zonedMomentWords } from './date-words.ts';

describe('dates', () => {
  it('are written one way, a day staying the day it is', () => {
    expect(dateWords('2026-11-01')).toBe('Nov 1, 2026');
    expect(dateWords('2026-12-31')).toBe('Dec 31, 2026');
    expect([dateWords(''), dateWords(null)]).toEqual(['', '']);
  });
  it('of a month end are its last day, leap years included', () =>
    expect(['2026-10', '2026-02', '2028-02', '2026-12'].map(monthEndWords)).toEqual([
      'Oct 31, 2026',
      'Feb 28, 2026',
      'Feb 29, 2028',
      'Dec 31, 2026',
    ]));
  it('have the time after them where it is given', () =>
    expect(momentWords(new Date(2026, 10, 27, 15, 16).toISOString())).toMatch(/^Nov 27, 2026, 3:16\sPM$/));
  it('have the zone named where it is not the reader’s, standard and daylight time apart', () => {
    expect(zonedMomentWords('2026-11-05T12:30:00Z', 'America/New_York')).toMatch(/^Nov 5, 2026, 7:30\sAM EST$/);
    expect(zonedMomentWords('2026-07-07T11:30:00Z', 'America/New_York')).toMatch(/^Jul 7, 2026, 7:30\sAM EDT$/);
    expect(zonedMomentWords('2026-11-04T22:30:00Z', 'Asia/Tokyo')).toMatch(/^Nov 5, 2026, 7:30\sAM GMT\+9$/);
  });
});
