import type { CompanyGroupDto } from '@wise-margin/contract';
import { COMBINED_SCENARIOS, COMBINED_SPANS, currency } from '@wise-margin/core';
import { shownLines } from '@wise-margin/presentation';
import { Building2, Coins, Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';

import { queryText } from '../api/client.ts';
import { CompanyContext, useAsOf, useCompany } from '../data/company.ts';
import { type CombinedChoices, combinedPath, useCombined, useCompanyGroups } from '../data/use-combined.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { useViews } from '../data/use-views.ts';
import { type CellPlace, StatementDownloads, StatementIssues, StatementTable, unitLine } from '../statements/index.ts';
import { Choice } from '../ui/choice.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { UNITS } from '../ui/units.ts';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { CombinedFigure } from './combined-figure.tsx';
import { GroupDialog } from './group-dialog.tsx';
import { RatesDialog } from './rates-dialog.tsx';

const SPANS: Readonly<Record<(typeof COMBINED_SPANS)[number], string>> = {
  month: 'Month',
  quarterToDate: 'Quarter to date',
  yearToDate: 'Year to date',
  trailingTwelve: 'Trailing twelve months',
};
const SCENARIOS: Readonly<Record<(typeof COMBINED_SCENARIOS)[number], string>> = { actual: 'Actual', budget: 'Budget' };

/** Statements of several companies side by side, with their total. */
export default function CombinedPage() {
  const company = useCompany();
  const groups = useCompanyGroups();
  const [search, setSearch] = useSearch();
  const [asOf] = useAsOf();
  const [editing, setEditing] = useState<CompanyGroupDto | 'new' | null>(null);
  const own = groups.data?.filter(({ members }) => members.some((member) => member.company === company.id)) ?? [];
  const group = groups.data?.find(({ id }) => String(id) === search.get('group')) ?? own[0] ?? groups.data?.[0];
  const dialog =
    editing === null ? null : (
      <GroupDialog
        group={editing === 'new' ? null : editing}
        close={(saved) => {
          setEditing(null);
          if (saved !== undefined)
            setSearch((before) => {
              if (saved === null) before.delete('group');
              else before.set('group', String(saved));
            });
        }}
      />
    );
  if (groups.isError || groups.isPending || !group || asOf === null)
    return (
      <Page title="Combined statements">
        {groups.isError ? <Failure error={groups.error} retry={() => void groups.refetch()} /> : null}
        {groups.isPending ? <Loading what="the company groups" /> : null}
        {groups.data && asOf === null ? (
          <Empty
            title="No entries yet"
            action={
              <Link className="button button-primary" to={`/c/${company.id}/ledger/imports/new`}>
                Import a ledger
              </Link>
            }
          >
            Combined statements are built from ledgers. Import the accounts and entries of {company.name} first.
          </Empty>
        ) : null}
        {groups.data && !group && asOf !== null ? (
          <Empty
            title="No company groups yet"
            action={
              <button type="button" className="button button-primary" onClick={() => setEditing('new')}>
                <Plus size={15} aria-hidden="true" /> New group
              </button>
            }
          >
            A group sets companies side by side with a total: the same calendar months of each, net of intercompany balances.
          </Empty>
        ) : null}
        {dialog}
      </Page>
    );
  return (
    <>
      <Combined key={group.id} group={group} groups={groups.data} asOf={asOf} edit={setEditing} />
      {dialog}
    </>
  );
}

function Combined({
  group,
  groups,
  asOf,
  edit,
}: {
  readonly group: CompanyGroupDto;
  readonly groups: readonly CompanyGroupDto[];
  readonly asOf: string;
  readonly edit: (group: CompanyGroupDto | 'new') => void;
}) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const [, setAsOf] = useAsOf();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [figure, setFigure] = useState<CellPlace | null>(null);
  const [showsRates, setShowsRates] = useState(false);
  const views = useViews(group.lead);
  useMonthKeys();
  useKeys({ Escape: () => setFigure(null) });
  useReturnFocus(figure !== null, () => document.querySelector<HTMLElement>('table [data-tab-stop]'));
  const view = search.get('view') ?? 'income';
  const choices: CombinedChoices = {
    asOf,
    span: search.get('span') ?? undefined,
    scenario: search.get('scenario') ?? undefined,
    columns: search.get('columns') ?? undefined,
    unit: search.get('unit') ?? undefined,
  };
  const statement = useCombined(group.id, view, choices);
  const grid = statement.data;
  const money = currency(group.currency);
  const inCurrency = useMemo(
    () => ({ ...company, exponent: money.exponent, currencySign: money.sign, currencyWords: money.words }),
    [company, money.exponent, money.sign, money.words],
  );
  const lines = useMemo(() => (grid ? shownLines(grid, { open, hideZero: grid.display.zeroLines === 'hide' }) : []), [grid, open]);
  const set = (name: string, usual: string) => (value: string) =>
    setSearch((before) => {
      if (value === usual) before.delete(name);
      else before.set(name, value);
    });
  const isSideBySide = choices['columns'] !== 'view';
  const foreign = [...new Set(group.members.map((member) => member.currency))].filter((code) => code !== group.currency);
  const name = views.data?.find(({ key }) => key === view)?.name ?? grid?.head.title ?? 'Combined statement';
  return (
    <Page
      title={`${name}, combined`}
      words={
        grid
          ? `${group.name}; ${grid.head.subtitle || grid.asOfWords}; fiscal year of ${group.members.find((member) => member.company === group.lead)!.name}`
          : ''
      }
      actions={
        <>
          <button type="button" className="button" onClick={() => edit(group)}>
            <Building2 size={15} aria-hidden="true" /> Companies
          </button>
          {foreign.length > 0 ? (
            <button type="button" className="button" onClick={() => setShowsRates(true)}>
              <Coins size={15} aria-hidden="true" /> Exchange rates
            </button>
          ) : null}
          <StatementDownloads
            address={(format) =>
              `/api${combinedPath(group.id, view)}/export.${format}${queryText({ ...choices, open: [...open].join(',') })}`
            }
          />
        </>
      }
    >
      <div className="no-print my-2 flex flex-wrap items-center gap-x-2.5 gap-y-1 text-[13px] [&_select]:max-w-36">
        <Choice
          label="Group"
          value={String(group.id)}
          options={[...groups.map(({ id, name: of }) => [String(id), of] as const), ['new', 'New group…']]}
          choose={(value) => (value === 'new' ? edit('new') : set('group', '')(value))}
        />
        <Choice
          label="View"
          value={view}
          options={views.data ? views.data.map((each) => [each.key, each.name]) : [[view, grid?.head.title ?? view]]}
          choose={set('view', 'income')}
        />
        <Choice label="As of" value={asOf} options={company.periods.map(({ key, name: of }) => [key, of])} choose={setAsOf} />
        <Choice
          label="Columns"
          value={isSideBySide ? 'companies' : 'view'}
          options={[
            ['companies', 'Companies'],
            ['view', 'Same as view'],
          ]}
          choose={set('columns', 'companies')}
        />
        {isSideBySide ? (
          <>
            <Choice
              label="Period"
              value={choices['span'] ?? 'yearToDate'}
              options={COMBINED_SPANS.map((span) => [span, SPANS[span]])}
              choose={set('span', 'yearToDate')}
            />
            <Choice
              label="Show"
              value={choices['scenario'] ?? 'actual'}
              options={COMBINED_SCENARIOS.map((scenario) => [scenario, SCENARIOS[scenario]])}
              choose={set('scenario', 'actual')}
            />
          </>
        ) : null}
        <Choice label="Units" value={choices['unit'] ?? grid?.display.unit ?? 'dollars'} options={UNITS} choose={set('unit', '')} />
      </div>
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {grid ? <StatementIssues issues={grid.issues} /> : null}
      <div className="flex min-h-0 flex-1 gap-3 pb-3">
        {statement.isError ? (
          <div>
            <Failure error={statement.error} retry={() => void statement.refetch()} />
            {foreign.length > 0 ? (
              <button type="button" className="button mt-2" onClick={() => setShowsRates(true)}>
                Add exchange rates
              </button>
            ) : null}
          </div>
        ) : null}
        {grid && !statement.isError ? (
          <CompanyContext value={inCurrency}>
            <StatementTable
              grid={grid}
              lines={lines}
              unitWords={unitLine(grid, money.words)}
              label="Combined statement"
              chosen={figure}
              openDrillDown={setFigure}
              toggle={(line) =>
                setOpen((before) => {
                  const next = new Set(before);
                  if (!next.delete(line)) next.add(line);
                  return next;
                })
              }
            />
            {figure ? (
              <CombinedFigure group={group} view={view} choices={choices} grid={grid} figure={figure} close={() => setFigure(null)} />
            ) : null}
          </CompanyContext>
        ) : null}
        {!grid && !statement.isError ? <Loading what="the statement" /> : null}
      </div>
      {showsRates ? <RatesDialog from={foreign} to={group.currency} close={() => setShowsRates(false)} /> : null}
    </Page>
  );
}
