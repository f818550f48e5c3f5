import type { DemoLine, Journal } from '../journal.ts';
import { dateIn, daysLater, type DemoMonth } from '../months.ts';
import type { Random } from '../random.ts';
import { COST_GROWTH } from './shape.ts';

export const LAST_DATE = '2026-10-31';
export const DEPARTMENTS = ['Workshop', 'Store', 'Tours', 'Office'] as const;
export type Department = (typeof DEPARTMENTS)[number];

/** What every activity of the demo writes with. */
export type Setting = { readonly journal: Journal; readonly random: Random };
export type Slice = { readonly department?: string; readonly location?: string; readonly project?: string };

/** Dimensions of a line, the usual location filled in. */
export const slice = (department: Department, location = 'Tern Island', project?: string): Slice => ({
  department,
  location,
  ...(project ? { project } : {}),
});
export const cents = (amount: number): number => Math.round(amount);
/** A cost of the first year, raised a little every year. */
export const costIn = (month: DemoMonth, firstYear: number): number => cents(firstYear * COST_GROWTH ** month.age);

export type Bill = {
  readonly month: DemoMonth;
  readonly day: number;
  readonly vendor: string;
  readonly document: string;
  readonly memo: string;
  readonly lines: readonly DemoLine[];
  /** days until it is paid */
  readonly terms?: number;
  /** what is paid, and when, where it is not the whole on the due date */
  readonly payments?: readonly { readonly daysAfterDue: number; readonly share: number }[];
};

/** Books a vendor's bill and what is paid of it. */
export function bill(
  { journal }: Setting,
  { month, day, vendor, document, memo, lines, terms = 30, payments = [{ daysAfterDue: 0, share: 1 }] }: Bill,
): void {
  const date = dateIn(month, day);
  const due = daysLater(date, terms);
  const total = lines.reduce((sum, line) => sum + line.amount, 0);
  const party = { party: vendor, document };
  journal.add({
    date,
    source: 'purchases',
    lines: [...lines.map((line) => ({ memo, ...party, ...line })), { account: '2010', amount: -total, memo, due, ...party }],
  });
  for (const { daysAfterDue, share } of payments) {
    const amount = cents(total * share);
    journal.add({
      date: daysLater(due, daysAfterDue),
      source: 'payments',
      lines: [
        { account: '2010', amount, memo: `Payment of ${document}`, ...party },
        { account: '1010', amount: -amount, memo: `Payment of ${document}`, ...party },
      ],
    });
  }
}
