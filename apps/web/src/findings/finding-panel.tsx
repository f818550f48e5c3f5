import type { FindingDto, VarianceExplanationDto } from '@wise-margin/contract';
import type { Comparison, FindingSpan } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';
import { useState } from 'react';
import { Link } from 'react-router';

import { ReversalDialog } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import { type FindingPlace, FIRST_VIEW, useExplanation } from '../data/use-findings.ts';
import { favorColor } from '../ui/figure.tsx';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { Bridge } from './bridge.tsx';
import { CommentSection } from './comment-section.tsx';
import { DriverSection } from './driver-section.tsx';
import { LiveText } from './live-text.tsx';
import { MonthBars } from './month-bars.tsx';
import { NotesSection } from './notes-section.tsx';
import { type Layout, PartsTable } from './parts-table.tsx';
import { Section } from './section.tsx';

const COLUMNS: Readonly<Record<Comparison, Readonly<Record<FindingSpan, string | null>>>> = {
  budget: { month: 'month.budget_difference', yearToDate: 'ytd.budget_difference' },
  priorYear: { month: 'month.prior_difference', yearToDate: 'ytd.prior_difference' },
  priorMonth: { month: null, yearToDate: null },
  projection: { month: null, yearToDate: null },
};

/** Why a line differs: the sentence, causes, parts, bridge and months, and what people say about it. */
export function FindingPanel({
  place,
  finding,
  openEntry,
}: {
  readonly place: FindingPlace;
  /** null for a line that is no finding, such as one reached from a bridge */
  readonly finding: FindingDto | null;
  readonly openEntry: (entry: number) => void;
}) {
  const company = useCompany();
  const explanation = useExplanation(company.id, place);
  const { data } = explanation;
  return (
    <section
      aria-label="Why"
      tabIndex={0}
      className="flex w-[min(600px,50vw)] shrink-0 flex-col overflow-y-auto border border-hairline bg-sheet px-4 py-3 narrow:w-full narrow:overflow-visible"
    >
      {explanation.isError ? <Failure error={explanation.error} retry={() => void explanation.refetch()} /> : null}
      {!data && !explanation.isError ? <Loading what="what explains it" /> : null}
      {data ? <Explained place={place} explanation={data} finding={finding} openEntry={openEntry} /> : null}
    </section>
  );
}

function Explained({
  place,
  explanation,
  finding,
  openEntry,
}: {
  readonly place: FindingPlace;
  readonly explanation: VarianceExplanationDto;
  readonly finding: FindingDto | null;
  readonly openEntry: (entry: number) => void;
}) {
  const company = useCompany();
  const [voiding, setVoiding] = useState<number | null>(null);
  const { line, words, variance, favor, causes, layouts, months } = explanation;
  const money = (value: number) => figureText({ kind: 'amount', value }, { exponent: company.exponent, unit: 'cents', withUnit: true });
  const column = place.view === FIRST_VIEW ? COLUMNS[place.comparison][place.span] : null;
  /** The statement with the drill-down open on a line's variance, laid out the same way. */
  const drillDown = (of: string, by: string | null): string | null =>
    column === null
      ? of === line.key
        ? null
        : whyAddress(company.id, { ...place, line: of })
      : `/c/${company.id}/statements/income?${new URLSearchParams([['asOf', place.month], ['figure', `${of}~${column}`], ...(by === null ? [] : [['groupBy', by]])]).toString()}`;
  const statement = drillDown(line.key, null);
  const unexplained = finding?.spans.find(({ span }) => span === place.span)?.unexplained ?? variance;
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-3">
        <h2 className="font-serif text-[19px] leading-6 font-semibold">
          {line.name}, {money(variance)}
        </h2>
        {favor ? (
          <span className={`text-[14px] font-semibold ${favorColor(favor)}`}>{favor === 'F' ? '▲ Favorable' : '▼ Unfavorable'}</span>
        ) : null}
      </div>
      <p className="text-[13px] text-ink-soft">
        {words.compared} {money(explanation.compared)}, less {words.base} {money(explanation.base)}.{' '}
        {statement ? (
          <Link className="link" to={statement}>
            Open in the statement
          </Link>
        ) : null}
      </p>
      {unexplained !== variance ? (
        <p className="mt-1 text-[13px]">{money(unexplained)} of it is not explained by findings on its own lines.</p>
      ) : null}
      {voiding === null ? null : <ReversalDialog entry={voiding} close={() => setVoiding(null)} />}
      <CommentSection place={place} explanation={explanation} />
      {causes.length > 0 ? (
        <Section title="Likely causes">
          <ul>
            {causes.slice(0, 6).map(({ kind, sentence, amount, share, entry }) => (
              <li key={sentence.template} className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-b border-hairline py-1 text-[13px]">
                <span>
                  <LiveText text={sentence} />{' '}
                  {entry === null ? null : (
                    <button type="button" className="link" onClick={() => openEntry(entry)}>
                      Open entry
                    </button>
                  )}
                  {entry !== null && kind === 'repeatedBill' ? (
                    <button type="button" className="link ml-2" onClick={() => setVoiding(entry)}>
                      Void entry
                    </button>
                  ) : null}
                </span>
                <span className="text-right tabular-nums">
                  {money(amount)}
                  <span className="block text-[12px] text-ink-soft">Explains {Math.round(share * 100)}%</span>
                </span>
              </li>
            ))}
          </ul>
        </Section>
      ) : null}
      {explanation.nonrecurring.length > 0 ? (
        <Section title="Nonrecurring items">
          <ul>
            {explanation.nonrecurring.map(({ words: item, amount, entry }) => (
              <li key={item} className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-b border-hairline py-1 text-[13px]">
                <span>
                  {item}.{' '}
                  {entry === null ? null : (
                    <button type="button" className="link" onClick={() => openEntry(entry)}>
                      Open entry
                    </button>
                  )}
                </span>
                <span className="tabular-nums">{money(amount)}</span>
              </li>
            ))}
          </ul>
        </Section>
      ) : null}
      <DriverSection
        key={line.key}
        explanation={explanation}
        isAgainstBudget={place.comparison === 'budget' || place.comparison === 'projection'}
      />
      <Layouts explanation={explanation} layouts={layouts} comparison={place.comparison} drillDown={drillDown} openEntry={openEntry} />
      {months.length > 1 ? (
        <Section title="Variance by month">
          <MonthBars months={months} favor={favor} positive={variance > 0} />
        </Section>
      ) : null}
      <NotesSection place={place} />
    </>
  );
}

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}

