import { describe, expect, it } from 'vitest';

import { dateWords, momentWords } from './date-words.ts';

describe('dates', () => {
  it('are written one way, a day staying the day it is', () => {
    expect(dateWords('2026-11-01')).toBe('Nov 1, 2026');
    expect(dateWords('2026-12-31')).toBe('Dec 31, 2026');
    expect([dateWords(''), dateWords(null)]).toEqual(['', '']);
  });
  it('have the time after them where it is given', () =>
    expect(momentWords(new Date(2026, 10, 27, 15, 16).toISOString())).toMatch(/^Nov 27, 2026, 3:16\sPM$/));
});
