import type { LineTrendDto } from '@wise-margin/contract';
import { extent, scaleLinear } from 'd3';

const [WIDTH, HEIGHT, MONTHS] = [156, 34, 12];
const STEP = WIDTH / MONTHS;

/** Twelve months as bars in the notation of scenarios: actual solid within the outlined budget, the prior year grey beside them. */
export function MeasureChart({
  trend: { months, actual, budget, prior },
  asOf,
  label,
}: {
  readonly trend: LineTrendDto;
  readonly asOf: string;
  readonly label: string;
}) {
  const values = [...actual, ...budget, ...prior].flatMap((value) => value ?? []);
  const [low = 0, high = 0] = extent(values);
  const y = scaleLinear([Math.min(0, low), Math.max(0, high) || 1], [HEIGHT - 4, 2]);
  const bar = (
    value: number | null | undefined,
    { x, width, className }: { readonly x: number; readonly width: number; readonly className: string },
  ) =>
    value === null || value === undefined || value === 0 ? null : (
      <rect x={x} width={width} y={Math.min(y(0), y(value))} height={Math.max(1, Math.abs(y(value) - y(0)))} className={className} />
    );
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" height={HEIGHT} preserveAspectRatio="none" role="img" aria-label={label}>
      <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} className="stroke-hairline" />
      {months.map(({ period }, at) => (
        <g key={period}>
          {bar(prior[at], { x: at * STEP, width: 3, className: 'fill-prior' })}
          {bar(budget[at], { x: at * STEP + 3, width: 8, className: 'fill-sheet stroke-ink' })}
          {bar(actual[at], { x: at * STEP + 4.5, width: 5, className: 'fill-ink' })}
          {period === asOf ? <rect x={at * STEP} width={STEP - 1} y={HEIGHT - 2} height="2" className="fill-copper" /> : null}
        </g>
      ))}
    </svg>
  );
}
