import { type FiscalCalendar, type PeriodIndex, periodOfSlot, slotCount } from '../calendar/fiscal-calendar.ts';
import { type Chart, isIncomeAccount, signOf } from '../chart/account.ts';
import { BalanceCube, type BalanceFact } from '../ledger/balance-cube.ts';
import { NO_FILTER } from '../ledger/dimension.ts';
import { type Minor, minor } from '../money/minor.ts';
import type { ColumnSet } from './column-set.ts';
import { evaluate } from './evaluate.ts';
import { actualScenario } from './scenarios.ts';
import { shippedView } from './shipped/views.ts';
import { planStatement } from './statement-plan.ts';

/** What a change of postings does, month by month; amounts in the shown sign of their account or line. */
export type ChangeEffect = {
  readonly accounts: readonly { readonly account: number; readonly period: PeriodIndex; readonly change: Minor }[];
  readonly lines: readonly { readonly statement: string; readonly line: string; readonly period: PeriodIndex; readonly change: Minor }[];
};

const MONTH: ColumnSet = {
  key: 'effect',
  name: 'Effect',
  blocks: [
    {
      key: 'month',
      heading: '{span}',
      span: { kind: 'month' },
      columns: [{ kind: 'amount', key: 'change', heading: 'Change', scenario: 'actual', span: { kind: 'month' } }],
    },
  ],
};
const STATEMENTS = ['income', 'balance'] as const;

/**
 * What balances gain, as lines of the income statement and the balance sheet show it in each month that is touched:
 * the statements of the gain alone, computed as any other. A month whose lines all stay the same is left out.
 * @param facts debit positive
 */
export function changeEffect(
  facts: readonly BalanceFact[],
  books: { readonly chart: Chart; readonly calendar: FiscalCalendar },
): ChangeEffect {
  const { chart, calendar } = books;
  const cube = new BalanceCube({ isIncome: chart.accounts.map(isIncomeAccount), slots: slotCount(calendar) });
  cube.post(facts);
  const periods = [...new Set(facts.map(({ slot }) => periodOfSlot(calendar, slot)))].sort((a, b) => a - b);
  const byAccount = new Map<string, { account: number; period: PeriodIndex; change: number }>();
  for (const { account, slot, amount } of facts) {
    const period = periodOfSlot(calendar, slot);
    const held = byAccount.get(`${account} ${period}`) ?? { account, period, change: 0 };
    byAccount.set(`${account} ${period}`, held);
    held.change += signOf(chart.accounts[account]!) * amount;
  }
  const last = calendar.periods.at(-1)!.index;
  const lines = STATEMENTS.flatMap((key) => {
    const { name, lineSet } = shippedView(key)!;
    return periods.flatMap((period) => {
      const { plan } = planStatement({ lineSet, columnSet: MONTH, chart, calendar, asOf: period });
      const statistics = { value: () => null };
      const source = actualScenario({ ...books, statistics, firstPosted: null }, { cube, last });
      const { cells } = evaluate(plan, () => source, NO_FILTER);
      return plan.lines.flatMap(({ index, name: line, kind, hidden }) => {
        const cell = cells[index]![0]!;
        // accounts are listed by themselves
        if (hidden || kind === 'account' || cell.kind !== 'amount' || cell.value === 0) return [];
        return [{ statement: name, line, period, change: cell.value }];
      });
    });
  });
  const accounts = [...byAccount.values()].flatMap(({ change, ...of }) => (change === 0 ? [] : [{ ...of, change: minor(change) }]));
  accounts.sort((a, b) => a.period - b.period || a.account - b.account);
  return { accounts, lines };
}
