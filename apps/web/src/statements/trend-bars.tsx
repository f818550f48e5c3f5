import { type LineTrendDto } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { max, min, scaleBand, scaleLinear } from 'd3';

import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';

const WIDTH = 400;
const HEIGHT = 150;
const LEFT = 62;
const BOTTOM = 18;
export type TrendSeries = { readonly actual: (number | null)[]; readonly budget: (number | null)[]; readonly prior: (number | null)[] };

/** What the marks of a trend stand for. */
export function TrendLegend() {
  return (
    <p className="flex gap-4 text-[12.5px]">
      {(
        [
          ['actual', 'Actual'],
          ['budget', 'Budget'],
          ['prior', 'Prior year'],
        ] as const
      ).map(([scenario, words]) => (
        <span key={scenario}>
          <ScenarioSwatch scenario={scenario} />
          {words}
        </span>
      ))}
    </p>
  );
}

/** In what unit a trend is drawn, in words. */
export function trendUnit(kind: LineTrendDto['kind'], currencyWords: string): string {
  return kind === 'amount' ? currencyWords : kind === 'quantity' ? 'count' : kind;
}

/** Months side by side: prior year grey behind, actual solid, budget outlined; hover tells a month's figures. */
export function TrendBars({
  months,
  series,
  text,
  name,
  domain,
}: {
  readonly months: LineTrendDto['months'];
  readonly series: TrendSeries;
  readonly text: (value: number) => string;
  readonly name: string;
  /** a scale shared with other charts; the chart's own without one */
  readonly domain?: readonly [number, number];
}) {
  const values = [...series.actual, ...series.budget, ...series.prior].flatMap((value) => value ?? []);
  const y = scaleLinear(domain ?? [Math.min(0, min(values) ?? 0), Math.max(0, max(values) ?? 0)], [HEIGHT - BOTTOM, 8]).nice(4);
  const x = scaleBand(
    months.map(({ period }) => period),
    [LEFT, WIDTH],
  ).padding(0.22);
  const half = x.bandwidth() / 2;
  const bar = (value: number | null, { at, width }: { readonly at: number; readonly width: number }, className: string) =>
    value === null ? null : (
      <rect x={at} width={width} y={Math.min(y(0), y(value))} height={Math.abs(y(value) - y(0))} className={className} />
    );
  const labels = months.map(
    ({ name: month }, index) =>
      `${month}: ${(['actual', 'budget', 'prior'] as const)
        .flatMap((key) => (series[key][index] === null ? [] : [`${key === 'prior' ? 'prior year' : key} ${text(series[key][index]!)}`]))
        .join(', ')}`,
  );
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-1 w-full" role="img" aria-label={`${name} by month. ${labels.join('; ')}`}>
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
            <title>{labels[index]}</title>
            <rect x={at} width={x.bandwidth()} y={0} height={HEIGHT - BOTTOM} className="fill-transparent" />
            {bar(series.prior[index]!, { at, width: half }, 'fill-prior')}
            {bar(series.actual[index]!, { at: at + half * 0.7, width: half * 1.3 }, 'fill-ink')}
            {bar(series.budget[index]!, { at: at + half * 0.45, width: half * 1.55 }, 'fill-none stroke-ink')}
            <text x={at + half} y={HEIGHT - 5} textAnchor="middle" className="fill-ink-soft text-[10.5px]">
              {month.slice(0, 1)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A value of a trend as it is written beside its chart. */
export function trendValueText(value: number, kind: LineTrendDto['kind'], exponent: number): string {
  const options = { exponent, unit: 'dollars', withUnit: true } as const;
  if (kind === 'amount') return figureText({ kind: 'amount', value: Math.round(value) }, options);
  return figureText(kind === 'quantity' ? { kind, value } : { kind: 'ratio', value, unit: kind }, options);
}
