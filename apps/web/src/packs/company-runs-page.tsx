import type { CompanyRunDto, CompanyRunRequest, CompanyRunResult } from '@wise-margin/contract';
import { useState } from 'react';
import { Link } from 'react-router';

import { newKey } from '../api/new-key.ts';
import { useAsOf, useCompanies, useCompany } from '../data/company.ts';
import { useCompanyRuns } from '../data/use-company-runs.ts';
import { usePacks } from '../data/use-packs.ts';
import { momentWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { CheckField, SelectField, TextField } from '../ui/labeled-field.tsx';
import { Page } from '../ui/page.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { addressesOf } from './mail-dialog.tsx';

const STATE_WORDS: Readonly<Record<CompanyRunResult['state'], string>> = {
  waiting: 'Waiting',
  running: 'Running',
  done: 'Issued',
  skipped: 'Skipped',
  failed: 'Failed',
};
const FORMATS = [
  ['pdf', 'PDF'],
  ['docx', 'documents'],
  ['xlsx', 'spreadsheets'],
  ['html', 'web pages'],
] as const;

/** One pack issued for several companies at once, with what became of each. */
export default function CompanyRunsPage() {
  const company = useCompany();
  const runs = useCompanyRuns();
  return (
    <Page
      title="Issue for companies"
      words="One pack for several companies in one run; what fails at one does not stop the others"
      actions={
        <Link className="button" to={`/c/${company.id}/packs`}>
          Packs
        </Link>
      }
    >
      <div className="mt-2 flex min-h-0 flex-1 gap-6 pb-3 narrow:flex-col narrow:overflow-y-auto">
        <NewRun runs={runs} />
        <div className="min-w-0 flex-1 overflow-y-auto narrow:overflow-visible" tabIndex={0} role="region" aria-label="Runs">
          {runs.isError ? <Failure error={runs.error} retry={() => void runs.refetch()} /> : null}
          {runs.isPending ? <Loading what="the runs" /> : null}
          {runs.data?.length === 0 ? (
            <p className="text-ink-soft">No runs yet. Choose a pack and companies, then issue it for all of them.</p>
          ) : null}
          {runs.data?.map((run) => (
            <Run key={run.id} run={run} />
          ))}
        </div>
      </div>
    </Page>
  );
}

function NewRun({ runs: { start } }: { readonly runs: ReturnType<typeof useCompanyRuns> }) {
  const company = useCompany();
  const companies = useCompanies();
  const [asOf] = useAsOf();
  const packs = usePacks(company.id, asOf);
  const [key, setKey] = useState(newKey);
  const [pack, setPack] = useState('monthly-review');
  const [month, setMonth] = useState(asOf ?? '');
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [onlyClear, setOnlyClear] = useState(false);
  const [to, setTo] = useState('');
  if (companies.isError) return <Failure error={companies.error} retry={() => void companies.refetch()} />;
  if (packs.isError) return <Failure error={packs.error} retry={() => void packs.refetch()} />;
  const chosen = (companies.data ?? []).filter(({ id }) => !left.has(id));
  const addresses = addressesOf(to);
  const mail: CompanyRunRequest['mail'] =
    addresses.length === 0
      ? null
      : { to: addresses, lists: [], subject: '{company}: {pack}, {month}', text: 'The {pack} is attached.\n\n{link}', formats: ['pdf'] };
  return (
    <form
      className="grid w-72 shrink-0 content-start gap-2.5 overflow-y-auto text-[14px] narrow:w-full"
      aria-label="New run"
      onSubmit={(event) => {
        event.preventDefault();
        start.mutate({ key, pack, month, companies: chosen.map(({ id }) => id), onlyClear, mail }, { onSuccess: () => setKey(newKey()) });
      }}
    >
      <SelectField label="Pack" value={pack} options={(packs.data ?? []).map((each) => [each.key, each.name])} set={setPack} />
      <SelectField label="Month" value={month} options={company.periods.map((period) => [period.key, period.name])} set={setMonth} />
      <fieldset>
        <legend className="text-ink-soft">Companies</legend>
        <div className="flex gap-3 text-[13px]">
          <button type="button" className="link" onClick={() => setLeft(new Set())}>
            Select all
          </button>
          <button type="button" className="link" onClick={() => setLeft(new Set((companies.data ?? []).map(({ id }) => id)))}>
            Clear
          </button>
        </div>
        <div className="mt-1 flex max-h-56 flex-col gap-2 overflow-y-auto py-1">
          {(companies.data ?? []).map(({ id, name }) => (
            <CheckField
              key={id}
              label={name}
              checked={!left.has(id)}
              set={(on) => {
                const next = new Set(left);
                if (on) next.delete(id);
                else next.add(id);
                setLeft(next);
              }}
            />
          ))}
        </div>
      </fieldset>
      <CheckField label="Skip companies with open checks" checked={onlyClear} set={setOnlyClear} />
      <TextField label="Mail each as PDF to (optional)" value={to} placeholder="name@company.com" set={setTo} />
      {start.isError ? <Failure error={start.error} /> : null}
      <button
        type="submit"
        className="button button-primary justify-self-start"
        disabled={start.isPending || chosen.length === 0 || month === '' || !packs.data}
      >
        Issue for {chosen.length} {chosen.length === 1 ? 'company' : 'companies'}
      </button>
    </form>
  );
}

function Run({ run }: { readonly run: CompanyRunDto }) {
  const company = useCompany();
  const { results, packName, month, startedAt, finishedAt, by } = run;
  const reached = results.filter(({ state }) => state !== 'waiting' && state !== 'running').length;
  const issued = results.filter(({ issue }) => issue !== null).length;
  const failed = results.filter(({ state }) => state === 'failed').length;
  return (
    <section className="mb-5" aria-label={`${packName}, ${month}`}>
      <div className="flex flex-wrap items-baseline gap-x-3 border-b border-ink-soft pb-1">
        <h2 className="font-serif text-[17px] font-semibold">
          {packName}, {company.periods.find(({ key }) => key === month)?.name ?? month}
        </h2>
        <span className="flex-1 text-[13px] text-ink-soft" role="status">
          {finishedAt === null ? `${reached} of ${results.length} companies` : `${issued} of ${results.length} issued`}
          {failed > 0 ? `, ${failed} failed` : ''}; {by}, {momentWords(startedAt)}
        </span>
        {issued > 0 && finishedAt !== null ? (
          <span className="flex gap-2 text-[13px]">
            ZIP of
            {FORMATS.map(([format, words]) => (
              <a key={format} className="link" href={`/api/company-runs/${run.id}/files.zip?format=${format}`} download>
                {words}
              </a>
            ))}
          </span>
        ) : null}
      </div>
      {finishedAt === null ? <progress className="run-progress" aria-label="Progress" value={reached} max={results.length} /> : null}
      <table className="mt-1 w-full border-collapse text-[14px]">
        <thead>
          <tr className="border-b border-hairline text-left text-[13px] text-ink-soft">
            <th scope="col" className="py-1 pr-3 font-normal">
              Company
            </th>
            <th scope="col" className="py-1 pr-3 text-right font-normal">
              Revenue
            </th>
            <th scope="col" className="py-1 pr-3 text-right font-normal whitespace-nowrap">
              Operating income
            </th>
            <th scope="col" className="py-1 pr-3 text-right font-normal">
              Findings
            </th>
            <th scope="col" className="py-1 pr-6 text-right font-normal">
              Checks
            </th>
            <th scope="col" className="py-1 font-normal">
              Result
            </th>
          </tr>
        </thead>
        <tbody>
          {results.map((result) => (
            <Result key={result.company} result={result} run={run} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Result({
  result: { company, name, state, note, issue, summary },
  run,
}: {
  readonly result: CompanyRunResult;
  readonly run: CompanyRunDto;
}) {
  const figure = (value: number | null | undefined) =>
    summary === null || value === null || value === undefined ? null : <Amount value={value} exponent={summary.exponent} unit="dollars" />;
  return (
    <tr className="border-b border-hairline align-top">
      <td className="py-1 pr-3 break-words">
        {name}
        {summary ? <span className="ml-1.5 text-[12px] text-ink-soft">{summary.currency}</span> : null}
      </td>
      <td className="py-1 pr-3 text-right">{figure(summary?.revenue)}</td>
      <td className="py-1 pr-3 text-right">{figure(summary?.operatingIncome)}</td>
      <td className="py-1 pr-3 text-right">
        {summary ? (
          <Link className="link" to={`/c/${company}/findings/variances?asOf=${run.month}`}>
            {summary.findings}
          </Link>
        ) : null}
      </td>
      <td className="py-1 pr-6 text-right">{summary?.checks}</td>
      <td className={`py-1 ${note.length > 24 ? 'min-w-56' : 'whitespace-nowrap'}`}>
        {issue !== null ? (
          <Link className="link" to={`/c/${company}/packs/${run.pack}/${issue}`}>
            {note}
          </Link>
        ) : (
          <>
            <span className={state === 'failed' ? 'font-semibold text-brick' : ''}>{STATE_WORDS[state]}</span>
            {note === '' ? null : <span className="block text-[13px] text-ink-soft">{note}</span>}
          </>
        )}
      </td>
    </tr>
  );
}
