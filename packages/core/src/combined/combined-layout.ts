import {
  type FiscalCalendar,
  fiscalYearOfDate,
  lastSlot,
  monthCalendar,
  periodAt,
  periodOfKey,
  periodOfSlot,
  type Slot,
} from '../calendar/fiscal-calendar.ts';
import { type Account, type Chart, isIncomeAccount } from '../chart/account.ts';
import { compareNaturally } from '../text/compare-naturally.ts';

/** The dimension that tells the companies of combined books apart. */
export const COMPANY = 'company';
/** Its value for what is left out between the companies. */
export const INTERCOMPANY = 'Intercompany';
/** Accounts that combined books have beside those of their companies. */
const TRANSLATION_ACCOUNT = {
  ...{ number: 'TRANSLATION', name: 'Translation difference', class: 'capital', group: 'Translation difference' },
  ...{ active: true, polarity: null, cashflow: null },
} as const satisfies Account;
const DIFFERENCE_ACCOUNT = {
  ...{ number: 'INTERCOMPANY', name: 'Intercompany difference', class: 'otherCurrentAssets', group: 'Intercompany difference' },
  ...{ active: true, polarity: null, cashflow: null },
} as const satisfies Account;

/** A company as combined books see it. */
export type MemberLayout = { readonly name: string; readonly chart: Chart; readonly calendar: FiscalCalendar };

/** One chart and one calendar for several companies, and where the accounts and months of each stand in them. */
export type CombinedLayout = {
  readonly chart: Chart;
  readonly calendar: FiscalCalendar;
  readonly isIncome: readonly boolean[];
  /** chart position of a member's account, by member and its own chart position */
  readonly positions: readonly (readonly number[])[];
  /** slot of a member's slot: the same calendar month */
  readonly slotOf: (member: number, slot: Slot) => Slot;
  /** chart position of what translation leaves over */
  readonly translation: number;
  /** chart position of what intercompany accounts leave over when they do not agree */
  readonly difference: number;
};

/**
 * Lays several companies out in one chart and one calendar of fiscal years. Accounts with the same number, name,
 * class, group and cash flow category become one; where only the number is the same, the later company's
 * gets its initials: `4010 GR`. Months are the same calendar months; adjustment periods count with the month they follow.
 * @param startMonth first month of the combined fiscal year, 1 to 12
 * @throws RangeError without a company
 */
export function combinedLayout(members: readonly MemberLayout[], startMonth: number): CombinedLayout {
  const months = members.flatMap(({ calendar }) => [calendar.periods[0]!, calendar.periods.at(-1)!]);
  if (months.length === 0) throw new RangeError('combined books need a company');
  const years = months.map(({ start }) => fiscalYearOfDate(start, startMonth));
  const calendar = monthCalendar({ startMonth, firstYear: Math.min(...years), lastYear: Math.max(...years) });
  const { accounts, numbers } = joinedAccounts(members);
  const sorted = [...accounts].sort((a, b) => compareNaturally(a.number, b.number));
  const chart = { accounts: [...sorted, DIFFERENCE_ACCOUNT, TRANSLATION_ACCOUNT] };
  const positionOf = new Map(chart.accounts.map(({ number }, position) => [number, position]));
  const slots = members.map((member) => member.calendar.periods.map(({ key }) => lastSlot(calendar, periodOfKey(calendar, key)!)));
  return {
    chart,
    calendar,
    isIncome: chart.accounts.map(isIncomeAccount),
    positions: numbers.map((of) => of.map((number) => positionOf.get(number)!)),
    slotOf: (member, slot) => slots[member]![periodOfSlot(members[member]!.calendar, slot)]!,
    difference: chart.accounts.length - 2,
    translation: chart.accounts.length - 1,
  };
}

/** The accounts of all, and the number each member's account has among them. */
function joinedAccounts(members: readonly MemberLayout[]): { accounts: readonly Account[]; numbers: readonly (readonly string[])[] } {
  const joined = new Map<string, Account>();
  const marks = marksOf(members.map(({ name }) => name));
  const numbers = members.map(({ chart }, member) =>
    chart.accounts.map((account) => {
      const there = joined.get(account.number);
      if (there && isSame(there, account)) return account.number;
      const number = there ? `${account.number} ${marks[member]}` : account.number;
      joined.set(number, { ...account, number });
      return number;
    }),
  );
  return { accounts: [...joined.values()], numbers };
}

const isSame = (a: Account, b: Account): boolean =>
  a.name.toLowerCase() === b.name.toLowerCase() && a.class === b.class && a.group === b.group && a.cashflow === b.cashflow;

/** Initials of each company; with its place behind them where two have the same. */
function marksOf(names: readonly string[]): string[] {
  const initials = names.map((name) =>
    name
      .split(/[\s-]+/)
      .map((word) => word.charAt(0).toUpperCase())
      .join(''),
  );
  return initials.map((mark, index) => (initials.filter((each) => each === mark).length > 1 ? `${mark}${index + 1}` : mark));
}

/** The month a slot of the combined calendar counts with. */
export const monthOfSlot = (calendar: FiscalCalendar, slot: Slot): string => periodAt(calendar, periodOfSlot(calendar, slot)).key;
