import { describe, expect, it } from 'vitest';

import type { IsoDate } from '../calendar/iso-date.ts';
import type { Minor } from '../money/minor.ts';
import { correctingEntry, movingLines, nextMonth, reversingEntry } from './adjusting-entry.ts';
import type { EntryContent, LineContent } from './entry-content.ts';

const line = (account: string, amount: number, more: Partial<LineContent> = {}): LineContent => ({
  account,
  amount: amount as Minor,
  dimensions: {},
  memo: 'Bill',
  party: 'Power',
  document: 'EL-1',
  due: null,
  ...more,
});
const entry = (lines: readonly LineContent[]): EntryContent => ({
  date: '2026-07-29',
  source: 'purchases',
  kind: 'ordinary',
  state: 'posted',
  lines,
});
const sumOf = ({ lines }: EntryContent) => lines.reduce((sum, { amount }) => sum + amount, 0);
const AT = { date: '2026-11-01', memo: 'Correction of PU-1' };

describe('a correcting entry', () => {
  const before = entry([line('6120', 22_143), line('2010', -22_143)]);
  it('posts the difference of amounts that were wrong', () => {
    const after = entry([line('6120', 2214), line('2010', -2214)]);
    const made = correctingEntry(before, after, AT);
    expect(made.lines.map(({ account, amount, memo, document }) => [account, amount, memo, document])).toEqual([
      ['6120', -19_929, 'Correction of PU-1', 'EL-1'],
      ['2010', 19_929, 'Correction of PU-1', 'EL-1'],
    ]);
    expect([made.date, made.kind, made.state, sumOf(made)]).toEqual(['2026-11-01', 'adjustment', 'posted', 0]);
  });
  it('takes a line back and writes it again where more than its amount differs', () => {
    const after = entry([line('6130', 22_143), line('2010', -22_143)]);
    expect(correctingEntry(before, after, AT).lines.map(({ account, amount }) => [account, amount])).toEqual([
      ['6120', -22_143],
      ['6130', 22_143],
    ]);
  });
  it('takes back lines that went and adds those that came', () => {
    const after = entry([line('6120', 20_000), line('2010', -22_143), line('6130', 2143)]);
    const made = correctingEntry(before, after, AT);
    expect([made.lines.map(({ account }) => account), sumOf(made)]).toEqual([['6120', '6130'], 0]);
    expect(sumOf(correctingEntry(after, before, AT))).toBe(0);
  });
  it('has no line when only the date differs, an empty dimension value being none', () => {
    expect(
      correctingEntry(
        before,
        { ...before, date: '2026-08-01', lines: before.lines.map((each) => ({ ...each, dimensions: { department: '' } })) },
        AT,
      ).lines,
    ).toEqual([]);
  });
});

it('a reversing entry has the same lines on the other side', () => {
  const made = reversingEntry(entry([line('6120', 500), line('2050', -500)]), '2026-08-01');
  expect([made.date, made.lines.map(({ account, amount }) => [account, amount])]).toEqual([
    '2026-08-01',
    [
      ['6120', -500],
      ['2050', 500],
    ],
  ]);
});

it('moving lines leave out what stays', () => {
  const made = movingLines(
    [
      { account: '6310', dimensions: { department: 'Workshop' }, amount: -900 as Minor },
      { account: '6220', dimensions: { department: 'Workshop' }, amount: 900 as Minor },
      { account: '6100', dimensions: {}, amount: 0 as Minor },
    ],
    'Wrong account',
  );
  expect(made.map(({ account, amount, memo }) => [account, amount, memo])).toEqual([
    ['6310', -900, 'Wrong account'],
    ['6220', 900, 'Wrong account'],
  ]);
});

it('a monthly date keeps its day, or the last of a shorter month', () => {
  const next = (date: string, day: number) => nextMonth(date as IsoDate, day);
  expect([next('2026-01-31', 31), next('2026-02-28', 31), next('2026-12-15', 15)]).toEqual(['2026-02-28', '2026-03-31', '2027-01-15']);
});
