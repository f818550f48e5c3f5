import type { BudgetBooks } from '../budgets/budget-books.ts';
import { type FiscalCalendar, periodOfKey } from '../calendar/fiscal-calendar.ts';
import type { BalanceRule } from './balance-rule.ts';
import type { MonthEndBalances } from './month-end-balances.ts';
import { ruleFromHistory } from './rule-from-history.ts';

/** The rule an account moves by, and what history alone would give it. */
export type PlannedRule = { readonly rule: BalanceRule; readonly fromHistory: BalanceRule; readonly isSet: boolean };

/** The method of an account: the one set manually, or the one from history. @param set methods set manually, by account number */
export function plannedRule(
  { chart, calendar }: BudgetBooks,
  set: ReadonlyMap<string, BalanceRule>,
  { levels, position }: { readonly levels: MonthEndBalances; readonly position: number },
): PlannedRule {
  const fromHistory = ruleFromHistory(chart, levels, position);
  const own = set.get(chart.accounts[position]!.number);
  return { rule: own ? recounted(own, calendar, levels.opening) : fromHistory, fromHistory, isSet: own !== undefined };
}

/** A loan's payments as they are left in the month the plan opens from: those of months posted since they were counted are made. */
function recounted(rule: BalanceRule, calendar: FiscalCalendar, opening: number): BalanceRule {
  const counted = rule.kind === 'loan' && rule.countedFrom !== undefined ? periodOfKey(calendar, rule.countedFrom) : null;
  if (rule.kind !== 'loan' || counted === null || opening < 0) return rule;
  const payments = Math.min(1200, Math.max(1, rule.payments - (opening - counted)));
  return { ...rule, payments, countedFrom: calendar.periods[opening]!.key };
}

/** The account that takes what is left: the one whose rule says so, or else the first of cash; null when there is none. */
export function balancingAccountOf({ chart }: BudgetBooks, rules: ReadonlyMap<number, PlannedRule>): number | null {
  const positions = [...rules.keys()].filter((position) => chart.accounts[position]!.class === 'cash');
  const takers = positions.filter((position) => rules.get(position)!.rule.kind === 'rest');
  return takers.find((position) => rules.get(position)!.isSet) ?? takers[0] ?? positions[0] ?? null;
}
