import type { BudgetRowDto } from '@wise-margin/contract';
import { line as linePath, max, min, scaleLinear } from 'd3';

import { useCompany } from '../data/company.ts';

const WIDTH = 306;
const HEIGHT = 130;
const SHADES = ['#c9c2b3', '#b4ac9b', '#8b8371'];

/** The new year as outlined bars over the lines of up to three years before it, lighter the older. */
export function YearChart({
  months,
  amounts,
  history,
  year,
  isPreview,
}: {
  readonly months: readonly string[];
  readonly amounts: readonly number[];
  readonly history: BudgetRowDto['history'];
  readonly year: number;
  /** the bars are what a basis would give, not what is budgeted */
  readonly isPreview: boolean;
}) {
  const company = useCompany();
  const all = [...amounts, ...history.flatMap((each) => each.months.flatMap((amount) => amount ?? []))];
  const y = scaleLinear([Math.min(0, min(all) ?? 0), Math.max(0, max(all) ?? 0) || 1], [HEIGHT - 16, 8]);
  const x = scaleLinear([0, 12], [0, WIDTH]);
  const shades = SHADES.slice(SHADES.length - history.length);
  const words = history.map((each) => `FY${each.year}`);
  return (
    <figure className="mt-3">
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`FY${year} budget by month as bars over ${words.join(', ') || 'no history'} as lines, ${company.currencyWords}`}
      >
        {amounts.map((amount, month) => (
          <rect
            key={month}
            x={x(month) + 5}
            width={x(1) - 10}
            y={Math.min(y(amount), y(0))}
            height={Math.abs(y(amount) - y(0))}
            className="fill-sheet stroke-ink"
          />
        ))}
        {history.map((each, index) => (
          <path
            key={each.year}
            fill="none"
            stroke={shades[index]}
            strokeWidth="2"
            d={
              linePath<number | null>(
                (_, month) => x(month + 0.5),
                (amount) => y(amount ?? 0),
              ).defined((amount) => amount !== null)([...each.months]) ?? ''
            }
          />
        ))}
        <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} className="stroke-ink" />
        {months.map((month, index) => (
          <text key={month} x={x(index + 0.5)} y={HEIGHT - 2} textAnchor="middle" className="fill-ink-soft text-[11px]">
            {month[0]}
          </text>
        ))}
      </svg>
      <figcaption className="text-[12px] text-ink-soft">
        Outlined: FY{year} {isPreview ? 'with this basis' : 'budget'}. Lines: {words.join(', ') || 'no history'}
        {words.length > 1 ? ', lighter is older' : ''}. {company.currencyWords}.
      </figcaption>
    </figure>
  );
}
