import type { PackListDto } from '@wise-margin/contract';
import { describe, expect, it } from 'vitest';

import { packTasks } from './pack-tasks.ts';

type Listed = PackListDto[number];
const issuedFor = (month: string, monthName: string) => ({ month, monthName }) as Listed['lastIssue'];
const pack = (state: Listed['state'], lastIssue: Listed['lastIssue']): Listed => ({
  key: 'review',
  name: 'Monthly review',
  note: '',
  scope: 'builtIn',
  splitBy: null,
  sections: 12,
  state,
  lastIssue,
});
const wordsOf = (listed: Listed): string[] => packTasks([listed], '2026-10').map(({ words }) => words);
const SEPTEMBER = issuedFor('2026-09', 'September 2026');

describe('packs among the open tasks', () => {
  it('are those begun for the month, whatever was issued before', () => {
    expect(wordsOf(pack('draft', null))).toEqual(['Monthly review is a draft']);
    expect(wordsOf(pack('inReview', SEPTEMBER))).toEqual(['Monthly review is in review']);
  });

  it('are due when an earlier month was issued and this one was not begun', () => {
    expect(wordsOf(pack(null, SEPTEMBER))).toEqual(['Monthly review is due, last issued for September 2026']);
  });

  it('are not those issued for the month, for a later one, or never', () => {
    expect(wordsOf(pack('issued', issuedFor('2026-10', 'October 2026')))).toEqual([]);
    expect(wordsOf(pack(null, issuedFor('2026-11', 'November 2026')))).toEqual([]);
    expect(wordsOf(pack(null, null))).toEqual([]);
  });

  it('lead to the pack in its month', () => {
    expect(packTasks([pack('draft', null)], '2026-10')[0]!.to).toBe('packs/review?asOf=2026-10');
  });
});
