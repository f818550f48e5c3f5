import { useNavigate, useParams } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { ImportView } from './import-view.tsx';
import { useImport } from './use-ledger.ts';

export default function ImportPage() {
  const company = useCompany();
  const id = Number(useParams().import);
  const made = useImport(id);
  const navigate = useNavigate();
  const list = `/c/${company.id}/ledger/imports`;
  if (made.isError) return <Failure error={made.error} retry={() => void made.refetch()} />;
  if (!made.data) return <Loading what="the import" />;
  return (
    <>
      <h2 className="mb-2 font-serif text-xl font-semibold">Import {id}</h2>
      <ImportView made={made.data} onPosted={() => undefined} onDropped={() => void navigate(list)} />
    </>
  );
}
