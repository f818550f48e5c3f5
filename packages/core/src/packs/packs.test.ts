import { describe, expect, it } from 'vitest';

import { monthCalendar, periodOfKey } from '../calendar/fiscal-calendar.ts';
import type { IsoDate } from '../calendar/iso-date.ts';
import { COMPARISONS, findingColumns } from '../findings/finding-columns.ts';
import { shippedView } from '../statements/shipped/views.ts';
import { comparisonColumns } from './comparison-columns.ts';
import { issueChanges, type IssuedFigure } from './issue-changes.ts';
import { quarterColumns } from './quarter-columns.ts';
import { EMPTY_TEXT, isEmptyText, lengthOfText, type RichText, textOf, viewsOfText } from './rich-text.ts';
import { type DateRule, sectionDate } from './section-date.ts';
import { SHIPPED_PACKS, shippedPack } from './shipped-packs.ts';

const calendar = monthCalendar({ startMonth: 4, firstYear: 2026, lastYear: 2027 });
const october = periodOfKey(calendar, '2026-10')!;
const at = (rule: DateRule, meeting = '2026-11-18', month = october) => {
  const date = sectionDate(calendar, rule, { month, meeting: meeting as IsoDate });
  return date && [calendar.periods[date.asOf]!.key, date.from, date.to];
};

describe('the date of a section', () => {
  it.each<[DateRule, [string, string, string]]>([
    [{ kind: 'month' }, ['2026-10', '2026-10-01', '2026-10-31']],
    [{ kind: 'monthBefore' }, ['2026-09', '2026-09-01', '2026-09-30']],
    [{ kind: 'sameMonthLastYear' }, ['2025-10', '2025-10-01', '2025-10-31']],
    // the fiscal year begins in April: its third quarter in October
    [{ kind: 'quarterToDate' }, ['2026-10', '2026-10-01', '2026-10-31']],
    [{ kind: 'meeting' }, ['2026-11', '2026-11-01', '2026-11-18']],
    [{ kind: 'fixed', month: '2026-03' }, ['2026-03', '2026-03-01', '2026-03-31']],
  ])('%o', (rule, expected) => {
    expect(at(rule)).toEqual(expected);
  });
  it('of a quarter to date begins with the quarter, whatever its month', () => {
    expect(at({ kind: 'quarterToDate' }, '2027-01-05', periodOfKey(calendar, '2026-12')!)).toEqual(['2026-12', '2026-10-01', '2026-12-31']);
    expect(at({ kind: 'quarterToDate' }, '2027-01-05', periodOfKey(calendar, '2026-04')!)).toEqual(['2026-04', '2026-04-01', '2026-04-30']);
  });
  it('is none where the calendar ends: the month before the first, a year before, a meeting after the last year', () => {
    const first = periodOfKey(calendar, '2025-04')!;
    expect(at({ kind: 'monthBefore' }, '2026-11-18', first)).toBeNull();
    expect(at({ kind: 'sameMonthLastYear' }, '2026-11-18', first)).toBeNull();
    expect(at({ kind: 'fixed', month: '2031-01' })).toBeNull();
    expect(at({ kind: 'meeting' }, '2027-04-01')).toBeNull();
  });
  it('of the meeting moves with the day, and a leap day is a day like others', () => {
    const leap = monthCalendar({ startMonth: 1, firstYear: 2028, lastYear: 2028 });
    const date = sectionDate(leap, { kind: 'meeting' }, { month: periodOfKey(leap, '2028-01')!, meeting: '2028-02-29' as IsoDate });
    expect(date).toMatchObject({ to: '2028-02-29', isDay: true });
  });
});

describe('columns of a comparison', () => {
  it.each(COMPARISONS)('of %s have headings that a reader knows', (comparison) => {
    const { blocks } = comparisonColumns(comparison);
    for (const { columns } of blocks) expect(columns.map(({ heading }) => heading).join(' ')).toMatch(/^[A-Z][a-z]+ [A-Z].*%$/);
  });
});

describe('columns of a quarter to date', () => {
  it('take the place of months, and keep their shifts; years to date stay', () => {
    const { blocks } = quarterColumns(findingColumns('priorYear'));
    expect(blocks[0]!.columns.slice(0, 2)).toMatchObject([
      { span: { kind: 'quarterToDate' } },
      { span: { kind: 'quarterToDate', shift: { years: -1 } } },
    ]);
    expect(blocks[1]!.span.kind).toBe('yearToDate');
  });
  it('leave blocks that repeat by month as they are', () => {
    const { columnSet } = shippedView('income-months')!;
    expect(quarterColumns(columnSet).blocks.filter(({ repeat }) => repeat)).toEqual(columnSet.blocks.filter(({ repeat }) => repeat));
  });
});

