import type { PeriodIndex } from '../calendar/fiscal-calendar.ts';
import type { Minor } from '../money/minor.ts';

/** Something in a balance plan that its reader has to know. */
export type BalancePlanIssue =
  /** months between the ledger's last and the plan's first, in a year without an approved budget: a year before stands in */
  | { readonly code: 'noApprovedBudget'; readonly from: PeriodIndex; readonly to: PeriodIndex }
  /** such months without any figure to stand in for them: they bring no income */
  | { readonly code: 'noFigures'; readonly from: PeriodIndex; readonly to: PeriodIndex }
  /** what an account's rule draws on is not there, in so many months: its balance stays */
  | { readonly code: 'nothingToFollow'; readonly account: string; readonly months: number }
  /** the schedules' interest of the year's planned months is not what the budget expenses in them */
  | {
      readonly code: 'interestDiffers';
      readonly scheduled: Minor;
      readonly budgeted: Minor;
      /** debt that owes something in the year and has no schedule, by account number */
      readonly unscheduled: readonly string[];
    }
  /** no account of cash, so that nothing can take what is left */
  | { readonly code: 'noCash' };

/** Interest of a month by the loan schedules and as it is budgeted, in minor units. */
export type InterestMonth = { readonly period: PeriodIndex; readonly scheduled: Minor; readonly budgeted: Minor };
