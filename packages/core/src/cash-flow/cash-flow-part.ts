import type { Minor } from '../money/minor.ts';

/**
 * The dimension by which lines of the statement of cash flows read their figures: which part of the
 * statement an amount belongs to. It is derived from the entries and never stored with them.
 */
export const CASH_FLOW = 'cash flow';

/** The parts of the statement, and what their amounts are (debit positive, so that a line in credit sign shows cash in as positive). */
export const CASH_FLOW_PARTS = {
  operatingChange: 'change in operating balances',
  depreciation: 'depreciation and amortization',
  disposal: 'gains and losses on disposal',
  otherNoncash: 'other noncash items',
  investingOut: 'investing payments',
  investingIn: 'investing receipts',
  financingOut: 'financing payments',
  financingIn: 'financing receipts',
  noncashDebtOrEquity: 'acquired for debt or equity',
  noncashCredit: 'acquired on credit',
  noncashExchange: 'acquired in exchange',
  interestPaid: 'interest paid',
  incomeTaxPaid: 'income taxes paid',
} as const;
export type CashFlowPart = keyof typeof CASH_FLOW_PARTS;

/** An amount of an entry's line that belongs to a part of the statement of cash flows. */
export type CashFlowMovement<Line> = { readonly line: Line; readonly part: CashFlowPart; readonly amount: Minor };
