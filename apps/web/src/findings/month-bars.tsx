import type { VarianceExplanationDto } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { max, min, scaleLinear } from 'd3';

import { useCompany } from '../data/company.ts';

const HEIGHT = 54;
const STEP = 46;

/** The variance of each month of the year, from a zero line. */
export function MonthBars({
  months,
  favor,
  positive,
}: {
  readonly months: VarianceExplanationDto['months'];
  readonly favor: 'F' | 'U' | null;
  /** the sign of the difference that `favor` was said of */
  readonly positive: boolean;
}) {
  const { exponent, currencyWords } = useCompany();
  const value = ({ variance }: (typeof months)[number]) => variance;
  const y = scaleLinear([Math.min(0, min(months, value) ?? 0), Math.max(0, max(months, value) ?? 0)], [HEIGHT, 0]);
  const money = (amount: number) => figureText({ kind: 'amount', value: amount }, { exponent, unit: 'dollars', withUnit: true });
  const color = (amount: number) =>
    favor === null ? 'fill-ink-soft' : (amount > 0 === positive) === (favor === 'F') ? 'fill-pine' : 'fill-brick';
  return (
    <figure className="mt-1 overflow-x-auto">
      <svg
        width={months.length * STEP}
        height={HEIGHT + 32}
        role="img"
        aria-label={months.map((month) => `${month.name} ${money(month.variance)}`).join(', ')}
      >
        {months.map((month, at) => (
          <g key={month.month} transform={`translate(${at * STEP} 2)`}>
            <rect
              x="14"
              width="18"
              y={Math.min(y(0), y(month.variance))}
              height={Math.max(1, Math.abs(y(month.variance) - y(0)))}
              className={color(month.variance)}
            />
            <text x="23" y={HEIGHT + 13} textAnchor="middle" className="fill-ink text-[11px] tabular-nums">
              {money(month.variance)}
            </text>
            <text x="23" y={HEIGHT + 26} textAnchor="middle" className="fill-ink-soft text-[11px]">
              {month.name.slice(0, 3)}
            </text>
          </g>
        ))}
        <line x1="0" x2={months.length * STEP} y1={y(0) + 2} y2={y(0) + 2} className="stroke-ink-soft" />
      </svg>
      <figcaption className="text-[12px] text-ink-soft">{currencyWords}</figcaption>
    </figure>
  );
}
