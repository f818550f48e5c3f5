import { shownLines, type FilterDto } from '@wise-margin/contract';
import type { DisplayUnit } from '@wise-margin/core';
import { Download, PencilLine } from 'lucide-react';
import { useId, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { queryText } from '../api/client.ts';
import { useAsOf, useCompany } from '../shell/company.ts';
import { useViews } from '../shell/use-views.ts';
import { useMonthKeys } from '../shell/use-month-keys.ts';
import { TRAIL_NAMES, useTrailAddress } from '../trail/trail-address.ts';
import { PeriodStrip } from '../ui/period-strip.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { StatementIssues } from './statement-issues.tsx';
import { StatementTable } from './statement-table.tsx';
import { StatementTrail } from './statement-trail.tsx';
import { statementQuery, useBudgets, useStatement, useStrip, type StatementChoices } from './use-statement.ts';
import { useSearch } from '../ui/use-search.ts';

const UNITS: readonly (readonly [DisplayUnit, string])[] = [
  ['cents', 'Cents'],
  ['dollars', 'Dollars'],
  ['thousands', 'Thousands'],
];
const NONE = '(none)';

/** A view of the library, its month and choices in the address bar. */
export default function ViewPage() {
  const company = useCompany();
  const view = useParams()['view'] ?? 'income';
  const [asOf, setAsOf] = useAsOf();
  if (asOf === null) {
    return (
      <Page title="Statements">
        <Empty
          title="No entries yet"
          action={
            <Link className="button button-primary" to={`/c/${company.id}/ledger/imports/new`}>
              Bring in a ledger
            </Link>
          }
        >
          A statement is read from the ledger. Bring in the accounts and entries of {company.name} first.
        </Empty>
      </Page>
    );
  }
  return <Statement key={view} view={view} asOf={asOf} setAsOf={setAsOf} />;
}

function Statement({ view, asOf, setAsOf }: { readonly view: string; readonly asOf: string; readonly setAsOf: (period: string) => void }) {
  const navigate = useNavigate();
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const address = useTrailAddress();
  const [chosenOpen, setOpen] = useState<ReadonlySet<string> | 'all' | null>(null);
  const dimension = company.dimensions.find(({ name }) => name === 'department') ?? company.dimensions[0];
  const slice = dimension ? search.get(dimension.name) : null;
  const filter: FilterDto = dimension && slice !== null ? { [dimension.name]: [slice === NONE ? '' : slice] } : {};
  const unit = (UNITS.find(([key]) => key === search.get('unit')) ?? UNITS[1]!)[0];
  const hideZero = search.get('zero') !== 'show';
  const budget = Number(search.get('budget')) || undefined;
  const choices: StatementChoices = { asOf, budget, filter };
  const statement = useStatement(company.id, view, choices);
  const views = useViews(company.id);
  const strip = useStrip(company.id, choices);
  const budgets = useBudgets(company.id);
  const choose = (name: string, value: string | null) =>
    setSearch((before) => {
      if (value === null) before.delete(name);
      else before.set(name, value);
    });
  /** the month and choices go along to another view; the figure that was followed does not */
  const withoutTrail = (): string => {
    const kept = new URLSearchParams(window.location.search);
    for (const name of TRAIL_NAMES) kept.delete(name);
    return kept.toString();
  };
  useMonthKeys();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });

  const grid = statement.data;
  const open = chosenOpen ?? (grid?.view.openAll ? 'all' : new Set<string>());
  const isAnyOpen = open === 'all' || open.size > 0;
  const toggle = (line: string) =>
    setOpen(() => {
      const keys = open === 'all' ? new Set(grid?.lines.filter(({ kind }) => kind === 'accounts').map(({ key }) => key)) : new Set(open);
      if (!keys.delete(line)) keys.add(line);
      return keys;
    });
  const usesBudget = grid?.columns.some(({ scenario }) => scenario === 'budget' || scenario === 'projection') ?? false;
  const lines = grid ? shownLines(grid, { open, hideZero }) : [];
  const exported = (format: string): string =>
    `/api/companies/${company.id}/statements/${view}/export.${format}${queryText({ ...statementQuery(choices), open: open === 'all' ? open : [...open].join(','), zero: hideZero ? 'hide' : 'show', unit })}`;
  const unitWords = unit === 'thousands' ? `Thousands of ${company.currencyWords}` : company.currencyWords;
  return (
    <Page
      title={grid?.view.name ?? views.data?.find(({ key }) => key === view)?.name ?? 'Statement'}
      words={
        grid
          ? [grid.asOfWords, usesBudget ? `against ${grid.budgetWords}` : '', slice === null ? '' : `${dimension!.name} ${slice}`]
              .filter((text) => text !== '')
              .join('; ')
          : ''
      }
      actions={
        <>
          <Link className="button" to={`/c/${company.id}/statements/${view}/edit?asOf=${asOf}`}>
            <PencilLine size={15} aria-hidden="true" /> Edit
          </Link>
          <a className="button" href={exported('xlsx')} download>
            <Download size={15} aria-hidden="true" /> Spreadsheet
          </a>
          <a className="button" href={exported('csv')} download>
            <Download size={15} aria-hidden="true" /> CSV
          </a>
        </>
      }
    >
      {strip.data ? (
        <PeriodStrip strip={strip.data} asOf={asOf} exponent={company.exponent} choose={setAsOf} />
      ) : (
        <div className="h-[76px]" />
      )}
      <div className="my-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        <div className="flex items-center gap-1.5">
          <label htmlFor="choice-view" className="text-ink-soft">
            View
          </label>
          <select
            id="choice-view"
            className="field max-w-64 py-0.5 text-[13px]"
            value={view}
            onChange={(event) => void navigate({ pathname: `/c/${company.id}/statements/${event.target.value}`, search: withoutTrail() })}
          >
            {[...new Set(views.data?.map(({ shelf }) => shelf))].map((shelf) => (
              <optgroup key={shelf} label={shelf}>
                {views
                  .data!.filter((each) => each.shelf === shelf)
                  .map(({ key, name }) => (
                    <option key={key} value={key}>
                      {name}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </div>
        {usesBudget ? (
          <Choice
            label="Budget"
            value={String(budget ?? '')}
            options={[
              ['', 'Approved of each year'],
              ...(budgets.data ?? []).map(
                ({ id, year, name, state }) => [String(id), `FY${year} ${name}${state === 'approved' ? ', approved' : ''}`] as const,
              ),
            ]}
            choose={(value) => choose('budget', value || null)}
          />
        ) : null}
        {dimension ? (
          <Choice
            label={dimension.name[0]!.toUpperCase() + dimension.name.slice(1)}
            value={slice ?? ''}
            options={[['', 'All'], ...dimension.values.map((value) => [value || NONE, value || 'None given'] as const)]}
            choose={(value) => choose(dimension.name, value || null)}
          />
        ) : null}
        <Choice label="Units" value={unit} options={UNITS} choose={(value) => choose('unit', value === 'dollars' ? null : value)} />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-copper"
            checked={hideZero}
            onChange={(event) => choose('zero', event.target.checked ? null : 'show')}
          />{' '}
          Hide zero lines
        </label>
        {lines.some(({ canOpen }) => canOpen) ? (
          <button type="button" className="link" onClick={() => setOpen(isAnyOpen ? new Set() : 'all')}>
            {isAnyOpen ? 'Close all lines' : 'Open all lines'}
          </button>
        ) : null}
      </div>
      {grid ? <StatementIssues issues={grid.issues} /> : null}
      <div className="flex min-h-0 flex-1 pb-3">
        {statement.isError ? <Failure error={statement.error} retry={() => void statement.refetch()} /> : null}
        {grid && !statement.isError ? (
          <StatementTable
            grid={grid}
            lines={lines}
            exponent={company.exponent}
            unit={unit}
            unitWords={
              grid.percentBase !== null && grid.columns.some(({ kind }) => kind === 'share')
                ? `${unitWords}; shares are percent of ${grid.percentBase.toLowerCase()}`
                : unitWords
            }
            chosen={address.state.figures[0] ?? null}
            openTrail={address.openFigure}
            toggle={toggle}
          />
        ) : null}
        {!grid && !statement.isError ? <Loading what="the statement" /> : null}
        {address.isOpen ? <StatementTrail view={view} choices={choices} address={address} /> : null}
      </div>
    </Page>
  );
}

function Choice({
  label,
  value,
  options,
  choose,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [string, string])[];
  readonly choose: (value: string) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-1.5">
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
      <select id={id} className="field max-w-56 py-0.5 text-[13px]" value={value} onChange={(event) => choose(event.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
