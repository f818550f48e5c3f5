import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { StatisticsDto } from '@wise-margin/contract';
import { Upload } from 'lucide-react';
import { useRef } from 'react';
import { getJson, sendForm } from '../api/client.ts';
import { useCompany } from '../shell/company.ts';
import { LongTable } from '../ui/long-table.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';

/** Figures that are not money, by month; a file puts values in place of those kept. */
export default function StatisticsPage() {
  const company = useCompany();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const path = `/companies/${company.id}/statistics`;
  const statistics = useQuery({ queryKey: ['statistics', company.id], queryFn: ({ signal }) => getJson<StatisticsDto>(path, signal) });
  const bring = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.set('statistics', file);
      return sendForm<StatisticsDto>(path, form);
    },
    onSuccess: () => client.invalidateQueries(),
    onSettled: () => {
      if (input.current) input.current.value = '';
    },
  });
  if (company.accountCount === 0) return <Empty title="No accounts yet">Statistics stand beside the ledger. Bring that in first.</Empty>;
  if (statistics.isError) return <Failure error={statistics.error} retry={() => void statistics.refetch()} />;
  if (!statistics.data) return <Loading what="the statistics" />;
  const { periods, series } = statistics.data;
  const name = (key: string) => company.periods.find((period) => period.key === key)?.name ?? key;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-4 text-[13px]">
        <button type="button" className="button" disabled={bring.isPending} onClick={() => input.current?.click()}>
          <Upload size={14} aria-hidden="true" /> {bring.isPending ? 'Taking the file in' : 'Bring in a statistics file'}
        </button>
        <input
          ref={input}
          type="file"
          accept=".csv,text/csv"
          aria-label="Statistics file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => event.target.files?.[0] && bring.mutate(event.target.files[0])}
        />
        <span className="text-ink-soft">
          A CSV file with the header series,period,value and any dimensions; a period is a fiscal year and its number, such as 2027-07
        </span>
      </div>
      {bring.isError ? (
        <p
          role="alert"
          className="mb-2 max-h-40 overflow-y-auto border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px] whitespace-pre-line"
        >
          {bring.error.message}
        </p>
      ) : null}
      {series.length === 0 ? (
        <Empty title="No statistics yet">
          Headcount, visits, guests or units by month stand beside the dollars and serve figures per head. Bring in a file of them.
        </Empty>
      ) : (
        <div className="flex min-h-0 flex-1 pb-3">
          <LongTable
            label="Statistics"
            rows={series}
            rowHeight={26}
            headings={
              <tr>
                <th scope="col" className="sticky left-0 z-10 border-r border-b border-hairline border-b-ink bg-sheet px-3 py-1.5">
                  Series
                </th>
                {periods.map((key) => (
                  <th key={key} scope="col" className="border-b border-ink px-2 text-right!">
                    {name(key)}
                  </th>
                ))}
              </tr>
            }
            row={(each, height) => (
              <tr key={each.name} className="group hover:bg-wash" style={{ height }}>
                <th scope="row" className="sticky left-0 border-r border-hairline bg-sheet px-3! font-normal! group-hover:bg-wash">
                  {each.name.replaceAll('_', ' ')}
                </th>
                {each.values.map((value, index) => (
                  <td key={periods[index]} className="figure">
                    {value === null ? '' : value.toLocaleString('en-US', { maximumFractionDigits: 2 })}
                  </td>
                ))}
              </tr>
            )}
          />
        </div>
      )}
    </>
  );
}
