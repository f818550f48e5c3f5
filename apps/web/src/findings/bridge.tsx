import type { VarianceExplanationDto } from '@wise-margin/contract';
import { type Comparison } from '@wise-margin/core';
import { type BridgeStep, bridgeSteps, figureText } from '@wise-margin/presentation';
import { max, min, scaleLinear } from 'd3';
import { useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { type Layout } from './parts-table.tsx';

const [WIDTH, ROW, NAME, FIGURE] = [560, 24, 190, 76];
/** A bridge from the base to the figure compared with it, in the notation of scenarios; each step leads to what makes it. */
export function Bridge({
  explanation: { compared, base, headings, favor, variance, line },
  layout,
  comparison,
  addressOf,
  openEntry,
}: {
  readonly explanation: VarianceExplanationDto;
  readonly layout: Layout;
  readonly comparison: Comparison;
  readonly addressOf: (key: string) => string | null;
  readonly openEntry: (entry: number) => void;
}) {
  const { exponent, currencyWords } = useCompany();
  const navigate = useNavigate();
  const steps = bridgeSteps(layout, base);
  const ends = [base, compared, ...steps.flatMap(({ from, amount }) => [from, from + amount])];
  // a bridge of small steps between large totals starts near them, and says so
  const [low, high] = [min(ends)!, max(ends)!];
  const isCut = low > 0 && high - low < low / 2;
  const domain = isCut ? [low - (high - low) * 0.6, high] : [Math.min(0, low), Math.max(0, high)];
  const x = scaleLinear(domain, [NAME, WIDTH - FIGURE]);
  const zero = x(isCut ? domain[0]! : 0);
  const money = (value: number) => figureText({ kind: 'amount', value }, { exponent, unit: 'dollars', withUnit: true });
  /** whether a step helps the result: it does what the whole does, or the opposite */
  const isGood = (amount: number): boolean | null => (favor === null ? null : amount > 0 === variance > 0 ? favor === 'F' : favor === 'U');
  const height = (steps.length + 2) * ROW + 4;
  const open = (step: BridgeStep) => {
    const address = step.key === '' ? null : addressOf(step.key);
    if (step.entry !== null) return () => openEntry(step.entry!);
    return address === null ? null : () => void navigate(address);
  };
  const total = (value: number, row: number, scenario: 'compared' | 'base') => {
    const isBudget = scenario === 'base' ? comparison === 'budget' || comparison === 'projection' : false;
    const fill = isBudget ? 'fill-sheet stroke-ink' : scenario === 'base' ? 'fill-prior' : 'fill-ink';
    return (
      <g transform={`translate(0 ${row * ROW})`}>
        <text x="0" y="16" className="fill-ink text-[13px] font-semibold">
          {headings[scenario]}
        </text>
        <rect x={Math.min(zero, x(value))} width={Math.max(1, Math.abs(x(value) - zero))} y="4" height={ROW - 8} className={fill} />
        <text x={WIDTH} y="16" textAnchor="end" className="fill-ink text-[13px] font-semibold tabular-nums">
          {money(value)}
        </text>
      </g>
    );
  };
  return (
    <figure className="mt-1 overflow-x-auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        width="100%"
        role="group"
        aria-label={`Bridge of ${line.name} from ${headings.base} ${money(base)} to ${headings.compared} ${money(compared)}`}
      >
        <line x1={zero} x2={zero} y1="0" y2={height - 4} className="stroke-hairline" />
        {total(base, 0, 'base')}
        {steps.map((step, at) => {
          const good = isGood(step.amount);
          const act = open(step);
          const [left, right] = [x(Math.min(step.from, step.from + step.amount)), x(Math.max(step.from, step.from + step.amount))];
          const color = good === null ? 'fill-ink-soft' : good ? 'fill-pine' : 'fill-brick';
          return (
            <g
              key={step.key || 'others'}
              transform={`translate(0 ${(at + 1) * ROW})`}
              {...(act
                ? {
                    role: 'link',
                    tabIndex: 0,
                    className: 'cursor-pointer hover:underline',
                    'aria-label': `${step.name}, ${money(step.amount)}`,
                    onClick: act,
                    onKeyDown: (event: React.KeyboardEvent) => {
                      if (event.key === 'Enter') act();
                    },
                  }
                : {})}
            >
              <rect x="0" y="1" width={WIDTH} height={ROW - 2} className="fill-transparent" />
              <text x="10" y="16" className="fill-ink text-[13px]">
                {step.name.length > 28 ? `${step.name.slice(0, 27)}…` : step.name}
                <title>{step.name}</title>
              </text>
              <line x1={x(step.from)} x2={x(step.from)} y1={-4} y2="4" className="stroke-ink-soft" />
              <rect x={left} width={Math.max(1, right - left)} y="4" height={ROW - 8} className={color} />
              <text x={WIDTH} y="16" textAnchor="end" className={`text-[13px] tabular-nums ${color}`}>
                {step.amount > 0 ? '+' : ''}
                {money(step.amount)} {good === null ? '' : good ? 'F' : 'U'}
              </text>
            </g>
          );
        })}
        {total(compared, steps.length + 1, 'compared')}
      </svg>
      <figcaption className="text-[12px] text-ink-soft">
        {currencyWords}.{isCut ? ` Bars start at ${money(Math.round(domain[0]! / 10 ** exponent) * 10 ** exponent)}, not at zero.` : ''}
      </figcaption>
    </figure>
  );
}
