import { type FiscalCalendar, periodAt, type PeriodIndex, periodOfDate } from '../calendar/fiscal-calendar.ts';
import { parseIsoDate } from '../calendar/iso-date.ts';
import type { Chart } from '../chart/account.ts';
import { LARGEST_MINOR, type Minor, minor } from '../money/minor.ts';
import { nearMatches } from '../text/near-matches.ts';
import type { DimensionCombination } from './dimension.ts';
import type { EntryKind, EntryState } from './entry.ts';

/** A line as a person writes it: its account by number. */
export type LineContent = {
  readonly account: string;
  /** debit positive */
  readonly amount: Minor;
  readonly dimensions: DimensionCombination;
  readonly memo: string;
  readonly party: string;
  readonly document: string;
  readonly due: string | null;
};
/** Everything of an entry that can be corrected. */
export type EntryContent = {
  readonly date: string;
  readonly source: string;
  readonly kind: EntryKind;
  readonly state: EntryState;
  readonly lines: readonly LineContent[];
};

/** What keeps an entry from being posted. `line` counts from 0; null is the entry as a whole. */
export type EntryIssue = {
  readonly line: number | null;
  readonly field: 'date' | 'account' | 'amount' | 'due' | 'lines';
  readonly code:
    | 'impossibleDate'
    | 'dateOutsideYears'
    | 'tooFewLines'
    | 'unknownAccount'
    | 'inactiveAccount'
    | 'zeroAmount'
    | 'tooLarge'
    | 'unbalanced';
  readonly text: string;
  /** accounts near an unknown one; what an unbalanced entry lacks, debit positive */
  readonly near?: readonly string[];
  readonly difference?: Minor;
};

/**
 * Everything that keeps an entry from being posted, all at once; empty when nothing does.
 * @param before the entry as it stands: its lines may stay on accounts that are inactive by now
 */
export function entryIssues(
  entry: EntryContent,
  { chart, calendar }: { readonly chart: Chart; readonly calendar: FiscalCalendar },
  before: EntryContent | null = null,
): EntryIssue[] {
  const accounts = new Map(chart.accounts.map((account) => [account.number, account]));
  const usedBefore = new Set(before?.lines.map(({ account }) => account));
  const issues: EntryIssue[] = [];
  const date = parseIsoDate(entry.date);
  if (date === null) issues.push({ line: null, field: 'date', code: 'impossibleDate', text: entry.date });
  else if (periodOfDate(calendar, date) === null) issues.push({ line: null, field: 'date', code: 'dateOutsideYears', text: entry.date });
  if (entry.lines.length < 2) issues.push({ line: null, field: 'lines', code: 'tooFewLines', text: String(entry.lines.length) });
  entry.lines.forEach(({ account, amount, due }, line) => {
    const known = accounts.get(account);
    if (!known)
      issues.push({
        line,
        field: 'account',
        code: 'unknownAccount',
        text: account,
        near: nearMatches(account, [...accounts.keys()]).slice(0, 3),
      });
    else if (!known.active && !usedBefore.has(account)) issues.push({ line, field: 'account', code: 'inactiveAccount', text: account });
    if (amount === 0) issues.push({ line, field: 'amount', code: 'zeroAmount', text: '0' });
    if (Math.abs(amount) > LARGEST_MINOR) issues.push({ line, field: 'amount', code: 'tooLarge', text: String(amount) });
    if (due !== null && parseIsoDate(due) === null) issues.push({ line, field: 'due', code: 'impossibleDate', text: due });
  });
  const difference = entry.lines.reduce((sum, { amount }) => sum + amount, 0);
  if (difference !== 0 && Math.abs(difference) <= LARGEST_MINOR)
    issues.push({ line: null, field: 'lines', code: 'unbalanced', text: String(difference), difference: minor(difference) });
  return issues;
}

/** The fiscal year and period an entry belongs to; null for a date outside the calendar. An adjustment dated in the year's last period belongs to the adjustment period where one is kept. */
export function periodOfEntry(
  { date, kind }: Pick<EntryContent, 'date' | 'kind'>,
  calendar: FiscalCalendar,
): { readonly year: number; readonly number: number; readonly index: PeriodIndex } | null {
  const parsed = parseIsoDate(date);
  const index = parsed === null ? null : periodOfDate(calendar, parsed);
  if (index === null) return null;
  const { year, number } = periodAt(calendar, index);
  return { year, number: kind === 'adjustment' && number === 12 && calendar.hasAdjustmentPeriod ? 13 : number, index };
}

/** A field that differs between two contents of an entry; `line` counts from 1, 0 is the entry as a whole. */
export type EntryDifference = {
  readonly line: number;
  readonly field: string;
  readonly from: string | Minor | null;
  readonly to: string | Minor | null;
};

const LINE_FIELDS = ['account', 'amount', 'memo', 'party', 'document', 'due'] as const;

/** Field by field what a correction changes; lines are compared place by place, one that was added or removed as a whole. */
export function entryDifferences(before: EntryContent, after: EntryContent): EntryDifference[] {
  const whole = (['date', 'source', 'kind', 'state'] as const).flatMap((field) =>
    before[field] === after[field] ? [] : [{ line: 0, field, from: before[field], to: after[field] }],
  );
  const lines = Array.from({ length: Math.max(before.lines.length, after.lines.length) }, (_, place): EntryDifference[] => {
    const [one, other] = [before.lines[place], after.lines[place]];
    const line = place + 1;
    const fields = LINE_FIELDS.flatMap((field) => {
      const [from, to] = [one?.[field] ?? null, other?.[field] ?? null];
      return from === to || ((from ?? '') === '' && (to ?? '') === '') ? [] : [{ line, field, from, to }];
    });
    const names = [...new Set([...Object.keys(one?.dimensions ?? {}), ...Object.keys(other?.dimensions ?? {})])];
    const dimensions = names.flatMap((field) => {
      const [from, to] = [one?.dimensions[field] ?? '', other?.dimensions[field] ?? ''];
      return from === to ? [] : [{ line, field, from, to }];
    });
    return [...fields, ...dimensions];
  });
  return [...whole, ...lines.flat()];
}
