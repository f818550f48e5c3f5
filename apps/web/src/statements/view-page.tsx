import { shownLines, sidesOfForm } from '@wise-margin/presentation';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { plainChoices, readChoices, statementQuery } from '../data/statement-choices.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { useBudgets, useStatement, useStrip } from '../data/use-statement.ts';
import { useViews } from '../data/use-views.ts';
import { useDrillDownAddress } from '../drill-down/index.ts';
import { Page } from '../ui/page.tsx';
import { PeriodStrip } from '../ui/period-strip.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { ContinueNotice } from './continue-notice.tsx';
import { SmallMultiples } from './small-multiples.tsx';
import { StatementDrillDown } from './statement-drill-down.tsx';
import { StatementIssues } from './statement-issues.tsx';
import { StatementTable } from './statement-table.tsx';
import { asOfLine, unitLine } from './statement-words.ts';
import { useMonthStrip } from './use-month-strip.ts';
import { useRememberedChoices } from './use-remembered-choices.ts';
import { ViewActions } from './view-actions.tsx';
import { ViewToolbar } from './view-toolbar.tsx';

const NOTHING_OPEN: ReadonlySet<string> = new Set();

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
              Import a ledger
            </Link>
          }
        >
          Statements are built from the ledger. Import the accounts and entries of {company.name} first.
        </Empty>
      </Page>
    );
  }
  return <Statement key={view} view={view} asOf={asOf} setAsOf={setAsOf} />;
}

function Statement({ view, asOf, setAsOf }: { readonly view: string; readonly asOf: string; readonly setAsOf: (period: string) => void }) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const address = useDrillDownAddress();
  const [chosenOpen, setOpen] = useState<ReadonlySet<string> | 'all' | null>(null);
  const choices = readChoices(search, asOf);
  const statement = useStatement(company.id, view, choices);
  const views = useViews(company.id);
  const strip = useStrip(company.id, { ...plainChoices(asOf), budget: choices.budget, filter: choices.filter });
  const budgets = useBudgets(company.id);
  const months = useMonthStrip();
  useRememberedChoices(company.id, view, search);
  useMonthKeys();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  const [first] = address.state.figures;
  useReturnFocus(address.isOpen, () =>
    first ? document.querySelector<HTMLElement>(`[data-figure="${CSS.escape(`${first.line}~${first.column}`)}"]`) : null,
  );

  const grid = statement.data;
  const open = chosenOpen ?? (grid?.view.openAll ? 'all' : NOTHING_OPEN);
  const toggle = (line: string) =>
    setOpen(() => {
      const keys = open === 'all' ? new Set(grid?.lines.filter(({ kind }) => kind === 'accounts').map(({ key }) => key)) : new Set(open);
      if (!keys.delete(line)) keys.add(line);
      return keys;
    });
  const lines = useMemo(() => (grid ? shownLines(grid, { open, hideZero: grid.display.zeroLines === 'hide' }) : []), [grid, open]);
  const sides = grid ? sidesOfForm(grid, lines) : [];
  const unitWords = grid ? unitLine(grid, company.currencyWords) : '';
  const isCharts = search.get('show') === 'charts';
  const firstAmount = grid?.columns.find(({ kind }) => kind === 'amount')?.key;
  return (
    <Page
      title={grid?.head.title ?? views.data?.find(({ key }) => key === view)?.name ?? 'Statement'}
      words={grid ? asOfLine(grid) : ''}
      actions={
        <ViewActions
          view={view}
          asOf={asOf}
          exportQuery={{ ...statementQuery(choices), open: open === 'all' ? open : [...open].join(',') }}
          isCharts={isCharts}
          setCharts={(on) =>
            setSearch((before) => {
              if (on) before.set('show', 'charts');
              else before.delete('show');
            })
          }
        />
      }
    >
      {months.isOpen ? (
        <div className="no-print">
          {strip.data ? (
            <PeriodStrip strip={strip.data} asOf={asOf} exponent={company.exponent} choose={setAsOf} />
          ) : (
            <div className="h-[76px] short:hidden narrow:hidden" />
          )}
        </div>
      ) : null}
      <ViewToolbar
        view={view}
        views={views.data ?? []}
        grid={grid ?? null}
        choices={choices}
        change={setSearch}
        months={months}
        opening={
          lines.some(({ canOpen }) => canOpen)
            ? { isAnyOpen: open === 'all' || open.size > 0, toggle: (all) => setOpen(all ? 'all' : new Set()) }
            : null
        }
      />
      <ContinueNotice key={company.id} choices={views.data?.find(({ key }) => key === view)?.choices} budgets={budgets.data ?? []} />
      {grid ? <StatementIssues issues={grid.issues} /> : null}
      <div className="flex min-h-0 flex-1 gap-3 pb-3">
        {statement.isError ? <Failure error={statement.error} retry={() => void statement.refetch()} /> : null}
        {grid && !statement.isError && isCharts ? (
          <SmallMultiples
            view={view}
            choices={choices}
            lines={lines.filter(({ line }) => line.kind !== 'section' && line.kind !== 'spacer').map(({ line }) => line.key)}
            open={firstAmount === undefined ? null : (line) => address.openFigure({ line, column: firstAmount })}
          />
        ) : null}
        {grid && !statement.isError && !isCharts
          ? sides.map((side, index) => (
              <StatementTable
                key={index}
                grid={grid}
                lines={side}
                unitWords={unitWords}
                label={sides.length > 1 ? `Statement, side ${index + 1}` : 'Statement'}
                chosen={address.state.figures[0] ?? null}
                openDrillDown={address.openFigure}
                toggle={toggle}
              />
            ))
          : null}
        {!grid && !statement.isError ? <Loading what="the statement" /> : null}
        {address.isOpen ? <StatementDrillDown view={view} choices={choices} address={address} /> : null}
      </div>
      {grid && grid.head.footnotes.length > 0 && !statement.isError ? (
        <ul aria-label="Footnotes" className="pb-3 text-[12.5px] text-ink-soft">
          {grid.head.footnotes.map((text, index) => (
            <li key={index}>{text}</li>
          ))}
        </ul>
      ) : null}
    </Page>
  );
}
