import { Navigate, useNavigate } from 'react-router';

import { useCompanies } from '../data/company.ts';
import { ImportForm, ImportNeeds } from '../ledger/index.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { useDemo } from './use-demo.ts';

/** The way in: the company last looked at, or the first import when there is none. */
export function Start() {
  const companies = useCompanies();
  const navigate = useNavigate();
  if (companies.isError) return <Failure error={companies.error} retry={() => void companies.refetch()} />;
  if (!companies.data) return <Loading what="the companies" />;
  const last = Number(localStorage.getItem('wm.company'));
  const chosen = companies.data.find(({ id }) => id === last) ?? companies.data[0];
  if (chosen) return <Navigate to={`/c/${chosen.id}`} replace />;
  return (
    <main className="mx-auto grid max-w-6xl grid-cols-[minmax(0,2fr)_minmax(0,1fr)] gap-8 p-8 narrow:grid-cols-1 narrow:p-4">
      <div>
        <h1 className="font-serif text-2xl font-semibold">Import your ledger</h1>
        <p className="mt-1 mb-4 text-ink-soft">
          Wise Margin builds budgets and statements from ledger history. Start with a chart of accounts and the entries of a company.
        </p>
        <ImportForm company={null} onSubmitted={(made) => void navigate(`/imports/${made.id}`)} />
      </div>
      <aside aria-label="Getting started" className="flex flex-col gap-6">
        <DemoOffer />
        <ImportNeeds />
      </aside>
    </main>
  );
}

/** Two companies to look around in, for whoever has no files at hand. */
function DemoOffer() {
  const { demo, add } = useDemo();
  const isMaking = demo.data?.state === 'making' || add.isPending;
  return (
    <section>
      <h2 className="border-b border-ink-soft pb-1 font-serif text-[17px] font-semibold">Try it with demo data</h2>
      <p className="mt-2 text-[14px]">
        Two invented companies with several years of entries, budgets and statements. You can remove them at any time.
      </p>
      <button type="button" className="button button-primary mt-3" disabled={isMaking || demo.isPending} onClick={() => add.mutate()}>
        {isMaking ? 'Adding demo companies…' : 'Add demo companies'}
      </button>
      <p role="status" className="mt-1 text-[13px] text-ink-soft">
        {isMaking ? 'This takes about ten seconds.' : ''}
      </p>
      {demo.data?.failure || add.isError ? (
        <p role="alert" className="mt-1 text-[13px] text-brick">
          {demo.data?.failure ?? add.error?.message}
        </p>
      ) : null}
    </section>
  );
}
