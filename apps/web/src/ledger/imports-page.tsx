import type { ImportDto } from '@wise-margin/contract';
import { useState } from 'react';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { ColumnChoice } from '../ui/column-choice.tsx';
import { dateWords, momentWords } from '../ui/date-words.ts';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useListColumns } from '../ui/use-list-columns.ts';
import { useImports } from './use-ledger.ts';

const STATES: Readonly<Record<ImportDto['state'], string>> = {
  checking: 'Checking',
  ready: 'Checked, not posted',
  refused: 'Rejected',
  posting: 'Posting',
  posted: 'Posted',
  failed: 'Failed',
  reversed: 'Reversed',
};

/** A list of fewer imports says what comes next. */
const FEW = 8;

/** Every import of the company, newest first. */
export default function ImportsPage() {
  const company = useCompany();
  const imports = useImports(company.id);
  const [sort, setSort] = useState<ListSort>({ by: 'import', descending: true });
  const chosen = useListColumns('imports', NO_EXTRA);
  if (imports.isError) return <Failure error={imports.error} retry={() => void imports.refetch()} />;
  if (!imports.data) return <Loading what="the imports" />;
  const begin = (
    <Link className="button button-primary" to="new">
      Import files
    </Link>
  );
  if (imports.data.length === 0) {
    return (
      <Empty title="No imports yet" action={begin}>
        Import the chart of accounts and a ledger file. Every row is checked before anything is posted.
      </Empty>
    );
  }
  return (
    <>
      <div className="mb-3 flex items-center gap-4 text-[13px]">
        {begin}
        <ColumnChoice columns={columns} chosen={chosen} />
        <ListExport name="imports" columns={columns} rows={imports.data} />
      </div>
      <div className={`flex min-h-0 ${imports.data.length < FEW ? '' : 'flex-1 pb-3'}`}>
        <List
          label="Imports"
          rows={imports.data}
          rowKey={({ id }) => id}
          columns={columns}
          chosen={chosen}
          sort={{ now: sort, set: setSort, isOfServer: false }}
          open={{ words: ({ id }) => `Import ${id}`, to: ({ id }) => String(id) }}
        />
      </div>
      {imports.data.length < FEW ? (
        <p className="mt-3 text-[14px] text-ink-soft">
          Next:{' '}
          <Link className="link" to="../reports/trial-balance" relative="path">
            check the trial balance
          </Link>
          ,{' '}
          <Link className="link" to={`/c/${company.id}/statements/income`}>
            open the income statement
          </Link>{' '}
          or{' '}
          <Link className="link" to={`/c/${company.id}/budgets`}>
            create a budget
          </Link>
          .
        </p>
      ) : null}
    </>
  );
}

const NO_EXTRA: readonly string[] = [];
const count = (number: number | undefined): string => number?.toLocaleString('en-US') ?? '';
const columns: readonly ListColumn<ImportDto>[] = [
  { key: 'import', name: 'Import', value: ({ id }) => id, cell: ({ id }) => `Import ${id}` },
  { key: 'files', name: 'Files', value: fileNames, cell: fileNames, most: 290 },
  { key: 'state', name: 'Status', value: stateWords, cell: (made) => <State made={made} /> },
  {
    key: 'entries',
    name: 'Entries',
    isAmount: true,
    value: ({ preview }) => preview?.entries ?? null,
    cell: ({ preview }) => count(preview?.entries),
  },
  { key: 'rows', name: 'Rows', isAmount: true, value: ({ preview }) => preview?.rows ?? null, cell: ({ preview }) => count(preview?.rows) },
  { key: 'dates', name: 'Dates', value: ({ preview }) => preview?.firstPeriod ?? null, file: datesOf, cell: datesOf },
  { key: 'createdAt', name: 'Imported', value: ({ createdAt }) => createdAt, cell: ({ createdAt }) => momentWords(createdAt) },
  { key: 'actor', name: 'By', value: ({ actor }) => actor, cell: ({ actor }) => actor },
];

function fileNames({ files }: ImportDto): string {
  return files.map(({ name }) => name).join(', ');
}
function stateWords({ state, issueCount }: ImportDto): string {
  return `${STATES[state]}${state === 'refused' ? `, ${issueCount.toLocaleString('en-US')} errors` : ''}`;
}
function datesOf({ preview }: ImportDto): string {
  return preview?.firstPeriod ? `${dateWords(preview.firstPeriod)} to ${dateWords(preview.lastPeriod)}` : '';
}
function State({ made }: { readonly made: ImportDto }) {
  return <span className={made.state === 'refused' || made.state === 'failed' ? 'font-semibold text-brick' : ''}>{stateWords(made)}</span>;
}
