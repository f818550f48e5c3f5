import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BudgetDto, BudgetGridDto, FilterDto } from '@wise-margin/contract';
import { useState } from 'react';
import { useParams } from 'react-router';
import { sendJson } from '../api/client.ts';
import { useCompany } from '../shell/company.ts';
import { figureText } from '@wise-margin/contract';
import { Page } from '../ui/page.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { BudgetTable, budgetLines } from './budget-table.tsx';
import { LinePanel } from './line-panel.tsx';
import { useBudget } from './use-budget.ts';
import { useEdits, type SaveState } from './use-edits.ts';
import { useSearch } from '../ui/use-search.ts';

const NONE = '(none)';
const SPREADS = [
  ['history', 'as history'],
  ['even', 'even'],
  ['days', 'by days'],
] as const;

/** A budget as a month grid that is typed into. */
export default function BudgetPage() {
  const company = useCompany();
  const id = Number(useParams().budget);
  const [search, setSearch] = useSearch();
  const slice = search.get('slice');
  const selected = search.get('row');
  const dimensionName = company.dimensions.find(({ name }) => name === 'department')?.name ?? company.dimensions[0]?.name;
  const filter: FilterDto = dimensionName && slice !== null ? { [dimensionName]: [slice === NONE ? '' : slice] } : {};
  const budget = useBudget(company.id, id, filter);
  const edits = useEdits(company.id, id, filter);
  const [spread, setSpread] = useState<'history' | 'even' | 'days'>('history');
  const [showAll, setShowAll] = useState(false);
  const [showPanel, setShowPanel] = useState(true);
  const set = (name: string, value: string | null) =>
    setSearch(
      (before) => {
        if (value === null) before.delete(name);
        else before.set(name, value);
      },
      { replace: true },
    );
  const { data } = budget;
  if (budget.isError) return <Failure error={budget.error} retry={() => void budget.refetch()} />;
  if (!data) return <Loading what="the budget" />;
  const locked = data.budget.state === 'approved';
  const row = data.rows.find(({ account }) => account === selected);
  const values = company.dimensions.find(({ name }) => name === data.dimension)?.values ?? [];
  return (
    <Page
      title={`${data.budget.name}, FY${data.budget.year}`}
      words={<SaveMark state={edits.state} locked={locked} />}
      actions={<StateButton budget={data.budget} />}
    >
      <Ribbon data={data} />
      <div className="my-2 flex flex-wrap items-center gap-4 text-[13px]">
        {data.dimension ? (
          <label className="flex items-center gap-1.5">
            <span className="text-ink-soft">{data.dimension[0]!.toUpperCase() + data.dimension.slice(1)}</span>
            <select className="field py-0.5 text-[13px]" value={slice ?? ''} onChange={(event) => set('slice', event.target.value || null)}>
              <option value="">All together</option>
              {values.map((value) => (
                <option key={value} value={value || NONE}>
                  {value || 'None given'}
                </option>
              ))}
            </select>
          </label>
        ) : null}
        <label className="flex items-center gap-1.5">
          <span className="text-ink-soft">A year typed spreads</span>
          <select className="field py-0.5 text-[13px]" value={spread} onChange={(event) => setSpread(event.target.value as 'even')}>
            {SPREADS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-copper" checked={showAll} onChange={(event) => setShowAll(event.target.checked)} /> Show
          accounts without figures
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-copper" checked={showPanel} onChange={(event) => setShowPanel(event.target.checked)} />{' '}
          Line panel
        </label>
        {slice === null && values.length > 1 ? (
          <span className="text-ink-soft">Typed here, a figure is shared among {data.dimension}s in proportion.</span>
        ) : null}
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        <BudgetTable
          data={data}
          lines={budgetLines(data, showAll)}
          exponent={company.exponent}
          spread={spread}
          locked={locked}
          pending={edits.pending}
          selected={selected}
          select={(account) => (account === selected ? undefined : set('row', account))}
          apply={edits.apply}
          currencyWords={company.currencyWords}
        />
        {row && showPanel ? (
          <LinePanel
            key={row.account}
            data={data}
            row={row}
            name={data.grid.lines.find(({ account }) => account === row.account)?.name ?? row.account}
            locked={locked}
            apply={edits.apply}
          />
        ) : null}
      </div>
    </Page>
  );
}

function SaveMark({ state, locked }: { readonly state: SaveState; readonly locked: boolean }) {
  if (locked) return <span role="status">Approved and locked</span>;
  if (state.kind === 'saved') return <span role="status">Working, all changes saved</span>;
  if (state.kind === 'saving') return <span role="status">Saving…</span>;
  return (
    <span role="alert" className="font-semibold text-brick">
      {state.message}
    </span>
  );
}

function StateButton({ budget }: { readonly budget: BudgetDto }) {
  const company = useCompany();
  const client = useQueryClient();
  const next = budget.state === 'approved' ? 'working' : 'approved';
  const change = useMutation({
    mutationFn: () => sendJson<BudgetDto>('POST', `/companies/${company.id}/budgets/${budget.id}/state`, { state: next }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <>
      {change.isError ? (
        <span role="alert" className="text-brick">
          {change.error.message}
        </span>
      ) : null}
      <button
        type="button"
        className={next === 'approved' ? 'button button-primary' : 'button'}
        disabled={change.isPending}
        onClick={() => change.mutate()}
      >
        {next === 'approved' ? `Approve for FY${budget.year}` : 'Take the approval back'}
      </button>
    </>
  );
}

const RIBBON = [
  ['revenue', 'Revenue, net'],
  ['gross_margin', 'Gross margin'],
  ['operating_result', 'Operating result'],
  ['operating_margin', 'Operating margin'],
] as const;

/** The year's summary against last year's actual, read from the grid. */
function Ribbon({ data }: { readonly data: BudgetGridDto }) {
  const company = useCompany();
  const cell = (line: string, column: string) =>
    data.grid.cells[data.grid.lines.findIndex(({ key }) => key === line)]![data.grid.columns.findIndex(({ key }) => key === column)]!;
  const isProjected = company.periods.some(
    ({ key, year }) => year === data.budget.year - 1 && (company.lastPosted === null || key > company.lastPosted),
  );
  return (
    <dl className="mt-2 flex gap-10">
      {RIBBON.map(([line, name]) => {
        const percent = cell(line, 'year.percent');
        const difference = cell(line, 'year.difference');
        const change =
          percent.kind === 'ratio'
            ? figureText(percent, { exponent: company.exponent, unit: 'dollars', withUnit: true })
            : figureText(difference, { exponent: company.exponent, unit: 'dollars' });
        return (
          <div key={line}>
            <dt className="text-[13px] text-ink-soft">{name}</dt>
            <dd className="font-serif text-[20px] leading-6 font-semibold tabular-nums">
              {figureText(cell(line, 'year.budget'), { exponent: company.exponent, unit: 'dollars', withUnit: true })}{' '}
              <span className="font-sans text-[13px] font-normal text-ink-soft">
                {change ? `${change} on FY${data.budget.year - 1}${isProjected ? ' projected' : ''}` : ''}
              </span>
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
