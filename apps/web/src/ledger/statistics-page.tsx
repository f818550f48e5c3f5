import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { StatisticsAnswerDto, StatisticsDto, StatisticsPreviewDto } from '@wise-margin/contract';
import { AGGREGATION_WORDS } from '@wise-margin/presentation';
import { Upload } from 'lucide-react';
import { useRef, useState } from 'react';

import { getJson, sendForm, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { FileDrop } from '../ui/file-drop.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useListColumns } from '../ui/use-list-columns.ts';

type Series = StatisticsDto['series'][number];
const NO_EXTRA: readonly string[] = [];

/** Figures that are not money, by month; a file puts values in place of those kept. */
export default function StatisticsPage() {
  const company = useCompany();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const path = `/companies/${company.id}/statistics`;
  const statistics = useQuery({ queryKey: ['statistics', company.id], queryFn: ({ signal }) => getJson<StatisticsDto>(path, signal) });
  const [sort, setSort] = useState<ListSort>({ by: 'series', descending: false });
  const chosen = useListColumns('statistics', NO_EXTRA);
  const [previewed, setPreviewed] = useState<{ readonly file: File; readonly preview: StatisticsPreviewDto } | null>(null);
  const send = useMutation({
    mutationFn: async ({ file, fingerprint }: { readonly file: File; readonly fingerprint?: string }) => {
      const form = new FormData();
      form.set('statistics', file);
      if (fingerprint !== undefined) form.set('fingerprint', fingerprint);
      return { file, answer: await sendForm<StatisticsAnswerDto>(path, form) };
    },
    onSuccess: async ({ file, answer }) => {
      setPreviewed(answer.kind === 'preview' ? { file, preview: answer.preview } : null);
      if (answer.kind === 'imported') await client.invalidateQueries();
    },
    onError: () => setPreviewed(null),
    onSettled: () => {
      if (input.current) input.current.value = '';
    },
  });
  const choose = useMutation({
    mutationFn: (body: { readonly series: string; readonly aggregation: Series['aggregation'] }) =>
      sendJson<StatisticsDto>('PUT', `${path}/aggregation`, body),
    onSuccess: () => client.invalidateQueries(),
  });
  if (company.accountCount === 0)
    return <Empty title="No accounts yet">Import a chart of accounts and a ledger first. Statistics follow their fiscal years.</Empty>;
  if (statistics.isError) return <Failure error={statistics.error} retry={() => void statistics.refetch()} />;
  if (!statistics.data) return <Loading what="the statistics" />;
  const { periods, series } = statistics.data;
  const name = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  const columns: readonly ListColumn<Series>[] = [
    { key: 'series', name: 'Series', value: (each) => each.name, cell: (each) => each.name.replaceAll('_', ' ') },
    {
      key: 'aggregation',
      name: 'Over several months',
      value: (each) => AGGREGATION_WORDS[each.aggregation],
      cell: (each) => (
        <select
          className="field py-0 text-[13px]"
          aria-label={`${each.name.replaceAll('_', ' ')}, over several months`}
          value={each.aggregation}
          disabled={choose.isPending}
          onChange={(event) => choose.mutate({ series: each.name, aggregation: event.target.value as Series['aggregation'] })}
        >
          {(Object.keys(AGGREGATION_WORDS) as Series['aggregation'][]).map((aggregation) => (
            <option key={aggregation} value={aggregation}>
              {AGGREGATION_WORDS[aggregation]}
            </option>
          ))}
        </select>
      ),
    },
    ...periods.map((key, at) => ({
      key,
      name: name(key),
      isAmount: true,
      value: ({ values }: Series) => values[at] ?? null,
      cell: ({ values }: Series) => values[at]?.toLocaleString('en-US', { maximumFractionDigits: 2 }) ?? '',
    })),
  ];
  return (
    <>
      <FileDrop className="mb-2 flex flex-wrap items-center gap-4 text-[13px]">
        <button type="button" className="button" disabled={send.isPending} onClick={() => input.current?.click()}>
          <Upload size={14} aria-hidden="true" /> {send.isPending ? 'Reading the file' : 'Import statistics'}
        </button>
        <input
          ref={input}
          type="file"
          accept=".csv,text/csv"
          aria-label="Statistics file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => event.target.files?.[0] && send.mutate({ file: event.target.files[0] })}
        />
        {series.length > 0 ? <ListExport name="statistics" columns={columns} rows={series} /> : null}
        <span className="text-ink-soft">
          A CSV file with the header series,period,value and any dimensions; a period is a fiscal year and its number, such as 2027-07.
          Choose a file or drop it here.
        </span>
      </FileDrop>
      {previewed ? (
        <Preview
          name={previewed.file.name}
          preview={previewed.preview}
          monthName={name}
          isPending={send.isPending}
          confirm={() => send.mutate({ file: previewed.file, fingerprint: previewed.preview.fingerprint })}
          cancel={() => setPreviewed(null)}
        />
      ) : null}
      {choose.isError ? (
        <p role="alert" className="text-brick">
          {choose.error.message}
        </p>
      ) : null}
      {send.isError ? (
        <p
          role="alert"
          className="mb-2 max-h-40 overflow-y-auto border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px] whitespace-pre-line"
        >
          {send.error.message}
        </p>
      ) : null}
      {series.length === 0 ? (
        <Empty title="No statistics yet">
          Import headcount, guests or units by month to show them beside the dollars and to compute figures such as revenue per employee.
        </Empty>
      ) : (
        <div className="flex min-h-0 flex-1 pb-3">
          <List
            label="Statistics"
            rows={series}
            rowKey={(each) => each.name}
            columns={columns}
            chosen={chosen}
            sort={{ now: sort, set: setSort, isOfServer: false }}
            open={{ words: (each) => each.name.replaceAll('_', ' '), act: () => null }}
          />
        </div>
      )}
    </>
  );
}

/** What a file would change, with all that is new in it, before it is imported. */
function Preview({
  name,
  preview,
  monthName,
  isPending,
  confirm,
  cancel,
}: {
  readonly name: string;
  readonly preview: StatisticsPreviewDto;
  readonly monthName: (key: string) => string;
  readonly isPending: boolean;
  readonly confirm: () => void;
  readonly cancel: () => void;
}) {
  const { values, replaced, firstPeriod, lastPeriod, series, newDimensions, newValues } = preview;
  const newSeries = series
    .filter(({ isNew }) => isNew)
    .map((each) => `${each.name.replaceAll('_', ' ')} (${AGGREGATION_WORDS[each.aggregation].toLowerCase()})`);
  const hasUnknown = newDimensions.length > 0 || newValues.length > 0;
  return (
    <section aria-label="Preview" className="mb-2 border border-hairline bg-sheet px-4 py-3 text-[14px]">
      <h2 className="font-serif text-lg font-semibold">{name}</h2>
      <p>
        {values.toLocaleString('en-US')} {values === 1 ? 'value' : 'values'}
        {firstPeriod ? `, ${monthName(firstPeriod)} to ${monthName(lastPeriod!)}` : ''}
        {replaced > 0 ? `; ${replaced.toLocaleString('en-US')} replace existing values` : ''}.
      </p>
      {newSeries.length > 0 ? (
        <p>New series, with how each goes over several months: {newSeries.join(', ')}. You can change that in the list.</p>
      ) : null}
      {hasUnknown ? (
        <ul aria-label="Not in the ledger" className="mt-1 list-disc pl-5 font-semibold text-brick">
          {newDimensions.map((dimension) => (
            <li key={dimension}>The ledger has no dimension “{dimension}”.</li>
          ))}
          {newValues.map(({ dimension, value, near }) => (
            <li key={`${dimension} ${value}`}>
              The ledger has no {dimension} “{value}”.{near.length > 0 ? ` Did you mean ${near.join(' or ')}?` : ''}
            </li>
          ))}
        </ul>
      ) : null}
      <div className="mt-3 flex gap-2">
        <button type="button" className="button button-primary" disabled={isPending} onClick={confirm}>
          {hasUnknown ? 'Import anyway' : `Import ${values.toLocaleString('en-US')} ${values === 1 ? 'value' : 'values'}`}
        </button>
        <button type="button" className="button" disabled={isPending} onClick={cancel}>
          Cancel
        </button>
      </div>
    </section>
  );
}
