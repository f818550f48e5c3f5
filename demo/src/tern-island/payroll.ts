import { dateIn, daysLater, type DemoMonth } from '../months.ts';
import { cents, costIn, type Department, type Setting, slice } from './setting.ts';
import { SEASONS } from './shape.ts';

type Staff = {
  readonly account: string;
  readonly department: Department;
  readonly yearly: number;
  readonly season?: readonly number[];
  readonly location?: string;
};
const STAFF: readonly Staff[] = [
  { account: '6010', department: 'Office', yearly: 22_500_000 },
  { account: '6010', department: 'Store', yearly: 15_500_000 },
  { account: '6010', department: 'Store', yearly: 6_500_000, location: 'Alder Harbor' },
  { account: '6010', department: 'Tours', yearly: 6_000_000 },
  { account: '6010', department: 'Workshop', yearly: 7_500_000 },
  { account: '5110', department: 'Workshop', yearly: 44_500_000 },
  { account: '5410', department: 'Tours', yearly: 28_500_000, season: SEASONS.tours },
];
const EMPLOYER_TAX = 0.078;
const WITHHELD = 0.2;

/** Payroll on the 15th and the last day: wages, withholdings, the employer's taxes. */
export function payroll({ journal, random }: Setting, month: DemoMonth): void {
  for (const day of [15, month.days]) {
    const date = dateIn(month, day);
    // The guides' second August payroll of 2026 was booked in September.
    const lateGuides = month.year === 2026 && month.month === 8 && day === month.days;
    const wages = STAFF.map((staff) => ({
      staff,
      amount: cents(((costIn(month, staff.yearly) * (staff.season?.[month.position] ?? 1 / 12)) / 2) * random.around(0.02)),
    }));
    const groups = lateGuides
      ? [wages.filter(({ staff }) => staff.account !== '5410'), wages.filter(({ staff }) => staff.account === '5410')]
      : [wages];
    groups.forEach((group, late) => {
      const gross = group.reduce((sum, { amount }) => sum + amount, 0);
      const employer = cents(gross * EMPLOYER_TAX);
      const withheld = cents(gross * WITHHELD);
      const on = late === 1 ? '2026-09-03' : date;
      const memo = late === 1 ? 'Guide payroll, August second half' : 'Payroll';
      journal.add({
        date: on,
        source: 'payroll',
        lines: [
          { account: '1020', amount: gross - withheld, memo: 'Funding of payroll' },
          { account: '1010', amount: -(gross - withheld), memo: 'Funding of payroll' },
        ],
      });
      journal.add({
        date: on,
        source: 'payroll',
        lines: [
          ...group.map(({ staff, amount }) => ({
            account: staff.account,
            amount,
            memo,
            dimensions: slice(staff.department, staff.location),
          })),
          { account: '6020', amount: employer, memo: 'Employer payroll taxes', dimensions: slice('Office') },
          { account: '2110', amount: -(employer + withheld), memo: 'Payroll taxes' },
          { account: '1020', amount: -(gross - withheld), memo },
        ],
      });
    });
  }
  const owed = -journal.balance('2110', dateIn(month, month.days));
  const paid = daysLater(dateIn(month, month.days), 12);
  if (owed > 0)
    journal.add({
      date: paid,
      source: 'bank',
      lines: [
        { account: '2110', amount: owed, memo: 'Payroll taxes paid' },
        { account: '1010', amount: -owed, memo: 'Payroll taxes paid' },
      ],
    });
}
