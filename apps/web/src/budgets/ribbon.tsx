import { figureText } from '@wise-margin/presentation';

import { useCompany } from '../data/company.ts';
import type { SummaryLine } from './worksheet/worksheet-messages.ts';

/** The year's summary as one types: each line with its change on last year and its percent of revenue. */
export function Ribbon({ summary, year }: { readonly summary: readonly SummaryLine[]; readonly year: number }) {
  const { exponent, periods, lastActual } = useCompany();
  const isProjected = periods.some((period) => period.year === year - 1 && (lastActual === null || period.key > lastActual));
  const format = { exponent, unit: 'dollars' as const, withUnit: true };
  return (
    <dl className="mt-2 flex flex-wrap gap-x-10 gap-y-1" aria-label="Annual summary">
      {summary.map(({ key, name, budget, difference, percent, share }) => {
        const isUnlike = difference.kind === 'amount' && difference.value !== 0;
        const sign = isUnlike && difference.value > 0 ? '+' : '';
        const change = !isUnlike ? '' : `${sign}${figureText(percent.kind === 'ratio' ? percent : difference, format)}`;
        return (
          <div key={key}>
            <dt className="text-[13px] text-ink-soft">{name}</dt>
            <dd className="font-serif text-[20px] leading-6 font-semibold tabular-nums">{figureText(budget, format)}</dd>
            <dd className="text-[13px] text-ink-soft">
              {change ? `${change} vs. FY${year - 1}${isProjected ? ' projected' : ''}` : ''}
              {share.kind === 'ratio' && key !== 'revenue' ? `${change ? '; ' : ''}${(share.value * 100).toFixed(1)}% of revenue` : ''}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
