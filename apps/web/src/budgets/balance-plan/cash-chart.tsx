import { formatAmount, type Minor } from '@wise-margin/core';
import { max, min, scaleLinear } from 'd3';

import { useCompany } from '../../data/company.ts';

const WIDTH = 1200;
const HEIGHT = 108;
const TOP = 20;
const BOTTOM = 20;
/** whole units of the currency beneath which bars are labeled in full */
const SMALL = 100_000;

/** Cash at the start and at each month end as outlined bars, since a plan is not yet fact; the low point is outlined, negative cash is red. */
export function CashChart({
  months,
  cash,
  lowest,
}: {
  readonly months: readonly string[];
  readonly cash: readonly number[];
  readonly lowest: number;
}) {
  const { exponent, currencyWords } = useCompany();
  const y = scaleLinear([Math.min(0, min(cash) ?? 0), Math.max(0, max(cash) ?? 0) || 1], [HEIGHT - BOTTOM, TOP]);
  const x = scaleLinear([0, months.length], [0, WIDTH]);
  // thousands of a small company would hide what the bars are of
  const isLarge = cash.some((amount) => Math.abs(amount) >= SMALL * 10 ** exponent);
  const unit = isLarge ? `thousands of ${currencyWords}` : currencyWords;
  const text = (value: number) => formatAmount(value as Minor, { exponent, unit: isLarge ? 'thousands' : 'dollars' });
  return (
    <figure className="mt-1">
      <figcaption className="text-[12px] text-ink-soft">Planned cash at month end, {unit}. The low point is outlined.</figcaption>
      <div className="relative" style={{ height: HEIGHT }}>
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="absolute inset-0 h-full w-full"
          preserveAspectRatio="none"
          role="img"
          aria-label={`Planned cash at month end, ${unit}: ${months.map((month, index) => `${month} ${text(cash[index]!)}`).join(', ')}`}
        >
          {cash.map((amount, month) => (
            <rect
              key={month}
              x={x(month) + 24}
              width={x(1) - 48}
              y={Math.min(y(amount), y(0))}
              height={Math.max(1, Math.abs(y(amount) - y(0)))}
              vectorEffect="non-scaling-stroke"
              className={`fill-sheet ${month === lowest ? 'stroke-copper' : amount < 0 ? 'stroke-brick' : 'stroke-ink'}`}
              strokeWidth={month === lowest ? 2.5 : 1}
            />
          ))}
          <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} className="stroke-ink" vectorEffect="non-scaling-stroke" />
        </svg>
        {/* words stand beside the drawing, which is stretched to the page's width */}
        <div aria-hidden="true" className="absolute inset-0 text-[12px] tabular-nums">
          {cash.map((amount, month) => (
            <span
              key={month}
              className={`absolute -translate-x-1/2 ${month === lowest ? 'font-semibold' : ''} ${amount < 0 ? 'text-brick' : month === lowest ? 'text-copper' : ''}`}
              style={{ left: `${((month + 0.5) / months.length) * 100}%`, top: Math.min(y(amount), y(0)) - 17 }}
            >
              {text(amount)}
            </span>
          ))}
          {months.map((month, index) => (
            <span
              key={month}
              className="absolute bottom-0 -translate-x-1/2 text-ink-soft"
              style={{ left: `${((index + 0.5) / months.length) * 100}%` }}
            >
              {month}
            </span>
          ))}
        </div>
      </div>
    </figure>
  );
}
