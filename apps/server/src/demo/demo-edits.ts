import type { budgetEditRequestSchema } from '@wise-margin/contract';
import type { z } from 'zod';

/** Edits of a budget in one slice, or in all together. */
export type BudgetEdits = z.input<typeof budgetEditRequestSchema>;

const inDepartment = (department: string) => ({ filter: { department: [department] } });
/** Guests a month that the tours department expects, from April to March, as it typed them. */
const GUESTS = {
  2027: [230, 690, 1860, 2900, 3140, 1480, 515, 90, 57, 47, 67, 135],
  2028: [260, 760, 2070, 3200, 3250, 1640, 560, 95, 60, 50, 72, 145],
} as const;
const guestsTimes = (year: keyof typeof GUESTS, rates: readonly { readonly from: number; readonly value: string }[]) => ({
  kind: 'driverRate' as const,
  driver: { name: 'Guests planned', months: [...GUESTS[year]] },
  rates: [...rates],
  unit: 100,
  roundTo: 10_000,
});

/** What was done to the annual plan of FY2027 before it was approved. */
export const PLAN_EDITS: readonly BudgetEdits[] = [
  // the tours department got no travel budget, and pays its permits by the guest
  {
    ...inDepartment('Tours'),
    edits: [
      { kind: 'year', account: '6410', text: '0', spread: 'even' },
      { kind: 'basis', account: '5420', basis: guestsTimes(2027, [{ from: 0, value: '3.85' }]) },
    ],
  },
  // a plan for electricity was typed, and two months of tours were held
  {
    edits: [
      { kind: 'year', account: '6120', text: '36k', spread: 'history' },
      { kind: 'month', account: '4110', month: 3, text: '*1.04' },
      { kind: 'month', account: '4110', month: 4, text: '*1.04' },
    ],
  },
];

/** What is done so far to the working draft of FY2028. */
export const DRAFT_EDITS: readonly BudgetEdits[] = [
  {
    edits: [{ kind: 'basis', account: '5010', basis: { kind: 'percentOf', accounts: '4010-4020', percent: '41', roundTo: 10_000 } }],
  },
  {
    ...inDepartment('Tours'),
    edits: [
      {
        kind: 'basis',
        account: '5410',
        basis: guestsTimes(2028, [
          { from: 0, value: '29.50' },
          { from: 5, value: '30.25' },
        ]),
      },
      { kind: 'note', account: '5410', month: 5, text: 'Guides’ pay agreed to rise from September' },
    ],
  },
  {
    ...inDepartment('Store'),
    edits: [
      {
        kind: 'basis',
        account: '6110',
        basis: {
          kind: 'fixedMonths',
          steps: [
            { from: 0, value: 790_000 },
            { from: 5, value: 830_000 },
          ],
        },
      },
      { kind: 'note', account: '6110', month: null, text: 'The landlord’s letter of May: 5% more from September' },
    ],
  },
];
