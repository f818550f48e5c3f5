import { useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { ImportForm } from './import-form.tsx';
import { ImportNeeds } from './import-needs.tsx';

export default function NewImportPage() {
  const company = useCompany();
  const navigate = useNavigate();
  return (
    <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,3fr)] items-start gap-8 narrow:grid-cols-1">
      <div>
        <h2 className="mb-2 font-serif text-xl font-semibold">Import files</h2>
        <ImportForm
          company={company}
          onSubmitted={(made) => void navigate(made.isNewCompany ? `/imports/${made.id}` : `/c/${company.id}/ledger/imports/${made.id}`)}
        />
      </div>
      <aside aria-label="Help">
        <ImportNeeds />
      </aside>
    </div>
  );
}
