import type { FindingDto, FindingsDto } from '@wise-margin/contract';
import { type Comparison, COMPARISONS } from '@wise-margin/core';
import { comparisonWords, findingStatusWords } from '@wise-margin/presentation';
import { max } from 'd3';
import { type KeyboardEvent, useRef } from 'react';
import { Link } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { type FindingPlace, FIRST_VIEW, placeOf, useFindings } from '../data/use-findings.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { useViews } from '../data/use-views.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Choice } from '../ui/choice.tsx';
import { gridKeyTarget } from '../ui/grid-keys.ts';
import type { ListColumn } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useSearch } from '../ui/use-search.ts';
import { useTabStop } from '../ui/use-tab-stop.ts';
import { FindingPanel } from './finding-panel.tsx';
import { FindingRow, spanName } from './finding-row.tsx';

const ANSWER_STATES = ['all', 'open', 'answered'] as const;
type AnswerState = (typeof ANSWER_STATES)[number];
/** Statements of ratios alone, which have no variances in dollars. */
const NO_AMOUNTS: readonly string[] = ['ratios', 'activity'];
const ANSWER_STATE_NAMES: Readonly<Record<AnswerState, string>> = { all: 'All', open: 'Open', answered: 'Answered' };
const isAnswered = ({ status, notReversed }: FindingDto): boolean => !notReversed && status !== 'open' && status !== 'needsCorrection';

/** The variances past their limits, the largest effect on operating income first; beside them, why. */
export default function VariancesPage() {
  const [asOf] = useAsOf();
  useMonthKeys();
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Ledger page to see findings on it.</Empty>;
  return <Variances asOf={asOf} />;
}

function Variances({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const comparison = COMPARISONS.find((each) => each === search.get('comparison')) ?? 'budget';
  const shown = ANSWER_STATES.find((each) => each === search.get('status')) ?? 'all';
  const view = search.get('view') ?? FIRST_VIEW;
  const views = useViews(company.id);
  const findings = useFindings(company.id, { asOf, comparison, view });
  const address = useDrillDownAddress();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => document.querySelector<HTMLElement>('[data-tab-stop]'));
  const set = (name: string, value: string) =>
    setSearch((before) => {
      before.set(name, value);
      if (name !== 'status') for (const each of ['line', 'month', 'span']) before.delete(each);
    });
  if (findings.isError) return <Failure error={findings.error} retry={() => void findings.refetch()} />;
  if (!findings.data) return <Loading what="the findings" />;
  const { findings: all, count, missing } = findings.data;
  const listed = all.filter((finding) => shown === 'all' || isAnswered(finding) === (shown === 'answered'));
  const chosen = chosenPlace(search, { comparison, view }) ?? (listed[0] ? placeOf(listed[0], comparison, view) : null);
  const choose = (finding: FindingDto) => {
    const { line, month, span } = placeOf(finding, comparison, view);
    setSearch((before) => {
      before.set('line', line);
      before.set('month', month);
      before.set('span', span);
      before.delete('entry');
    });
  };
  const waiting = all.filter((finding) => !isAnswered(finding)).length;
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-5 gap-y-1 text-[13px]">
        <Choice
          label="Compare with"
          value={comparison}
          options={COMPARISONS.map((key) => [key, comparisonWords(key)])}
          choose={(value) => set('comparison', value)}
        />
        <Choice
          label="Statement"
          value={view}
          options={views.data?.filter(({ key }) => !NO_AMOUNTS.includes(key)).map(({ key, name }) => [key, name]) ?? [[view, '…']]}
          choose={(value) => set('view', value)}
        />
        <Choice
          label="Show"
          value={shown}
          options={ANSWER_STATES.map((key) => [key, ANSWER_STATE_NAMES[key]])}
          choose={(value) => set('status', value)}
        />
        <span role="status" className="text-ink-soft">
          {countWords({ count, listed: all.length, waiting })}
        </span>
        <span className="flex-1" />
        <ListExport name={`findings-${asOf}`} columns={fileColumns(findings.data, company.exponent)} rows={listed} />
      </div>
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {listed.length === 0 ? (
        <NoFindings missing={missing} isFiltered={all.length > 0} asOfWords={findings.data.asOfWords} />
      ) : (
        <div className="flex min-h-0 flex-1 gap-3 pb-3 narrow:flex-col narrow:overflow-y-auto">
          <FindingRows findings={listed} comparison={comparison} view={view} chosen={chosen} choose={choose} />
          {address.isOpen ? (
            <DrillDownSteps
              address={address}
              outerCrumbs={
                <button type="button" className="link" onClick={address.close}>
                  Why
                </button>
              }
            />
          ) : chosen ? (
            <FindingPanel
              key={`${view} ${chosen.line} ${chosen.month} ${chosen.span} ${comparison}`}
              place={chosen}
              finding={all.find(({ line, month }) => line === chosen.line && month === chosen.month) ?? null}
              openEntry={address.openEntry}
            />
          ) : null}
        </div>
      )}
    </>
  );
}

