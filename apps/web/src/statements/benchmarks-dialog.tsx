import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BenchmarkChange, BenchmarkDto, CellDto, GridDto, Scope } from '@wise-margin/contract';
import { parseTypedAmount } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';
import { useState } from 'react';

import { getJson, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Choice } from '../ui/choice.tsx';
import { DialogFrame } from '../ui/dialog-frame.tsx';

type Asked = { readonly key: string; readonly name: string; readonly unit: 'percent' | 'times' | 'days'; readonly now: CellDto | null };
const UNIT_WORDS = { percent: '%', times: 'times', days: 'days' } as const;

/** The lines of a statement that a benchmark can be typed for: ratios, and lines with a share of the percent base. */
function askedLines(grid: GridDto): Asked[] {
  const share = grid.columns.findIndex(({ kind }) => kind === 'share');
  const first = grid.columns.findIndex(({ kind }) => kind === 'amount');
  return grid.lines.flatMap((line, index): Asked[] => {
    if (line.kind === 'account' || line.kind === 'slice') return [];
    const ratio = grid.cells[index]!.find(({ kind }) => kind === 'ratio');
    if (line.kind === 'formula' && first >= 0) {
      const now = grid.cells[index]![first]!;
      if (now.kind === 'ratio' && now.unit !== 'points') return [{ key: line.key, name: line.name, unit: now.unit, now }];
    }
    if (share < 0 || !ratio) return [];
    const now = grid.cells[index]![share]!;
    return now.kind === 'ratio' ? [{ key: line.key, name: line.name, unit: 'percent', now }] : [];
  });
}

/** What ratios and shares are held against, typed for the company: every view that has the line compares with it. */
export function BenchmarksDialog({ grid, close }: { readonly grid: GridDto; readonly close: () => void }) {
  const company = useCompany();
  const client = useQueryClient();
  const known = useQuery({
    queryKey: ['benchmarks', company.id],
    queryFn: ({ signal }) => getJson<BenchmarkDto[]>(`/companies/${company.id}/benchmarks`, signal),
  });
  const save = useMutation({
    mutationFn: (change: BenchmarkChange) => sendJson<BenchmarkDto[]>('PUT', `/companies/${company.id}/benchmarks`, change),
    onSuccess: (list) => {
      client.setQueryData(['benchmarks', company.id], list);
      void client.invalidateQueries({ predicate: ({ queryKey }) => ['statement', 'benchmarks'].includes(String(queryKey[0])) });
    },
  });
  const lines = askedLines(grid);
  const [scope, setScope] = useState<Scope>('company');
  return (
    <DialogFrame title="Benchmarks" width="medium" close={close}>
      <p className="text-[13px] text-ink-soft">Enter a benchmark once. Every view with this line uses it.</p>
      <div className="mb-2 text-[13px]">
        <Choice
          label="Changes are for"
          value={scope}
          options={[
            ['company', company.name],
            ['all', 'All companies'],
          ]}
          choose={(value) => setScope(value as Scope)}
        />
      </div>
      {save.isError ? (
        <p role="alert" className="text-brick">
          {save.error.message}
        </p>
      ) : null}
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Lines with their benchmarks">
        <table className="ledger-table w-full">
          <thead className="sticky top-0 bg-sheet">
            <tr>
              <th scope="col" className="px-1.5">
                Line
              </th>
              <th scope="col" className="px-1.5 text-right!">
                Now
              </th>
              <th scope="col" className="px-1.5">
                Kind
              </th>
              <th scope="col" className="px-1.5">
                Benchmark
              </th>
            </tr>
          </thead>
          <tbody>
            {known.data && lines.length > 0
              ? lines.map((line) => (
                  <BenchmarkRow
                    key={`${line.key} ${JSON.stringify(known.data.find((each) => each.line === line.key) ?? null)}`}
                    line={line}
                    held={known.data.find((each) => each.line === line.key) ?? null}
                    exponent={company.exponent}
                    save={(change) => save.mutate({ ...change, scope })}
                  />
                ))
              : null}
          </tbody>
        </table>
        {lines.length === 0 ? <p className="py-4 text-ink-soft">This view has no ratio or percentage line.</p> : null}
      </div>
      <div className="mt-3 text-right">
        <button type="button" className="button button-primary" onClick={close}>
          Done
        </button>
      </div>
    </DialogFrame>
  );
}

function BenchmarkRow({
  line,
  held,
  exponent,
  save,
}: {
  readonly line: Asked;
  readonly held: BenchmarkDto | null;
  readonly exponent: number;
  readonly save: (change: BenchmarkChange) => void;
}) {
  const scale = line.unit === 'percent' ? 100 : 1;
  const heldText = held ? String(Math.round(held.value * scale * 1e4) / 1e4) : '';
  const [text, setText] = useState(heldText);
  const [kind, setKind] = useState<BenchmarkDto['kind']>(held?.kind ?? 'industry');
  const [fault, setFault] = useState(false);
  const commit = (typed: string, of: BenchmarkDto['kind']) => {
    const trimmed = typed.trim().replace(/%$/, '');
    // four decimals of what is typed, read as decimal text
    const read = trimmed === '' ? null : parseTypedAmount(trimmed, 4);
    setFault(read !== null && !read.ok);
    if (read === null) {
      if (held) save({ line: line.key, kind: of, value: null });
    } else if (read.ok && (typed !== heldText || of !== held?.kind)) save({ line: line.key, kind: of, value: read.value / 1e4 / scale });
  };
  return (
    <tr className="hover:bg-wash">
      <th scope="row" className="border-b border-hairline font-normal!">
        {line.name}
      </th>
      <td className="figure border-b border-hairline text-ink-soft">
        {line.now ? figureText(line.now, { exponent, unit: 'dollars', withUnit: true }) : ''}
      </td>
      <td className="border-b border-hairline">
        <select
          aria-label={`Type of benchmark of ${line.name}`}
          className="field py-0 text-[13px]"
          value={kind}
          onChange={(event) => {
            const next = event.target.value as BenchmarkDto['kind'];
            setKind(next);
            if (held) commit(text, next);
          }}
        >
          <option value="industry">Industry</option>
          <option value="target">Target</option>
        </select>
      </td>
      <td className="border-b border-hairline">
        <input
          aria-label={`Benchmark of ${line.name}`}
          aria-invalid={fault}
          className="field w-24 py-0 text-right text-[13px]"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => commit(text, kind)}
          onKeyDown={(event) => event.key === 'Enter' && commit(text, kind)}
        />{' '}
        <span className="text-ink-soft">{UNIT_WORDS[line.unit]}</span>
        {held?.scope === 'all' ? <span className="ml-2 text-[12px] text-ink-soft">all companies</span> : null}
        {held && held.scope === 'all' && held.changedBy.length > 0 ? (
          <span className="block text-[12px] text-ink-soft">{held.changedBy.join(', ')}: own benchmark</span>
        ) : null}
        {fault ? <span className="ml-2 text-brick">Enter a number such as 38.5</span> : null}
      </td>
    </tr>
  );
}
