import type { BalancePlanDto } from '@wise-margin/contract';

import { SidePanel } from '../side-panel.tsx';

const DAYS_WORDS = { receivables: 'Receivables', inventory: 'Inventory', payables: 'Payables' } as const;
const mean = (days: readonly (number | null)[]): number | null => {
  const known = days.flatMap((each) => each ?? []);
  return known.length === 0 ? null : known.reduce((sum, each) => sum + each, 0) / known.length;
};

/** How every balance moves, those set manually marked; each leads to its method. */
export function AssumptionsPanel({ plan, choose }: { readonly plan: BalancePlanDto; readonly choose: (account: string) => void }) {
  const shown = plan.accounts.filter(({ rule, isSet }) => isSet || (rule.kind !== 'stays' && rule.kind !== 'rest'));
  const rest = plan.accounts.filter((account) => !shown.includes(account));
  const days = plan.days.flatMap(({ of, months }) => {
    const average = mean(months);
    return average === null ? [] : [`${DAYS_WORDS[of]} ${average.toFixed(0)}`];
  });
  return (
    <SidePanel
      title="Assumptions"
      words={
        days.length > 0
          ? `Average days at month end: ${days.join(', ')}. Choose an account to change its method.`
          : 'Choose an account to change its method.'
      }
    >
      <ul className="mt-2">
        {[...shown, ...rest].map((account) => (
          <li key={account.account} className="border-t border-hairline py-1">
            <button type="button" className="w-full text-left hover:bg-wash" onClick={() => choose(account.account)}>
              <span className="block font-semibold">
                <span className="font-normal text-ink-soft">{account.account}</span> {account.name}
                {account.isSet ? <span className="ml-1.5 font-normal text-copper">manual</span> : null}
              </span>
              <span className="block text-ink-soft">{account.words}</span>
            </button>
          </li>
        ))}
      </ul>
    </SidePanel>
  );
}
