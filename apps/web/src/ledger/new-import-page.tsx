import { useNavigate } from 'react-router';
import { useCompany } from '../data/company.ts';
import { ImportForm } from './import-form.tsx';

export default function NewImportPage() {
  const company = useCompany();
  const navigate = useNavigate();
  return (
    <>
      <h2 className="mb-2 font-serif text-xl font-semibold">Import files</h2>
      <ImportForm
        company={company}
        onSubmitted={(made) => void navigate(made.isNewCompany ? `/imports/${made.id}` : `/c/${company.id}/ledger/imports/${made.id}`)}
      />
    </>
  );
}
