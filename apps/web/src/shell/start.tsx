import { Navigate, useNavigate } from 'react-router';
import { ImportForm } from '../ledger/import-form.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { useCompanies } from './company.ts';

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
    <main className="mx-auto max-w-2xl p-8">
      <h1 className="font-serif text-2xl font-semibold">Begin with a ledger</h1>
      <p className="mt-1 mb-4 text-ink-soft">
        Wise Margin builds budgets and statements from ledger history. Bring in a chart of accounts and the entries of a company.
      </p>
      <ImportForm company={null} onSubmitted={(made) => void navigate(`/imports/${made.id}`)} />
    </main>
  );
}
