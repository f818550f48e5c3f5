import type { LineTrendDto } from '@wise-margin/contract';
import { max, min, scaleBand, scaleLinear } from 'd3';
import { useState } from 'react';
import { useCompany } from '../shell/company.ts';
import { cellText } from '../ui/figure.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';
import { Failure } from '../ui/states.tsx';
import { useLineTrend, type StatementChoices } from './use-statement.ts';

const WIDTH = 400;
const HEIGHT = 150;
const LEFT = 62;
const BOTTOM = 18;
type Series = { readonly actual: (number | null)[]; readonly budget: (number | null)[]; readonly prior: (number | null)[] };

/** A line by month of the year: actual solid, budget outlined, prior year grey; or all with the first month as 100. */
export function LineTrend({ view, choices, line }: { readonly view: string; readonly choices: StatementChoices; readonly line: string }) {
  const company = useCompany();
  const [isIndex, setIndex] = useState(false);
  const trend = useLineTrend(company.id, view, choices, line);
  if (trend.isError) return <Failure error={trend.error} retry={() => void trend.refetch()} />;
  const { data } = trend;
  if (!data || ![...data.actual, ...data.budget, ...data.prior].some((value) => value !== null)) return null;
  const asIndex = isIndex && data.index !== null;
  const series: Series = asIndex ? data.index! : data;
  const unit = asIndex
    ? `index, ${data.months.find(({ period }) => period === data.index!.base)?.name} actual = 100`
    : data.kind === 'amount'
      ? company.currencyWords
      : data.kind === 'quantity'
        ? 'count'
        : data.kind;
  const text = (value: number): string => (asIndex ? value.toFixed(1) : valueText(value, data.kind, company.exponent));
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
      <Bars months={data.months} series={series} text={text} name={data.line.name} />
      <p className="flex gap-4 text-[12.5px]">
        <span>
          <ScenarioSwatch scenario="actual" />
          Actual
        </span>
        <span>
          <ScenarioSwatch scenario="budget" />
          Budget
        </span>
        <span>
          <ScenarioSwatch scenario="prior" />
          Prior year
        </span>
      </p>
    </section>
  );
}

function Bars({
  months,
  series,
  text,
  name,
}: {
  readonly months: LineTrendDto['months'];
  readonly series: Series;
  readonly text: (value: number) => string;
  readonly name: string;
}) {
  const values = [...series.actual, ...series.budget, ...series.prior].flatMap((value) => value ?? []);
  const y = scaleLinear([Math.min(0, min(values) ?? 0), Math.max(0, max(values) ?? 0)], [HEIGHT - BOTTOM, 8]).nice(4);
  const x = scaleBand(
    months.map(({ period }) => period),
    [LEFT, WIDTH],
  ).padding(0.22);
  const half = x.bandwidth() / 2;
  const bar = (value: number | null, at: number, width: number, className: string) =>
    value === null ? null : (
      <rect x={at} width={width} y={Math.min(y(0), y(value))} height={Math.abs(y(value) - y(0))} className={className} />
    );
  const told = months.map(
    ({ name: month }, index) =>
      `${month}: ${(['actual', 'budget', 'prior'] as const)
        .flatMap((key) => (series[key][index] === null ? [] : [`${key === 'prior' ? 'prior year' : key} ${text(series[key][index]!)}`]))
        .join(', ')}`,
  );
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-1 w-full" role="img" aria-label={`${name} by month. ${told.join('; ')}`}>
      {y.ticks(4).map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={WIDTH} y1={y(tick)} y2={y(tick)} className={tick === 0 ? 'stroke-ink-soft' : 'stroke-hairline'} />
          <text x={LEFT - 6} y={y(tick) + 3.5} textAnchor="end" className="fill-ink-soft text-[10.5px]">
            {text(tick)}
          </text>
        </g>
      ))}
      {months.map(({ period, name: month }, index) => {
        const at = x(period)!;
        return (
          <g key={period}>
            <title>{told[index]}</title>
            <rect x={at} width={x.bandwidth()} y={0} height={HEIGHT - BOTTOM} className="fill-transparent" />
            {bar(series.prior[index]!, at, half, 'fill-prior')}
            {bar(series.actual[index]!, at + half * 0.7, half * 1.3, 'fill-ink')}
            {bar(series.budget[index]!, at + half * 0.45, half * 1.55, 'fill-none stroke-ink')}
            <text x={at + half} y={HEIGHT - 5} textAnchor="middle" className="fill-ink-soft text-[10.5px]">
              {month.slice(0, 1)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

function valueText(value: number, kind: LineTrendDto['kind'], exponent: number): string {
  const options = { exponent, unit: 'dollars', withSign: true } as const;
  if (kind === 'amount') return cellText({ kind: 'amount', value: Math.round(value) }, options);
  return cellText(kind === 'quantity' ? { kind, value } : { kind: 'ratio', value, unit: kind }, options);
}