const figure = (line: string, amount: number | null, text = amount === null ? '' : String(amount)): IssuedFigure => ({
  section: 'income',
  title: 'Income statement',
  line,
  lineName: line,
  column: 'month.actual',
  heading: 'Actual',
  text,
  amount,
});

describe('what a reissue changes', () => {
  it('is nothing between an issue and itself', () => {
    const issue = [figure('revenue', 100), figure('freight', null), figure('margin', null, '11.9%')];
    expect(issueChanges(issue, issue)).toEqual([]);
  });
  it('is listed line by line with both figures and their difference', () => {
    expect(issueChanges([figure('revenue', 100), figure('freight', 30)], [figure('revenue', 100), figure('freight', 55)])).toEqual([
      { title: 'Income statement', lineName: 'freight', heading: 'Actual', before: '30', after: '55', difference: 25 },
    ]);
  });
  it('counts a change that the rounded figure hides', () => {
    const [change] = issueChanges([figure('revenue', 100_049, '1,000')], [figure('revenue', 100_010, '1,000')]);
    expect(change).toMatchObject({ before: '1,000', after: '1,000', difference: -39 });
  });
  it('names figures that came and that went, and passes over blank ones', () => {
    const changes = issueChanges([figure('a', 1), figure('b', null)], [figure('c', 3), figure('d', null)]);
    expect(changes.map(({ lineName, before, after, difference }) => [lineName, before, after, difference])).toEqual([
      ['c', null, '3', null],
      ['a', '1', null, null],
    ]);
  });
});

describe('texts', () => {
  const rich: RichText = {
    type: 'doc',
    content: [
      {
        type: 'bulletList',
        content: [
          {
            type: 'listItem',
            content: [
              { type: 'paragraph', content: [{ type: 'figure', attrs: { view: 'income', line: 'revenue', column: 'month.actual' } }] },
            ],
          },
        ],
      },
      { type: 'figureTable', attrs: { view: 'ratios', lines: ['current_ratio'] } },
    ],
  };
  it('are empty without a character, a figure or a table', () => {
    expect([EMPTY_TEXT, textOf('', '  '), textOf('a'), rich].map(isEmptyText)).toEqual([true, true, false, false]);
  });
  it('name the views they show, and count their own characters', () => {
    expect([viewsOfText(rich), lengthOfText(rich), lengthOfText(textOf('ab', 'c'))]).toEqual([['income', 'ratios'], 0, 3]);
  });
});

describe('the packs that come with the application', () => {
  it('name views that exist, and no accounts', () => {
    for (const { sections } of SHIPPED_PACKS)
      for (const section of sections) if ('view' in section) expect(shippedView(section.view)?.key).toBe(section.view);
  });
  it('name lines that their views have', () => {
    const keysOf = (view: string): string[] => {
      const all: string[] = [];
      const visit = (lines: readonly { readonly key: string; readonly lines?: unknown }[]): void =>
        lines.forEach((line) => {
          all.push(line.key);
          if (Array.isArray(line.lines)) visit(line.lines as never);
        });
      visit(shippedView(view)!.lineSet.lines);
      return all;
    };
    for (const { sections } of SHIPPED_PACKS)
      for (const section of sections) {
        if (section.kind === 'charts') expect(keysOf(section.view)).toEqual(expect.arrayContaining([...section.lines]));
        if (section.kind === 'measures') expect(keysOf('ratios')).toEqual(expect.arrayContaining([...section.lines]));
        if (section.kind === 'bridge') expect(keysOf(section.view)).toContain(section.line);
      }
  });
  it('have keys and section ids of their own', () => {
    expect(new Set(SHIPPED_PACKS.map(({ key }) => key)).size).toBe(SHIPPED_PACKS.length);
    for (const { sections } of SHIPPED_PACKS) expect(new Set(sections.map(({ id }) => id)).size).toBe(sections.length);
    expect(shippedPack('monthly-review')?.sections[0]?.kind).toBe('cover');
    expect(shippedPack('none')).toBeNull();
  });
  it('keep account numbers from lenders', () => {
    const statements = shippedPack('lender-pack')!.sections.filter((section) => section.kind === 'statement');
    expect(statements.every((section) => section.kind === 'statement' && section.display.accountNumbers === false)).toBe(true);
  });
});
