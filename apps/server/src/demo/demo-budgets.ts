import type { NewBudgetInput } from '@wise-margin/contract';

import { type BudgetEdits, DRAFT_EDITS, PLAN_EDITS } from './demo-edits.ts';

/** A budget of a demo company: how it is created, what is changed in it, and whether it is approved. */
export type DemoBudget = { readonly budget: NewBudgetInput; readonly edits: readonly BudgetEdits[]; readonly approve: boolean };

export const TERN_BUDGETS: readonly DemoBudget[] = [
  {
    budget: {
      year: 2026,
      from: 2025,
      name: 'Annual plan',
      change: '4',
      changeByClass: { revenue: '7', revenueDeductions: '7', costOfSales: '6', depreciation: '0', interestExpense: '0' },
      roundTo: 10_000,
    },
    edits: [],
    approve: true,
  },
  {
    budget: {
      year: 2027,
      from: 2026,
      name: 'Annual plan',
      change: '3',
      changeByClass: { revenue: '6', revenueDeductions: '6', costOfSales: '5', depreciation: '2', interestExpense: '-4' },
      roundTo: 10_000,
    },
    edits: PLAN_EDITS,
    approve: true,
  },
  {
    budget: {
      year: 2028,
      from: 2026,
      name: 'Working draft',
      change: '6',
      changeByClass: { revenue: '11', revenueDeductions: '11', costOfSales: '10' },
      roundTo: 10_000,
    },
    edits: DRAFT_EDITS,
    approve: false,
  },
];
export const GANNET_BUDGETS: readonly DemoBudget[] = [
  { budget: { year: 2026, from: 2025, name: 'House budget', change: '3', roundTo: 10_000 }, edits: [], approve: true },
];
