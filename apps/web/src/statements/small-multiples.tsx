import type { LineTrendDto } from '@wise-margin/contract';
import { max, min } from 'd3';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import type { StatementChoices } from '../data/statement-choices.ts';
import { useLineTrends } from '../data/use-statement.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { TrendBars, TrendLegend, trendUnit, trendValueText } from './trend-bars.tsx';

const valuesOf = ({ actual, budget, prior }: LineTrendDto): number[] => [...actual, ...budget, ...prior].flatMap((value) => value ?? []);

/** Every line in view by month of the year, small, side by side: on a scale of its own, or one for all amounts. */
export function SmallMultiples({
  view,
  choices,
  lines,
  open,
}: {
  readonly view: string;
  readonly choices: StatementChoices;
  readonly lines: readonly string[];
  /** opens the drill-down of a line's figure */
  readonly open: ((line: string) => void) | null;
}) {
  const company = useCompany();
  const [isShared, setShared] = useState(false);
  const trends = useLineTrends({ company: company.id, view }, choices, lines);
  if (trends.isError) return <Failure error={trends.error} retry={() => void trends.refetch()} />;
  if (!trends.data) return <Loading what="the charts" />;
  const shown = trends.data.filter((trend) => valuesOf(trend).some((value) => value !== 0));
  const amounts = shown.filter(({ kind }) => kind === 'amount').flatMap(valuesOf);
  const domain = [Math.min(0, min(amounts) ?? 0), Math.max(0, max(amounts) ?? 0)] as const;
  return (
    <div
      className="printed-whole min-h-0 flex-1 overflow-y-auto border border-hairline bg-sheet p-3"
      tabIndex={0}
      role="region"
      aria-label="Charts"
    >
      <div className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1 text-[13px]">
        <TrendLegend />
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-copper" checked={isShared} onChange={(event) => setShared(event.target.checked)} />
          One scale for all amounts
        </label>
      </div>
      {shown.length === 0 ? (
        <p className="text-ink-soft">No visible line has an amount in this fiscal year. Choose another month or clear a filter.</p>
      ) : null}
      <ul className="grid grid-cols-2 gap-x-6 gap-y-4 lg:grid-cols-3 2xl:grid-cols-4">
        {shown.map((trend) => (
          <li key={trend.line.key}>
            <h2 className="truncate font-serif text-[14px] font-semibold">
              {open ? (
                <button type="button" className="text-left hover:underline" onClick={() => open(trend.line.key)}>
                  {trend.line.name}
                </button>
              ) : (
                trend.line.name
              )}
            </h2>
            <p className="text-[12px] text-ink-soft">{trendUnit(trend.kind, company.currencyWords)}</p>
            <TrendBars
              months={trend.months}
              series={trend}
              text={(value) => trendValueText(value, trend.kind, company.exponent)}
              name={trend.line.name}
              {...(isShared && trend.kind === 'amount' ? { domain } : {})}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
