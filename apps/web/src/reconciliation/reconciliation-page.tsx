import type { ReconciliationDto } from '@wise-margin/contract';
import { Upload } from 'lucide-react';
import { useRef, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Choice } from '../ui/choice.tsx';
import { DateField } from '../ui/date-field.tsx';
import { FileDrop } from '../ui/file-drop.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { BalanceSummary } from './balance-summary.tsx';
import { ClearedList } from './cleared-list.tsx';
import { MatchView } from './match-view.tsx';
import { OutstandingView } from './outstanding-view.tsx';
import { StatementForm } from './statement-form.tsx';
import { useReconciliation, useReconciliationActs } from './use-reconciliation.ts';

const VIEWS = ['match', 'outstanding', 'cleared'] as const;
type View = (typeof VIEWS)[number];

/** A cash account against its bank statements: balances at the left, lines to match, outstanding and cleared at the right. */
export default function ReconciliationPage() {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const reconciliation = useReconciliation(company.id, { account: search.get('account'), day: search.get('day') });
  if (company.entryCount === 0) return <Empty title="No entries yet">Import a ledger on the Imports tab.</Empty>;
  if (reconciliation.isError) return <Failure error={reconciliation.error} retry={() => void reconciliation.refetch()} />;
  if (!reconciliation.data) return <Loading what="the reconciliation" />;
  const set = (name: string, value: string) =>
    setSearch((before) => {
      if (name === 'account') before.delete('day');
      if (value === '') before.delete(name);
      else before.set(name, value);
    });
  const view = VIEWS.find((each) => each === search.get('show')) ?? 'match';
  return <Reconciliation key={reconciliation.data.account} of={reconciliation.data} view={view} set={set} />;
}

function Reconciliation({
  of,
  view,
  set,
}: {
  readonly of: ReconciliationDto;
  readonly view: View;
  readonly set: (name: string, value: string) => void;
}) {
  const company = useCompany();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const acts = useReconciliationActs(company.id, of.account);
  const address = useDrillDownAddress();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => null);
  const counts: Readonly<Record<View, number>> = {
    match: of.bank.length,
    outstanding: of.outstanding.length + of.unrecorded.length,
    cleared: of.clearedCount,
  };
  const names: Readonly<Record<View, string>> = {
    match: 'To match',
    outstanding: of.clearedCount === 0 ? 'Not yet matched' : 'Outstanding',
    cleared: 'Cleared',
  };
  return (
    <>
      <FileDrop className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        <Choice
          label="Account"
          value={of.account}
          options={of.accounts.map(({ number, name }) => [number, `${number} ${name}`])}
          choose={(account) => set('account', account)}
        />
        <label className="flex items-center gap-1.5">
          <span className="text-ink-soft">As of</span>
          <DateField
            className="field py-0.5 text-[13px]"
            value={of.asOf}
            min={of.reach?.from}
            max={of.reach?.to}
            set={(day) => set('day', day)}
          />
        </label>
        <button type="button" className="button min-h-7 py-0.5 text-[13px]" onClick={() => input.current?.click()}>
          <Upload size={14} aria-hidden="true" /> Import a statement
        </button>
        <input
          ref={input}
          type="file"
          accept=".csv,.ofx,.qfx,.xml,.txt"
          aria-label="Bank statement"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            setFile(event.target.files?.[0] ?? null);
            event.target.value = '';
          }}
        />
        <span className="text-ink-soft">
          {of.bankAccount === '' ? 'CSV, OFX or camt.053; choose a file or drop it here.' : `Bank account ${of.bankAccount}`}
        </span>
        {of.samples.length > 0 && of.statements.length < 2 ? (
          <span className="text-ink-soft">
            Demo statements:{' '}
            {of.samples.map((name, at) => (
              <span key={name}>
                {at > 0 ? ', ' : ''}
                <a className="link" href={`/api/sample-files/${name}`} download>
                  {name}
                </a>
              </span>
            ))}
          </span>
        ) : null}
        {acts.isError ? (
          <span role="alert" className="basis-full text-brick">
            {acts.error.message}
          </span>
        ) : null}
      </FileDrop>
      {file ? <StatementForm key={`${file.name} ${file.lastModified}`} of={of} file={file} close={() => setFile(null)} /> : null}
      {of.statements.length === 0 ? (
        file ? null : (
          <Empty title="No bank statement yet">
            Import a statement of {of.account} {of.accountName} to see which of its lines are in the ledger, which checks are outstanding,
            and whether cash agrees with the bank.
          </Empty>
        )
      ) : (
        <div className="flex min-h-0 flex-1 gap-4 pb-3 narrow:flex-col narrow:overflow-y-auto">
          <BalanceSummary of={of} acts={acts} />
          <section aria-label={names[view]} className="flex min-h-0 min-w-0 flex-1 flex-col border border-hairline bg-sheet">
            <div role="group" aria-label="Lines shown" className="flex gap-5 border-b border-hairline px-3 pt-1.5 text-[14px]">
              {VIEWS.map((each) => (
                <button
                  key={each}
                  type="button"
                  aria-pressed={each === view}
                  className={`-mb-px border-b-[3px] pb-1 ${each === view ? 'border-copper font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
                  onClick={() => set('show', each === 'match' ? '' : each)}
                >
                  {names[each]} ({counts[each].toLocaleString('en-US')})
                </button>
              ))}
            </div>
            <div className="min-h-0 flex-1 overflow-y-auto px-3 pb-3" tabIndex={0} role="region" aria-label="Lines">
              {view === 'match' ? (
                <MatchView key={of.clearedCount} of={of} acts={acts} openEntry={address.openEntry} />
              ) : view === 'outstanding' ? (
                <OutstandingView of={of} openEntry={address.openEntry} />
              ) : (
                <ClearedList of={of} acts={acts} openEntry={address.openEntry} />
              )}
            </div>
          </section>
          {address.isOpen ? <DrillDownSteps address={address} /> : null}
        </div>
      )}
    </>
  );
}