/** A layout of which some parts are not listed one by one. */
function withTogether(layout: Layout, together: ReadonlySet<string>): Layout {
  const left = layout.parts.filter(({ key }) => together.has(key));
  const amount = left.reduce((sum, part) => sum + part.amount, layout.rest.amount);
  return {
    ...layout,
    parts: layout.parts.filter(({ key }) => !together.has(key)),
    rest: { count: layout.rest.count + left.length, amount },
  };
}

/** Why another line differs: where its statement has no column for the comparison, a step of a bridge leads there. */
const whyAddress = (company: number, { view, line, comparison, month, span }: FindingPlace): string =>
  `/c/${company}/findings/variances?${new URLSearchParams({ view, line, comparison, month, span, asOf: month }).toString()}`;

/** The parts in a layout of choice, as a table or as a bridge. */
function Layouts({
  explanation,
  layouts,
  comparison,
  drillDown,
  openEntry,
}: {
  readonly explanation: VarianceExplanationDto;
  readonly layouts: VarianceExplanationDto['layouts'];
  readonly comparison: Comparison;
  readonly drillDown: (line: string, by: string | null) => string | null;
  readonly openEntry: (entry: number) => void;
}) {
  const [by, setBy] = useState<string | null>(null);
  const [isBridge, setBridge] = useState(false);
  // steps of the bridge that stand together as others
  const [together, setTogether] = useState<ReadonlySet<string>>(new Set());
  const layout = layouts.find((each) => each.by === by) ?? bestLayout(layouts);
  if (!layout) return null;
  const partAddress = (key: string): string | null =>
    layout.by === 'line' ? drillDown(key, null) : layout.by === 'entry' ? null : drillDown(explanation.line.key, layout.by);
  return (
    <section aria-label="Parts" className="mt-3">
      <div className="flex flex-wrap items-center gap-3 border-b border-ink-soft pb-1 text-[13px]">
        <label className="flex items-center gap-1.5">
          <span className="font-semibold">Parts by</span>
          <select className="field min-h-[26px]! py-0! text-[13px]" value={layout.by} onChange={(event) => setBy(event.target.value)}>
            {layouts.map((each) => (
              <option key={each.by} value={each.by}>
                {each.name.toLowerCase()}
              </option>
            ))}
          </select>
        </label>
        <span className="flex-1" />
        {isBridge && layout.parts.length > 1 ? (
          <FloatingPanel label="Steps" count={layout.parts.filter(({ key }) => together.has(key)).length} atRight>
            <p className="mb-1 text-ink-soft">Parts without a mark stand together as others.</p>
            {layout.parts.map(({ key, name }) => (
              <CheckField key={key} label={name} checked={!together.has(key)} set={() => setTogether(toggled(together, key))} />
            ))}
          </FloatingPanel>
        ) : null}
        <button type="button" className="link" aria-pressed={isBridge} onClick={() => setBridge(!isBridge)}>
          {isBridge ? 'Show as a table' : 'Show as a bridge'}
        </button>
      </div>
      {isBridge ? (
        <Bridge
          explanation={explanation}
          layout={withTogether(layout, together)}
          comparison={comparison}
          addressOf={partAddress}
          openEntry={openEntry}
        />
      ) : (
        <PartsTable explanation={explanation} layout={layout} addressOf={partAddress} openEntry={openEntry} />
      )}
    </section>
  );
}

/** The layout that explains most with the fewest parts: of several parts, the one that names fewest of them. */
function bestLayout(layouts: VarianceExplanationDto['layouts']): VarianceExplanationDto['layouts'][number] | undefined {
  const telling = layouts.filter(
    ({ parts, by, shown }) =>
      parts.length > 1 && shown > 0 && by !== 'month' && by !== 'source' && by !== 'entry' && !parts.some(({ key }) => key === 'other'),
  );
  return telling.find(({ by }) => by === 'line') ?? telling.sort((a, b) => a.shown - b.shown)[0] ?? layouts[0];
}