function chosenPlace(search: URLSearchParams, { comparison, view }: Pick<FindingPlace, 'comparison' | 'view'>): FindingPlace | null {
  const [line, month] = [search.get('line'), search.get('month')];
  if (line === null || month === null || !/^\d{4}-\d\d$/.test(month)) return null;
  return { view, line, month, comparison, span: search.get('span') === 'yearToDate' ? 'yearToDate' : 'month' };
}

function countWords({ count, listed, waiting }: { readonly count: number; readonly listed: number; readonly waiting: number }): string {
  const findings = `${count.toLocaleString('en-US')} ${count === 1 ? 'finding' : 'findings'}`;
  if (count > listed)
    return `${findings}: the limits are too low to be of use. The ${listed.toLocaleString('en-US')} largest are listed; raise the limits on Materiality.`;
  return `${findings}, ${waiting === 0 ? 'all answered' : `${waiting} open`}.`;
}

function FindingRows({
  findings,
  comparison,
  view,
  chosen,
  choose,
}: {
  readonly findings: readonly FindingDto[];
  readonly comparison: Comparison;
  readonly view: string;
  readonly chosen: FindingPlace | null;
  readonly choose: (finding: FindingDto) => void;
}) {
  const rows = useRef<HTMLUListElement>(null);
  useTabStop(rows);
  const largest = max(findings, ({ spans }) => Math.abs(spans[0]!.unexplained)) ?? 0;
  const move = (event: KeyboardEvent<HTMLUListElement>) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!from) return;
    const grid = {
      rows: findings.length,
      columns: 1,
      page: 6,
      has: ({ row, column }: { row: number; column: number }) => row >= 0 && column === 0,
    };
    const target = gridKeyTarget({ key: event.key, isCtrl: event.ctrlKey }, { row: Number(from.dataset.row), column: 0 }, grid);
    if (!target) return;
    event.preventDefault();
    rows.current?.querySelector<HTMLElement>(`[data-row="${target.row}"]`)?.focus();
  };
  return (
    <ul
      ref={rows}
      aria-label="Findings"
      onKeyDown={move}
      className="min-w-0 flex-1 overflow-y-auto border border-hairline bg-sheet narrow:max-h-[50dvh] narrow:flex-none"
    >
      {findings.map((finding, row) => (
        <FindingRow
          key={`${finding.line} ${finding.month}`}
          finding={finding}
          comparison={comparison}
          view={view}
          row={row}
          largest={largest}
          isChosen={chosen?.line === finding.line && chosen.month === finding.month}
          choose={() => choose(finding)}
        />
      ))}
    </ul>
  );
}

function NoFindings({
  missing,
  isFiltered,
  asOfWords,
}: {
  readonly missing: string | null;
  readonly isFiltered: boolean;
  readonly asOfWords: string;
}) {
  if (missing !== null) return <Empty title="Nothing to compare with">{missing}</Empty>;
  if (isFiltered) return <Empty title="No finding here">No finding has this status. Choose another under Show.</Empty>;
  return (
    <Empty
      title="No findings"
      action={
        <Link className="button" to="../limits" relative="path">
          Review the limits
        </Link>
      }
    >
      No variance of {asOfWords} or its year to date exceeds its threshold.
    </Empty>
  );
}

function fileColumns({ against }: FindingsDto, exponent: number): readonly ListColumn<FindingDto>[] {
  const money = (value: number) => value / 10 ** exponent;
  const column = (name: string, value: (finding: FindingDto) => string | number): ListColumn<FindingDto> => ({
    key: name,
    name,
    value,
    cell: () => null,
  });
  return [
    column('line', ({ name }) => name),
    column('month', ({ month }) => month),
    column('months', ({ spans }) => spanName(spans[0]!.span)),
    column('actual', ({ spans }) => money(spans[0]!.compared)),
    column(against.toLowerCase(), ({ spans }) => money(spans[0]!.base)),
    column('variance', ({ spans }) => money(spans[0]!.variance)),
    column('percent', ({ spans }) => (spans[0]!.percent === null ? '' : Math.round(spans[0]!.percent * 1e4) / 100)),
    column('effect on operating income', ({ spans }) => money(spans[0]!.effect)),
    column('status', ({ status }) => findingStatusWords(status)),
    column('owner', ({ owner }) => owner),
    column('due', ({ due }) => due ?? ''),
  ];
}
