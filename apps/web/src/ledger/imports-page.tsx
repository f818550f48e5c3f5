import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { dateWords, momentWords } from '../ui/date-words.ts';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useImports } from './use-ledger.ts';

const STATES: Readonly<Record<string, string>> = {
  checking: 'Checking',
  ready: 'Checked, not posted',
  refused: 'Rejected',
  posting: 'Posting',
  posted: 'Posted',
  failed: 'Failed',
};

/** A list of fewer imports says what comes next. */
const FEW = 8;

/** Every import of the company, newest first. */
export default function ImportsPage() {
  const company = useCompany();
  const imports = useImports(company.id);
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
    <div className="min-h-0 flex-1 overflow-auto pb-4">
      <div className="mb-3">{begin}</div>
      <table className="ledger-table w-full border border-hairline bg-sheet">
        <thead>
          <tr>
            {['Import', 'Files', 'Status', 'Entries', 'Rows', 'Dates', 'Imported', 'By'].map((name) => (
              <th
                key={name}
                scope="col"
                className={`border-b border-ink px-2 py-1.5 ${name === 'Entries' || name === 'Rows' ? 'text-right!' : ''}`}
              >
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {imports.data.map((made) => (
            <tr key={made.id} className="hover:bg-wash">
              <td className="border-b border-hairline">
                <Link className="link" to={String(made.id)}>
                  Import {made.id}
                </Link>
              </td>
              <td className="max-w-72 truncate border-b border-hairline" title={made.files.map(({ name }) => name).join(', ')}>
                {made.files.map(({ name }) => name).join(', ')}
              </td>
              <td
                className={`border-b border-hairline ${made.state === 'refused' || made.state === 'failed' ? 'font-semibold text-brick' : ''}`}
              >
                {STATES[made.state]}
                {made.state === 'refused' ? `, ${made.issueCount.toLocaleString('en-US')} errors` : ''}
              </td>
              <td className="figure border-b border-hairline">{made.preview?.entries.toLocaleString('en-US')}</td>
              <td className="figure border-b border-hairline">{made.preview?.rows.toLocaleString('en-US')}</td>
              <td className="border-b border-hairline">
                {made.preview?.firstPeriod ? `${dateWords(made.preview.firstPeriod)} to ${dateWords(made.preview.lastPeriod)}` : ''}
              </td>
              <td className="border-b border-hairline">{momentWords(made.createdAt)}</td>
              <td className="border-b border-hairline">{made.actor}</td>
            </tr>
          ))}
        </tbody>
      </table>
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
    </div>
  );
}
