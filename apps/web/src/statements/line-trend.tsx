import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import type { StatementChoices } from '../data/statement-choices.ts';
import { useLineTrends } from '../data/use-statement.ts';
import { Failure } from '../ui/states.tsx';
import { TrendBars, TrendLegend, type TrendSeries, trendUnit, trendValueText } from './trend-bars.tsx';

/** A line by month of the year: actual solid, budget outlined, prior year grey; or all with the first month as 100. */
export function LineTrend({ view, choices, line }: { readonly view: string; readonly choices: StatementChoices; readonly line: string }) {
  const company = useCompany();
  const [isIndex, setIndex] = useState(false);
  const trend = useLineTrends({ company: company.id, view }, choices, [line]);
  if (trend.isError) return <Failure error={trend.error} retry={() => void trend.refetch()} />;
  const data = trend.data?.[0];
  if (!data || ![...data.actual, ...data.budget, ...data.prior].some((value) => value !== null)) return null;
  const asIndex = isIndex && data.index !== null;
  const series: TrendSeries = asIndex ? data.index! : data;
  const unit = asIndex
    ? `index, ${data.months.find(({ period }) => period === data.index!.base)?.name} actual = 100`
    : trendUnit(data.kind, company.currencyWords);
  const text = (value: number): string => (asIndex ? value.toFixed(1) : trendValueText(value, data.kind, company.exponent));
  return (
    <section aria-label="By month" className="mt-4 border-t border-hairline pt-2">
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-serif text-[15px] font-semibold">{data.line.name} by month</h3>
        {data.index ? (
          <label className="flex items-center gap-1 text-[12.5px]">
            <input type="checkbox" className="accent-copper" checked={isIndex} onChange={(event) => setIndex(event.target.checked)} /> As an
            index
          </label>
        ) : null}
      </div>
      <p className="text-[12.5px] text-ink-soft">{unit}</p>
      <TrendBars months={data.months} series={series} text={text} name={data.line.name} />
      <TrendLegend />
    </section>
  );
}
