import { formatAmount, type Minor } from '@wise-margin/core';

import { useCompany } from '../data/company.ts';
import { useEntry } from '../data/use-entry.ts';
import { AccountStep, useEntryLines } from './account-step.tsx';
import type { DrillDownAddress } from './drill-down-address.ts';
import { DrillDownPanel, Proof } from './drill-down-panel.tsx';
import { EntryStep } from './entry-step.tsx';

/** The inner steps of the drill-down, from an account's entries to an entry; the same from every station. */
export function DrillDownSteps({
  address,
  outerCrumbs = null,
}: {
  readonly address: DrillDownAddress;
  readonly outerCrumbs?: React.ReactNode;
}) {
  const company = useCompany();
  const { account, entry } = address.state;
  const lines = useEntryLines(company.id, account);
  const slip = useEntry(company.id, entry);
  const exact = (value: number) => (value === 0 ? '0.00' : formatAmount(value as Minor, { exponent: company.exponent, unit: 'cents' }));
  const first = lines.data?.pages[0];
  const crumbs = (
    <>
      {outerCrumbs}
      {account ? (
        <span>
          {outerCrumbs ? ' / ' : ''}
          <button type="button" className="link" onClick={address.toAccount} aria-current={entry === null ? 'step' : undefined}>
            {account.account} {first?.account.name ?? ''}
          </button>
        </span>
      ) : null}
      {entry !== null ? (
        <span>
          {outerCrumbs || account ? ' / ' : ''}
          {slip.data?.number ?? ''}
        </span>
      ) : null}
    </>
  );
  if (entry !== null) {
    const proof = slip.data ? (
      <Proof
        listed={`Debits ${exact(slip.data.debits)}, credits ${exact(slip.data.credits)}`}
        difference={exact(slip.data.debits - slip.data.credits)}
        isZero={slip.data.debits === slip.data.credits}
      />
    ) : null;
    return (
      <DrillDownPanel
        key="entry"
        crumbs={crumbs}
        title={slip.data ? `Entry ${slip.data.number}` : 'Entry'}
        close={address.close}
        foot={proof}
      >
        <EntryStep entry={slip} exponent={company.exponent} account={account?.account ?? null} openEntry={address.openEntry} />
      </DrillDownPanel>
    );
  }
  const proof = first ? (
    <Proof listed={`Listed entries ${exact(first.sum)}`} difference={exact(first.figure - first.sum)} isZero={first.figure === first.sum} />
  ) : null;
  return (
    <DrillDownPanel
      key="account"
      crumbs={crumbs}
      title={first ? `${first.account.name}, ${exact(first.figure)}` : (account?.account ?? '')}
      close={address.close}
      foot={proof}
    >
      {account ? (
        <AccountStep lines={lines} step={account} change={address.openAccount} exponent={company.exponent} openEntry={address.openEntry} />
      ) : null}
    </DrillDownPanel>
  );
}
