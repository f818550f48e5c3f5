import { extent, line, scaleLinear } from 'd3';

/** Figures over twelve months as a thin line on a zero line; months without a figure are left out. Its words are its label. */
export function Sparkline({ months, label }: { readonly months: readonly (number | null)[]; readonly label: string }) {
  const points = months.flatMap((value, month) => (value === null ? [] : [[month, value] as const]));
  const [low = 0, high = 0] = extent(points, ([, value]) => value);
  const x = scaleLinear([0, 11], [1, 69]);
  const y = scaleLinear([Math.min(0, low), Math.max(0, high) || 1], [18, 2]);
  const path =
    line<readonly [number, number]>(
      (point) => x(point[0]),
      (point) => y(point[1]),
    )(points as [number, number][]) ?? '';
  return (
    <svg width="70" height="20" role="img" aria-label={label}>
      <line x1="0" x2="70" y1={y(0)} y2={y(0)} className="stroke-hairline" />
      <path d={path} fill="none" className="stroke-ink" strokeWidth="1.2" />
    </svg>
  );
}
