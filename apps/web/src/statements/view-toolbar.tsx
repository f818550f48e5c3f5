import { displayChoicesOf, type GridDto, type ViewListDto } from '@wise-margin/contract';
import { DEFAULT_DISPLAY } from '@wise-margin/core';
import { useId, useState } from 'react';
import { useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { setFilter, type StatementChoices, viewAddress } from '../data/statement-choices.ts';
import { useBudgets } from '../data/use-statement.ts';
import { dimensionName } from '../filters/index.ts';
import { Choice } from '../ui/choice.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { UNITS } from '../ui/units.ts';
import { BenchmarksDialog } from './benchmarks-dialog.tsx';
import { DisplayPanel } from './display-panel.tsx';
import { FiltersPanel } from './filters-panel.tsx';

const NONE = '(none)';
const SEVERAL = '(several)';

/** The choices a view is run with. All of them are in the address. */
export function ViewToolbar({
  view,
  views,
  grid,
  choices,
  change,
  opening,
  months,
}: {
  readonly view: string;
  readonly views: ViewListDto;
  readonly grid: GridDto | null;
  readonly choices: StatementChoices;
  readonly change: (next: (search: URLSearchParams) => void) => void;
  /** the strip of months above the statement */
  readonly months: { readonly isOpen: boolean; readonly toggle: () => void };
  /** opens and closes all lines; null where none opens */
  readonly opening: { readonly isAnyOpen: boolean; readonly toggle: (all: boolean) => void } | null;
}) {
  const company = useCompany();
  const navigate = useNavigate();
  const budgets = useBudgets(company.id);
  const [isTyping, setTyping] = useState(false);
  const usesBudget = grid?.columns.some(({ scenario }) => scenario === 'budget' || scenario === 'projection') ?? false;
  const compares = grid?.columns.some(({ kind }) => kind === 'share') || grid?.lines.some(({ words }) => words !== null);
  const set = (name: string, value: string | null) =>
    change((search) => {
      if (value === null) search.delete(name);
      else search.set(name, value);
    });
  const dimension = company.dimensions.find(({ name }) => name === 'department') ?? company.dimensions[0];
  // what is chosen shows at once, before the figures that follow it are there
  const filter = Object.fromEntries(Object.entries({ ...grid?.filter, ...choices.filter }).filter(([, values]) => values.length > 0));
  const typed = choices.accounts ?? grid?.accounts ?? '';
  const accounts = typed === 'all' ? '' : typed;
  const drafts = choices.drafts === undefined ? (grid?.drafts ?? false) : choices.drafts === 'yes';
  const display = { ...DEFAULT_DISPLAY, ...grid?.display, ...displayChoicesOf(choices.display) };
  const values = (dimension && filter[dimension.name]) ?? [];
  const filters = Object.keys(filter).length + (accounts ? 1 : 0) + (drafts ? 1 : 0);
  const budgetChoice = usesBudget ? (
    <Choice
      label="Budget"
      value={String(choices.budget ?? '')}
      options={[
        ['', 'Approved budget'],
        ...(budgets.data ?? []).map(
          ({ id, year, name, state }) => [String(id), `FY${year} ${name}${state === 'approved' ? ', approved' : ''}`] as const,
        ),
      ]}
      choose={(value) => set('budget', value || null)}
    />
  ) : null;
  return (
    <div className="no-print my-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px] short:my-1 short:shrink-0 short:flex-nowrap short:overflow-x-auto narrow:shrink-0 narrow:flex-nowrap narrow:overflow-x-auto">
      <ViewChoice
        view={view}
        views={views}
        open={(next) =>
          void navigate(viewAddress({ company: company.id, view: next.key }, choices.asOf, new URLSearchParams(window.location.search)))
        }
      />
      {dimension ? (
        <Choice
          label={dimensionName(dimension.name)}
          value={values.length === 0 ? '' : values.length > 1 ? SEVERAL : values[0] || NONE}
          options={[
            ['', 'All'],
            ...(values.length > 1 ? [[SEVERAL, values.map((value) => value || `no ${dimension.name}`).join(', ')] as const] : []),
            ...dimension.values.map((value) => [value || NONE, value || `No ${dimension.name}`] as const),
          ]}
          choose={(value) =>
            value === SEVERAL
              ? undefined
              : change((search) => setFilter(search, dimension.name, value === '' ? [] : [value === NONE ? '' : value]))
          }
        />
      ) : null}
      {choices.budget === undefined ? null : budgetChoice}
      <FloatingPanel label="Filters" count={filters} wide>
        {choices.budget === undefined ? budgetChoice : null}
        <FiltersPanel
          filter={filter}
          accounts={accounts}
          drafts={drafts}
          setFilter={(name, next) => change((search) => setFilter(search, name, next))}
          setAccounts={(text) => set('accounts', text.trim() === '' ? 'all' : text.trim())}
          setDrafts={(on) => set('drafts', on ? 'yes' : 'no')}
        />
      </FloatingPanel>
      <Choice label="Units" value={display.unit} options={UNITS} choose={(value) => set('unit', value)} />
      {grid ? (
        <FloatingPanel label="Display">
          <DisplayPanel
            display={display}
            hasSides={grid.lines.some(({ startsSide }) => startsSide)}
            logo={company.logo}
            choose={(name, value) => set(name, value)}
          />
          {compares ? (
            <button type="button" className="link mt-2" onClick={() => setTyping(true)}>
              Benchmarks…
            </button>
          ) : null}
        </FloatingPanel>
      ) : null}
      {opening ? (
        <button type="button" className="link whitespace-nowrap" onClick={() => opening.toggle(!opening.isAnyOpen)}>
          {opening.isAnyOpen ? 'Collapse all' : 'Expand all'}
        </button>
      ) : null}
      <button
        type="button"
        className="link whitespace-nowrap short:hidden narrow:hidden"
        aria-expanded={months.isOpen}
        onClick={months.toggle}
      >
        {months.isOpen ? 'Hide month strip' : 'Show month strip'}
      </button>
      {isTyping && grid ? <BenchmarksDialog grid={grid} close={() => setTyping(false)} /> : null}
    </div>
  );
}

function ViewChoice({
  view,
  views,
  open,
}: {
  readonly view: string;
  readonly views: ViewListDto;
  readonly open: (view: ViewListDto[number]) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-1.5">
      <label htmlFor={id} className="text-ink-soft">
        View
      </label>
      <select
        id={id}
        className="field max-w-48 py-0.5 text-[13px]"
        value={view}
        onChange={(event) => {
          const next = views.find(({ key }) => key === event.target.value);
          if (next) open(next);
        }}
      >
        {[...new Set(views.map(({ folder }) => folder))].map((folder) => (
          <optgroup key={folder} label={folder}>
            {views
              .filter((each) => each.folder === folder)
              .map(({ key, name }) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </div>
  );
}
