import { figureText, type GridDto } from '@wise-margin/contract';
import { useCompany } from '../shell/company.ts';

const RIBBON = [
  ['revenue', 'Revenue, net'],
  ['gross_profit', 'Gross profit'],
  ['operating_result', 'Operating result'],
  ['net_income', 'Net income'],
] as const;

/** The year's summary as one types: each line with its change on last year and what of each dollar of revenue it keeps. */
export function Ribbon({ grid, year }: { readonly grid: GridDto; readonly year: number }) {
  const { exponent, periods, lastPosted } = useCompany();
  const cell = (line: string, column: string) =>
    grid.cells[grid.lines.findIndex(({ key }) => key === line)]?.[grid.columns.findIndex(({ key }) => key === column)];
  const isProjected = periods.some((period) => period.year === year - 1 && (lastPosted === null || period.key > lastPosted));
  const format = { exponent, unit: 'dollars' as const, withUnit: true };
  return (
    <dl className="mt-2 flex flex-wrap gap-x-10 gap-y-1" aria-label="Summary of the year">
      {RIBBON.map(([line, name]) => {
        const [budget, percent, difference, share] = ['budget', 'percent', 'difference', 'cents'].map((key) => cell(line, `year.${key}`));
        if (!budget) return null;
        const isUnlike = difference?.kind === 'amount' && difference.value !== 0;
        const sign = isUnlike && difference.value > 0 ? '+' : '';
        const change = !isUnlike ? '' : `${sign}${figureText(percent?.kind === 'ratio' ? percent : difference, format)}`;
        return (
          <div key={line}>
            <dt className="text-[13px] text-ink-soft">{name}</dt>
            <dd className="font-serif text-[20px] leading-6 font-semibold tabular-nums">{figureText(budget, format)}</dd>
            <dd className="text-[13px] text-ink-soft">
              {change ? `${change} on FY${year - 1}${isProjected ? ' projected' : ''}` : ''}
              {share?.kind === 'ratio' && line !== 'revenue'
                ? `${change ? '; ' : ''}${(share.value * 100).toFixed(1)} cents of each dollar`
                : ''}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
