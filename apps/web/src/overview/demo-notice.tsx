import { useState } from 'react';
import { Link } from 'react-router';

import { useCompanies, useCompany } from '../data/company.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useDemo } from './use-demo.ts';

/** On a demo company: a note that its data is invented, with the way to import a ledger and to remove the demo companies. */
export function DemoNotice() {
  const company = useCompany();
  const companies = useCompanies();
  return companies.data?.find(({ id }) => id === company.id)?.isDemo ? <Notice companyId={company.id} /> : null;
}

function Notice({ companyId }: { readonly companyId: number }) {
  const { demo, remove } = useDemo();
  const [isAsking, setAsking] = useState(false);
  useReturnFocus(isAsking, () => null);
  const names = (demo.data?.companies ?? []).map(({ name }) => name).join(' and ');
  return (
    <div className="no-print text-[13px] text-ink-soft">
      Demo company with invented data.{' '}
      <Link className="link" to={`/c/${companyId}/ledger/imports/new`}>
        Import your ledger
      </Link>{' '}
      or{' '}
      <button type="button" className="link" onClick={() => setAsking(true)}>
        remove the demo companies
      </button>
      .
      {isAsking ? (
        <div
          role="alertdialog"
          aria-label="Remove the demo companies"
          onKeyDown={(event) => event.key === 'Escape' && setAsking(false)}
          className="my-2 flex flex-wrap items-center gap-3 border-l-2 border-brick bg-sheet px-3 py-2 text-[14px] text-ink"
        >
          <span>{names} will be deleted with their ledgers, budgets and views. Your own companies are not affected.</span>
          <button type="button" className="button" disabled={remove.isPending} onClick={() => remove.mutate()}>
            {remove.isPending ? 'Removing…' : 'Remove demo companies'}
          </button>
          <button type="button" className="link" onClick={() => setAsking(false)}>
            Cancel
          </button>
          {remove.isError ? (
            <span role="alert" className="w-full text-brick">
              {remove.error.message}
            </span>
          ) : null}
        </div>
      ) : null}
    </div>
  );
}
