import { type BudgetEditDto, type FilterDto, filterParameter, isFilterParameter, readFilter } from '@wise-margin/contract';
import { filterKey, type Spread } from '@wise-margin/core';
import { budgetLockWords } from '@wise-margin/presentation';
import { Lock, Redo2, Undo2 } from 'lucide-react';
import { startTransition, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Choice } from '../ui/choice.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Page } from '../ui/page.tsx';
import { PageFailure } from '../ui/page-failure.tsx';
import { Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { useStableCallback } from '../ui/use-stable-callback.ts';
import type { BasisDrafts } from './bases/basis-form.tsx';
import { BudgetActions } from './budget-actions.tsx';
import { BudgetFilePanel } from './budget-file-panel.tsx';
import { ChecksPanel, useBudgetChecks } from './checks-panel.tsx';
import { BudgetGrid } from './grid/budget-grid.tsx';
import { HistoryPanel } from './history-panel.tsx';
import { LinePanel } from './line-panel.tsx';
import { Ribbon } from './ribbon.tsx';
import { SidePanel } from './side-panel.tsx';
import { SpreadChoice } from './spread-choice.tsx';
import { TargetPanel } from './target-panel.tsx';
import { usePickedRow } from './use-picked-row.ts';
import { useRows } from './use-rows.ts';
import { WhatIfPanel } from './what-if-panel.tsx';
import { ConflictDialog } from './worksheet/conflict-dialog.tsx';
import { Notices, SaveMark } from './worksheet/notices.tsx';
import { useWorksheet } from './worksheet/use-worksheet.ts';

const MOST_NAMED = 12;
const capitalized = (name: string): string => name[0]!.toUpperCase() + name.slice(1);

/** A budget as a month grid that is typed into. */
export default function BudgetPage() {
  const company = useCompany();
  const id = Number(useParams().budget);
  const [search, setSearch] = useSearch();
  const set = (name: string, value: string | null) =>
    setSearch(
      (before) => {
        if (value === null) before.delete(name);
        else before.set(name, value);
      },
      { replace: true },
    );
  const [selected, pickRow] = usePickedRow(search.get('row'), (account) => set('row', account));
  // one value of each dimension at most: a line belongs to one slice
  const filtered = Object.entries(readFilter(search)).flatMap(([name, [value]]) => (value === undefined ? [] : [[name, [value]] as const]));
  const filterText = JSON.stringify(Object.fromEntries(filtered));
  const filter = useMemo(() => JSON.parse(filterText) as FilterDto, [filterText]);
  const strange = filtered.filter(
    ([name, [value]]) => !company.dimensions.some((each) => each.name === name && each.values.includes(value!)),
  );
  const rows = useRows(company.id, search.get('rows'));
  const { opened, session, snapshot } = useWorksheet(company.id, id, { filter, account: selected, lineSet: rows.lineSet });
  const [spread, setSpread] = useState<Spread>('history');
  const [showAll, setShowAll] = useState(false);
  const [withQuarters, setWithQuarters] = useState(false);
  const panel = search.get('panel') ?? 'line';
  const [month, setMonth] = useState<number | null>(null);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [message, setMessage] = useState<string | null>(null);
  const [drafts] = useState<BasisDrafts>(() => new Map());
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (!(event.ctrlKey || event.metaKey) || target?.closest('input, textarea, select')) return;
      const key = event.key.toLowerCase();
      if (key === 'z' && !event.shiftKey) {
        event.preventDefault();
        void session?.step('undo');
      } else if (key === 'y' || (key === 'z' && event.shiftKey)) {
        event.preventDefault();
        void session?.step('redo');
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [session]);

  /** Leads to a line in the slice a finding is about; of the account as a whole, with all together. */
  const goToSlice = (account: string, slice: Readonly<Record<string, string>> | null): void =>
    setSearch(
      (before) => {
        before.set('row', account);
        for (const name of [...before.keys()]) if (isFilterParameter(name)) before.delete(name);
        for (const [name, value] of Object.entries(slice ?? {})) before.append(...filterParameter(name, value));
      },
      { replace: true },
    );
  const select = useStableCallback((account: string, at: number | null) =>
    startTransition(() => {
      setMonth(at);
      pickRow(account);
    }),
  );
  const apply = useStableCallback((edits: readonly BudgetEditDto[]) => session?.apply(edits));
  const checks = useBudgetChecks(company.id, id);
  const shown = snapshot?.view ?? null;
  // the grid and the ribbon are drawn first, what stands beside them after
  const beside = useDeferredValue(shown);
  const slice = filterKey(filter);
  const noteBits = useMemo(() => {
    const bits: Record<string, number> = {};
    for (const note of shown?.notes ?? [])
      if (note.slice === slice) bits[note.account] = (bits[note.account] ?? 0) | (1 << (note.month ?? 12));
    return bits;
  }, [shown?.notes, slice]);
  if (opened.isError)
    return <PageFailure title="Budget" error={opened.error} retry={() => void opened.refetch()} company={company.id} list="budgets" />;
  if (!opened.data || !session || !snapshot || !shown || !beside) return <Loading what="the budget" />;
  const { budget } = opened.data;
  const lock = budgetLockWords(snapshot.state);
  const locked = lock !== null;
  const { undo, redo } = snapshot.steps;
  const panels = [
    ['line', 'Line details'],
    ['checks', checks.data ? `Budget checks (${checks.data.open} open)` : 'Budget checks'],
    ['what-if', 'What-if'],
    ['target', 'Target'],
    ['history', 'History'],
    ['none', 'None'],
  ] as const;
  const { row } = beside;
  const isWhole = filtered.length === 0;
  return (
    <Page
      title={`${budget.name}, FY${budget.year}`}
      words={<SaveMark snapshot={snapshot} locked={locked} />}
      actions={
        <>
          <button
            type="button"
            className="button"
            disabled={undo === null || locked}
            title={undo === null ? 'Nothing to undo' : `Undo: ${undo} (Ctrl+Z)`}
            aria-label="Undo"
            onClick={() => void session.step('undo')}
          >
            <Undo2 size={15} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="button"
            disabled={redo === null || locked}
            title={redo === null ? 'Nothing to redo' : `Redo: ${redo} (Ctrl+Y)`}
            aria-label="Redo"
            onClick={() => void session.step('redo')}
          >
            <Redo2 size={15} aria-hidden="true" />
          </button>
          <BudgetFilePanel
            budget={id}
            filter={filter}
            sliceWords={filtered.map(([, [value]]) => value || 'none').join(', ') || 'all departments'}
            locked={locked}
            applied={() => session.refresh()}
          />
          <BudgetActions
            budget={budget}
            state={snapshot.state}
            changed={(state) => session.setState(state)}
            rederive={() => void session.step('rederive')}
          />
        </>
      }
    >
      <Ribbon summary={shown.summary} year={budget.year} />
      <div className="my-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        {company.dimensions
          .filter(({ name }) => budget.dimensions.includes(name))
          .map(({ name, values }) => (
            <Choice
              key={name}
              label={capitalized(name)}
              value={search.get(`filter.${name}`) ?? ''}
              options={[['', `All ${name}s`], ...values.map((value) => [filterParameter(name, value)[1], value || `No ${name}`] as const)]}
              choose={(value) => set(`filter.${name}`, value || null)}
            />
          ))}
        {rows.options.length > 1 ? (
          <Choice label="Rows" value={rows.key} options={rows.options} choose={(key) => set('rows', key || null)} />
        ) : null}
        <SpreadChoice spread={spread} choose={setSpread} year={budget.year} />
        <CheckField label="Quarters" checked={withQuarters} set={setWithQuarters} />
        <CheckField label="Show accounts with no amounts" checked={showAll} set={setShowAll} />
        <Choice label="Panel" value={panel} options={panels} choose={(value) => set('panel', value === 'line' ? null : value)} />
      </div>
      {strange.map(([name, [value]]) => (
        <p key={name} role="alert" className="mb-2 border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
          There is no {name} “{value}”. Choose one above.
        </p>
      ))}
      {rows.fault ? (
        <p role="alert" className="mb-2 border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
          {rows.fault}
        </p>
      ) : null}
      {shown.circle ? (
        <p role="alert" className="mb-2 border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
          Accounts {shown.circle.join(', ')} depend on each other. Their months stay unchanged until you choose another basis for one of
          them.
        </p>
      ) : null}
      {shown.outside.length > 0 ? (
        <p role="status" className="mb-2 border-l-2 border-copper bg-sheet px-3 py-1.5 text-[13px]">
          {shown.outside.length === 1 ? 'One budgeted account is' : `${shown.outside.length} budgeted accounts are`} not in these rows:{' '}
          {shown.outside.slice(0, MOST_NAMED).join(', ')}
          {shown.outside.length > MOST_NAMED ? ` and ${shown.outside.length - MOST_NAMED} more` : ''}.
        </p>
      ) : null}
      {lock === null ? null : (
        <p role="status" className="mb-2 flex items-center gap-2 border-l-2 border-copper bg-wash px-3 py-1.5 text-[13px]">
          <Lock size={14} aria-hidden="true" />
          {budget.name} {lock}
        </p>
      )}
      <Notices session={session} snapshot={snapshot} message={message} />
      <div className="flex min-h-0 flex-1 pb-3">
        <BudgetGrid
          dto={shown.grid}
          held={shown.held}
          noteBits={noteBits}
          exponent={company.exponent}
          spread={spread}
          showAll={showAll}
          withQuarters={withQuarters}
          lock={lock === null ? null : `${budget.name} ${lock}`}
          selected={selected}
          select={select}
          picked={setPicked}
          apply={apply}
          tell={setMessage}
          currencyWords={company.currencyWords}
          shared={isWhole && budget.dimensions.length > 0 ? budget.dimensions.join(' and ') : null}
        />
        {panel === 'checks' ? <ChecksPanel budget={id} locked={locked} go={goToSlice} /> : null}
        {panel === 'what-if' ? <WhatIfPanel session={session} budget={budget} /> : null}
        {panel === 'target' && isWhole ? <TargetPanel session={session} grid={shown.grid} locked={locked} /> : null}
        {panel === 'target' && !isWhole ? (
          <SidePanel title="Target" words="A target applies to the whole budget. Clear the filters above the grid." />
        ) : null}
        {panel === 'history' ? <HistoryPanel budget={id} account={selected} /> : null}
        {row && panel === 'line' ? (
          <LinePanel
            key={`${row.account} ${slice}`}
            session={session}
            view={beside}
            budget={budget}
            row={row}
            filter={filter}
            month={month}
            picked={picked}
            drafts={drafts}
            locked={locked}
          />
        ) : null}
      </div>
      {snapshot.save.kind === 'asked' ? (
        <ConflictDialog problem={snapshot.save.problem} resolve={(keepMine) => void session.settleConflict(keepMine)} />
      ) : null}
    </Page>
  );
}
