import { useNavigate, useParams } from 'react-router';

import { Failure, Loading } from '../ui/states.tsx';
import { ImportView } from './import-view.tsx';
import { useImport } from './use-ledger.ts';

/** The import that makes a new company: the company's frame comes once it is posted. */
export default function FirstImportPage() {
  const id = Number(useParams().import);
  const made = useImport(id);
  const navigate = useNavigate();
  return (
    <main className="mx-auto flex h-dvh max-w-5xl flex-col p-6">
      <h1 className="mb-3 font-serif text-2xl font-semibold">{made.data ? `Import ${made.data.company}` : 'Import a company'}</h1>
      {made.isError ? <Failure error={made.error} retry={() => void made.refetch()} /> : null}
      {made.data ? (
        <ImportView
          made={made.data}
          onPosted={({ companyId }) => void navigate(`/c/${companyId}/ledger/reports/trial-balance`)}
          onDropped={() => void navigate('/')}
        />
      ) : (
        <Loading what="the import" />
      )}
    </main>
  );
}
