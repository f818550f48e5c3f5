import type { BalanceAccountDto } from '@wise-margin/contract';
import { BALANCE_RULES, type BalanceRule } from '@wise-margin/core';
import { useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { Amount } from '../../ui/figure.tsx';
import { SelectField } from '../../ui/labeled-field.tsx';
import { SidePanel } from '../side-panel.tsx';
import { ruleDraftOf, ruleOf } from './rule-draft.ts';
import { RuleFields } from './rule-fields.tsx';

/** How one account moves: its rule as a sentence, the form that sets another, and a loan's schedule. */
export function RulePanel({
  account,
  months,
  locked,
  problem,
  set,
  back,
}: {
  readonly account: BalanceAccountDto;
  /** short names of the budget's months */
  readonly months: readonly string[];
  readonly locked: boolean;
  /** why the last rule was refused */
  readonly problem: string | null;
  readonly set: (rule: BalanceRule | null) => void;
  readonly back: () => void;
}) {
  const { exponent, currencyWords } = useCompany();
  const [draft, setDraft] = useState(() => ruleDraftOf(account, exponent));
  const made = ruleOf(draft, { exponent, months });
  const { kinds } = account;
  const options = (kinds.includes(draft.kind) ? kinds : [draft.kind, ...kinds]).map((kind) => [kind, BALANCE_RULES[kind].name] as const);
  return (
    <SidePanel title={`${account.account} ${account.name}`} words={`${account.words}${account.isSet ? '' : ' (from history)'}.`}>
      <button type="button" className="link mt-1" onClick={back}>
        All assumptions
      </button>
      {locked ? null : (
        <form
          aria-label="Method"
          className="mt-2 border-l-2 border-copper pl-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (made.ok) set(made.rule);
          }}
        >
          <SelectField label="Balance method" value={draft.kind} options={options} set={(kind) => setDraft({ ...draft, kind })} />
          <RuleFields draft={draft} months={months} set={(part) => setDraft({ ...draft, ...part })} />
          {made.ok ? null : (
            <p role="alert" className="mt-2 text-brick">
              {made.fault}
            </p>
          )}
          {problem ? (
            <p role="alert" className="mt-2 text-brick">
              {problem}
            </p>
          ) : null}
          <div className="mt-2 flex items-center gap-3">
            <button type="submit" className="button button-primary" disabled={!made.ok}>
              Apply
            </button>
            {account.isSet ? (
              <button type="button" className="link" title={account.historyWords} onClick={() => set(null)}>
                Reset to history
              </button>
            ) : null}
          </div>
        </form>
      )}
      {account.loan ? (
        <section aria-label="Schedule" className="mt-3 border-t border-hairline pt-2">
          <h3 className="font-semibold">Schedule, {currencyWords}</h3>
          <table className="ledger-table w-full">
            <thead>
              <tr>
                {['Month', 'Interest', 'Principal', 'Balance'].map((heading) => (
                  <th key={heading} scope="col" className={heading === 'Month' ? 'px-1.5' : 'px-1.5 text-right!'}>
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {account.loan.map(({ month, interest, principal, balance }, index) => (
                <tr key={month}>
                  <th scope="row" className="font-normal!">
                    {months[months.length - account.loan!.length + index]}
                  </th>
                  {[interest, principal, balance].map((value, at) => (
                    <td key={at} className="figure">
                      <Amount value={value} exponent={exponent} />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ) : null}
      {account.days ? (
        <p className="mt-3 border-t border-hairline pt-2 text-ink-soft">
          Planned days at month end:{' '}
          {account.days.months.map((days, month) => `${months[month]} ${days === null ? 'none' : days.toFixed(0)}`).join(', ')}.
        </p>
      ) : null}
    </SidePanel>
  );
}
