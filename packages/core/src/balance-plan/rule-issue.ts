import { type Chart, isBalanceAccount } from '../chart/account.ts';
import type { AccountClass } from '../chart/account-class.ts';
import type { BalanceRule, BalanceRuleKind } from './balance-rule.ts';
import type { PlannedRule } from './planned-rules.ts';

const OTHER: readonly BalanceRuleKind[] = ['levelOfLastYear', 'movementOfLastYear', 'daysOf', 'movements', 'stays'];
const EQUITY: readonly BalanceRuleKind[] = ['movementOfLastYear', 'movements', 'stays'];
const DEBT: readonly BalanceRuleKind[] = ['loan', 'levelOfLastYear', 'movementOfLastYear', 'movements', 'stays'];
const TRADE: readonly BalanceRuleKind[] = ['daysOf', 'levelOfLastYear', 'movementOfLastYear', 'movements', 'stays'];
const OFFERED: Readonly<Partial<Record<AccountClass, readonly BalanceRuleKind[]>>> = {
  cash: ['rest', 'movements', 'stays'],
  receivables: TRADE,
  inventory: TRADE,
  otherCurrentAssets: OTHER,
  fixedAssets: ['purchases', 'movementOfLastYear', 'movements', 'stays'],
  accumulatedDepreciation: ['depreciation', 'movementOfLastYear', 'movements', 'stays'],
  otherAssets: OTHER,
  payables: TRADE,
  shortTermDebt: DEBT,
  otherCurrentLiabilities: ['levelOfLastYear', 'movementOfLastYear', 'tax', 'daysOf', 'movements', 'stays'],
  longTermDebt: DEBT,
  otherLiabilities: OTHER,
  capital: EQUITY,
  retainedEarnings: ['movements', 'stays'],
  dividends: EQUITY,
};
// income tax and depreciation are taken up once
const TAKEN_ONCE: readonly BalanceRuleKind[] = ['tax', 'depreciation'];

/** The rules accounts of a class may have, the likeliest first; none for classes of income. */
export const balanceRulesFor = (of: AccountClass): readonly BalanceRuleKind[] => OFFERED[of] ?? [];

export type BalanceRuleIssue =
  | { readonly code: 'unknownAccount' | 'notBalance'; readonly account: string }
  | { readonly code: 'notOffered'; readonly account: string; readonly rule: BalanceRuleKind; readonly offered: readonly BalanceRuleKind[] }
  /** another account takes that already */
  | { readonly code: 'takenBy'; readonly rule: BalanceRuleKind; readonly account: string }
  /** what is left must land on an account of cash */
  | { readonly code: 'takesRest'; readonly account: string };

/** Why an account cannot have a rule; null when it can. @param rules of the other accounts as they stand */
export function balanceRuleIssue(
  chart: Chart,
  rules: ReadonlyMap<string, PlannedRule>,
  { account: number, rule }: { readonly account: string; readonly rule: BalanceRule },
): BalanceRuleIssue | null {
  const account = chart.accounts.find((each) => each.number === number);
  if (!account) return { code: 'unknownAccount', account: number };
  if (!isBalanceAccount(account)) return { code: 'notBalance', account: number };
  const offered = balanceRulesFor(account.class);
  if (!offered.includes(rule.kind)) return { code: 'notOffered', account: number, rule: rule.kind, offered };
  const others = [...rules].filter(([other]) => other !== number);
  const taker = TAKEN_ONCE.includes(rule.kind) ? others.find(([, other]) => other.rule.kind === rule.kind) : undefined;
  if (taker) return { code: 'takenBy', rule: rule.kind, account: taker[0] };
  const isLastTaker = account.class === 'cash' && rule.kind !== 'rest' && !others.some(([, other]) => other.rule.kind === 'rest');
  return isLastTaker ? { code: 'takesRest', account: number } : null;
}
