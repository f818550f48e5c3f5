import type { BasisPreviewDto, BudgetDto, BudgetRowDto, FilterDto } from '@wise-margin/contract';
import { filterKey } from '@wise-margin/core';
import { memo, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { type BasisDrafts, BasisForm } from './bases/basis-form.tsx';
import { LineNotes } from './line-notes.tsx';
import { Nonrecurring } from './nonrecurring-items.tsx';
import type { WorksheetSession, WorksheetView } from './worksheet/worksheet-session.ts';
import { YearChart } from './year-chart.tsx';
import { YearsTable } from './years-table.tsx';

/** The selected line: how its year is derived, its history and the new year drawn together, its slices, notes and held months. */
export const LinePanel = memo(function LinePanel({
  session,
  view,
  budget,
  row,
  filter,
  picked,
  month,
  drafts,
  locked,
}: {
  readonly session: WorksheetSession;
  readonly view: WorksheetView;
  readonly budget: BudgetDto;
  readonly row: BudgetRowDto;
  readonly filter: FilterDto;
  /** accounts of the rows selected in the grid, where there are several */
  readonly picked: readonly string[];
  /** the month that is looked at (0 to 11); null when it is none */
  readonly month: number | null;
  /** sentences begun on other lines */
  readonly drafts: BasisDrafts;
  readonly locked: boolean;
}) {
  const company = useCompany();
  const { grid } = view;
  const months = grid.blocks.filter(({ key }) => key.startsWith('months.')).map(({ heading }) => heading.slice(0, 3));
  const { name, months: amounts } = row;
  const held = row.held.flatMap((isHeld, index) => (isHeld ? [index] : []));
  const release = (which: number[]) => session.apply([{ kind: 'release', account: row.account, months: which }]);
  const slice = filterKey(filter);
  const place = `${row.account} ${slice}`;
  const notes = view.notes.filter((note) => note.account === row.account && note.slice === slice);
  const bases = [...new Map(row.lines.map(({ basis, basisForm }) => [JSON.stringify(basisForm), basis])).values()];
  // slices derived in several ways are given one sentence only when that is asked for
  const [isMadeOne, setMadeOne] = useState(drafts.has(place));
  const [preview, setPreview] = useState<BasisPreviewDto | null>(null);
  const basis = row.lines[0]?.basisForm ?? { kind: 'typed' as const };
  const shown = preview?.months ?? amounts;
  return (
    <aside aria-label="Line" className="ml-3 w-[348px] shrink-0 overflow-y-auto border border-hairline bg-sheet p-4" tabIndex={0}>
      <p className="text-[13px] text-ink-soft">Line {row.account}</p>
      <h2 className="font-serif text-[19px] leading-6 font-semibold">{name}</h2>
      {bases.length === 0 ? <p className="mt-2 text-[14px]">Nothing budgeted yet. Enter a month or the year, or choose a basis.</p> : null}
      {locked || (bases.length > 1 && !isMadeOne) ? (
        <>
          {bases.length === 1 ? <p className="mt-2 text-[14px]">{bases[0]}.</p> : null}
          {bases.length > 1 ? <p className="mt-2 text-[14px]">{bases.length} bases, listed below.</p> : null}
          {locked ? null : (
            <button type="button" className="link text-[13px]" onClick={() => setMadeOne(true)}>
              Use one basis for all
            </button>
          )}
        </>
      ) : (
        <BasisForm
          key={JSON.stringify(basis)}
          budgetYear={budget.year}
          account={row.account}
          place={place}
          grid={grid}
          picked={picked}
          filter={filter}
          basis={basis}
          months={months}
          years={row.history.map(({ year: each }) => each)}
          drafts={drafts}
          excluded={row.excluded}
          isForSeveral={bases.length > 1}
          left={() => setMadeOne(false)}
          show={setPreview}
          tryBasis={session.tryBasis}
          set={(made, accounts) => {
            session.apply(accounts.map((account) => ({ kind: 'basis', account, basis: made })));
            setMadeOne(false);
          }}
        />
      )}
      {preview
        ? null
        : [...new Set(row.lines.flatMap(({ warnings }) => warnings))].map((words) => (
            <p key={words} className="mt-1 text-[13px] text-brick">
              {words}
            </p>
          ))}
      <YearChart months={months} amounts={shown} isPreview={preview !== null} history={row.history} year={budget.year} />
      <YearsTable
        months={months}
        history={row.history}
        year={budget.year}
        amounts={shown}
        total={preview?.total ?? row.total}
        isPreview={preview !== null}
      />
      {row.lines.length > 1 || bases.length > 1 ? (
        <table className="ledger-table mt-3 w-full">
          <tbody>
            {row.lines.map((each) => (
              <tr key={each.id}>
                <th scope="row" className="border-b border-hairline whitespace-normal!">
                  {Object.values(each.dimensions).join(', ') || `No ${budget.dimensions[0] ?? 'department'}`}
                  {bases.length > 1 ? <div className="text-[12px] font-normal text-ink-soft">{each.basis}</div> : null}
                </th>
                <td className="figure border-b border-hairline align-top">
                  <Amount value={each.total} exponent={company.exponent} unit="dollars" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {held.length > 0 ? (
        <div className="mt-3 text-[14px]">
          <p className="font-semibold">Manual overrides</p>
          <ul>
            {held.map((index) => (
              <li key={index} className="flex items-center justify-between gap-2">
                <span>
                  {months[index]} <Amount value={amounts[index]!} exponent={company.exponent} />
                </span>
                {locked ? null : (
                  <button type="button" className="link" onClick={() => release([index])}>
                    Remove override {months[index]}
                  </button>
                )}
              </li>
            ))}
          </ul>
          {locked || held.length < 2 ? null : (
            <button type="button" className="link mt-1" onClick={() => release(held)}>
              Remove all {held.length} overrides
            </button>
          )}
        </div>
      ) : null}
      <LineNotes
        key={month}
        months={months}
        month={month}
        notes={notes}
        locked={locked}
        keep={(at, text) => session.apply([{ kind: 'note', account: row.account, month: at, text }])}
      />
      <Nonrecurring account={row.account} budget={budget.id} budgetYear={budget.year} locked={locked} />
    </aside>
  );
});
