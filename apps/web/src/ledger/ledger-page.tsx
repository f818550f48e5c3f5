import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { CompanyDto } from '@wise-margin/contract';
import { useState } from 'react';
import { Outlet } from 'react-router';

import { sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Page } from '../ui/page.tsx';
import { Tabs } from '../ui/tabs.tsx';
import { thisYear } from '../ui/today.ts';

const TABS = [
  ['imports', 'Imports'],
  ['entries', 'Entries'],
  ['accounts', 'Accounts'],
  ['reports', 'Reports'],
  ['reconciliation', 'Bank reconciliation'],
  ['drafts', 'Draft entries'],
  ['periods', 'Periods'],
  ['statistics', 'Statistics'],
  ['audit', 'Audit trail'],
] as const;

/** The ledger station: imports, accounts, trial balance, statistics. */
export default function LedgerPage() {
  const company = useCompany();
  const words = `${company.accountCount.toLocaleString('en-US')} accounts, ${company.entryCount.toLocaleString('en-US')} entries${company.draftCount > 0 ? `, of which ${company.draftCount.toLocaleString('en-US')} draft (not included)` : ''}`;
  return (
    <Page title="Ledger" words={words} actions={<FiscalYears />}>
      <Tabs label="Ledger" tabs={TABS} />
      <Outlet />
    </Page>
  );
}

/** The years held, and the step that opens the next one. */
function FiscalYears() {
  const company = useCompany();
  const client = useQueryClient();
  const [status, setStatus] = useState('');
  const next = (company.years.at(-1) ?? thisYear()) + 1;
  const open = useMutation({
    mutationFn: () => sendJson<CompanyDto>('POST', `/companies/${company.id}/fiscal-years`, { year: next }),
    onSuccess: async () => {
      setStatus(`FY${next} added.`);
      await client.invalidateQueries();
    },
  });
  return (
    <>
      <span role="status" className="text-[13px] text-ink-soft">
        {open.isError
          ? open.error.message
          : status || (company.years.length > 0 ? `FY${company.years[0]} to FY${company.years.at(-1)}` : 'No fiscal year yet')}
      </span>
      {company.years.length > 0 ? (
        <button type="button" className="button" disabled={open.isPending} onClick={() => open.mutate()}>
          Add FY{next}
        </button>
      ) : null}
    </>
  );
}
