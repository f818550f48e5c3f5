import { BarChart3, PencilLine, Printer, Table2 } from 'lucide-react';
import { Link, useLocation } from 'react-router';

import { queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { choicesIn } from '../data/statement-choices.ts';
import { StatementDownloads } from './statement-downloads.tsx';

/** What is done with a view as it stands: charts of it, editing it, taking it out. */
export function ViewActions({
  view,
  asOf,
  exportQuery,
  isCharts,
  setCharts,
}: {
  readonly view: string;
  readonly asOf: string;
  readonly exportQuery: Readonly<Record<string, string | number | undefined>>;
  readonly isCharts: boolean;
  readonly setCharts: (on: boolean) => void;
}) {
  const company = useCompany();
  const { search } = useLocation();
  const address = new URLSearchParams(choicesIn(new URLSearchParams(search))['address'] ?? '');
  address.set('asOf', asOf);
  return (
    <>
      <button type="button" className="button" aria-pressed={isCharts} onClick={() => setCharts(!isCharts)}>
        {isCharts ? <Table2 size={15} aria-hidden="true" /> : <BarChart3 size={15} aria-hidden="true" />} {isCharts ? 'Table' : 'Charts'}
      </button>
      <Link className="button" to={`/c/${company.id}/statements/${view}/edit?${address.toString()}`}>
        <PencilLine size={15} aria-hidden="true" /> Edit
      </Link>
      <button type="button" className="button" onClick={() => window.print()}>
        <Printer size={15} aria-hidden="true" /> Print
      </button>
      <StatementDownloads
        address={(format) => `/api/companies/${company.id}/statements/${view}/export.${format}${queryText(exportQuery)}`}
      />
    </>
  );
}
