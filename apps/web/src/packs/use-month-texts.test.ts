import type { PackMonthDto } from '@wise-margin/contract';
import { textOf } from '@wise-margin/core';
import { describe, expect, it } from 'vitest';

import { isOvertaken } from './use-month-texts.ts';

const month = (texts: PackMonthDto['texts']): PackMonthDto => ({
  pack: 'monthly-review',
  month: '2026-10',
  monthName: 'October 2026',
  state: 'draft',
  meeting: null,
  texts,
  version: 1,
  issues: [],
});
const [before, mine, theirs] = [textOf('before'), textOf('mine'), textOf('theirs')];

describe('a month that was read again', () => {
  it('overtakes who is writing the same text, and nobody else', () => {
    const base = month({ summary: before, outlook: before });
    const now = month({ summary: theirs, outlook: before });
    expect(isOvertaken({ base, now, typed: { summary: mine } })).toBe(true);
    expect(isOvertaken({ base, now, typed: { outlook: mine } })).toBe(false);
    expect(isOvertaken({ base, now, typed: {} })).toBe(false);
  });
  it('does not when it has what was typed here', () => {
    expect(isOvertaken({ base: month({}), now: month({ summary: mine }), typed: { summary: mine } })).toBe(false);
  });
});
