import type { StripDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { max, min, scaleLinear } from 'd3';
import { type KeyboardEvent, useRef } from 'react';

import { gridKeyTarget } from './grid-keys.ts';
import { useTabStop } from './use-tab-stop.ts';

const BAR_HEIGHT = 34;
type Month = StripDto['months'][number];
const STATE_NAMES = { softClosed: 'soft-closed', closed: 'closed' } as const;

const monthLabel = (month: Month, exponent: number): string => {
  const words = (amount: number | null, scenario: string) =>
    amount === null ? '' : `, ${scenario} operating income ${formatAmount(amount as Minor, { exponent, unit: 'dollars' })}`;
  return `${month.name}${words(month.actual, 'actual')}${words(month.budget, 'budget')}${month.state === 'open' ? '' : `, ${STATE_NAMES[month.state]}`}`;
};

/**
 * Months of the as-of year and the two before it, each with its operating income: prior years grey,
 * this year solid, months to come outlined; the year to date is washed and the as-of month marked.
 */
export function PeriodStrip({
  strip,
  asOf,
  exponent,
  choose,
}: {
  readonly strip: StripDto;
  readonly asOf: string;
  readonly exponent: number;
  readonly choose: (period: string) => void;
}) {
  const chosen = strip.months.find((month) => month.period === asOf);
  const shown = (month: Month) => month.actual ?? month.budget ?? 0;
  const scale = scaleLinear([Math.min(0, min(strip.months, shown) ?? 0), Math.max(0, max(strip.months, shown) ?? 0)], [BAR_HEIGHT, 0]);
  const years = [...new Set(strip.months.map((month) => month.year))];
  const strips = useRef<HTMLDivElement>(null);
  useTabStop(strips);
  const positionOf = new Map(strip.months.map(({ period }, position) => [period, position]));
  const move = (event: KeyboardEvent<HTMLDivElement>) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (!from) return;
    const grid = { rows: 1, columns: strip.months.length, page: 1, has: ({ column }: { column: number }) => column >= 0 };
    const target = gridKeyTarget({ key: event.key, isCtrl: event.ctrlKey }, { row: 0, column: Number(from.dataset.column) }, grid);
    if (!target) return;
    event.preventDefault();
    strips.current?.querySelector<HTMLElement>(`[data-column="${target.column}"]`)?.focus();
  };
  return (
    <div
      ref={strips}
      role="group"
      aria-label="As-of month, with the operating income of each month"
      className="mt-2 flex shrink-0 overflow-x-auto short:hidden narrow:hidden"
      onKeyDown={move}
    >
      {years.map((year) => (
        <div key={year} className="border-l border-hairline pr-1 last:border-r">
          <div className="h-4 pl-1 text-[11px] font-semibold">FY{year}</div>
          <div className="flex">
            {strip.months
              .filter((month) => month.year === year)
              .map((month) => {
                const isAsOf = month.period === asOf;
                const inYear = chosen !== undefined && month.year === chosen.year && month.number <= chosen.number;
                const value = shown(month);
                const top = Math.min(scale(value), scale(0));
                const height = month.actual === null && month.budget === null ? 0 : Math.max(1, Math.abs(scale(value) - scale(0)));
                const fill =
                  month.actual === null ? 'fill-sheet stroke-ink' : chosen && month.year === chosen.year ? 'fill-ink' : 'fill-prior';
                return (
                  <button
                    key={month.period}
                    type="button"
                    tabIndex={-1}
                    data-row={0}
                    data-column={positionOf.get(month.period)}
                    aria-pressed={isAsOf}
                    aria-label={monthLabel(month, exponent)}
                    title={monthLabel(month, exponent)}
                    onClick={() => choose(month.period)}
                    className={`flex w-[25px] flex-col items-center pb-0.5 hover:bg-wash ${inYear ? 'bg-wash' : ''}`}
                  >
                    <svg width="25" height={BAR_HEIGHT + 2} aria-hidden="true">
                      <line x1="0" x2="25" y1={scale(0) + 1} y2={scale(0) + 1} className="stroke-hairline" />
                      <rect
                        x="8"
                        width="9"
                        y={top + 1}
                        height={height}
                        className={fill}
                        strokeWidth={month.actual === null && month.budget !== null ? 1 : 0}
                      />
                    </svg>
                    <span
                      className={`border-b-[3px] px-1 text-[12px] leading-4 ${isAsOf ? 'border-copper font-bold text-copper' : 'border-transparent text-ink-soft'}`}
                    >
                      {month.letter}
                    </span>
                    <ClosedMark state={month.state} />
                  </button>
                );
              })}
          </div>
        </div>
      ))}
      <p className="ml-3 self-end pb-1 text-[12px] leading-4 text-ink-soft">
        Bars: operating income
        <br />
        <kbd>,</kbd> <kbd>.</kbd> change the month
      </p>
    </div>
  );
}

/** A closed month has a line under its letter, a soft-closed one a broken line. */
function ClosedMark({ state }: { readonly state: Month['state'] }) {
  const look = { open: 'border-transparent', softClosed: 'border-dashed border-ink-soft', closed: 'border-solid border-ink-soft' }[state];
  return <span aria-hidden="true" className={`mt-px w-[15px] border-b-2 ${look}`} />;
}
