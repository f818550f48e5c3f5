import { CloseButton } from '@headlessui/react';
import { BarChart3, Download, PencilLine, Printer, Table2 } from 'lucide-react';
import { Link, useLocation } from 'react-router';

import { queryText } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { choicesIn } from '../data/statement-choices.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';

const FORMATS = [
  ['pdf', 'PDF'],
  ['xlsx', 'Spreadsheet'],
  ['docx', 'Document'],
  ['csv', 'CSV'],
] as const;

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
      <FloatingPanel label="Download" atRight>
        <ul className="flex flex-col gap-1">
          {FORMATS.map(([format, words]) => (
            <li key={format}>
              <CloseButton
                as="a"
                className="link flex items-center gap-1.5"
                href={`/api/companies/${company.id}/statements/${view}/export.${format}${queryText(exportQuery)}`}
                download
              >
                <Download size={14} aria-hidden="true" /> {words}
              </CloseButton>
            </li>
          ))}
        </ul>
      </FloatingPanel>
    </>
  );
}
