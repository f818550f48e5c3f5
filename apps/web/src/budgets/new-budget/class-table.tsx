import type { NewBudgetPreviewDto } from '@wise-margin/contract';
import { ACCOUNT_CLASSES, FIRST_BASES } from '@wise-margin/core';
import type { FieldErrors, UseFormRegister } from 'react-hook-form';

import { useCompany } from '../../data/company.ts';
import { Amount, CellFigure, favorColor, favorOf } from '../../ui/figure.tsx';
import { CLASSES, type NewBudgetFields } from './new-budget-fields.ts';

type Totals = NewBudgetPreviewDto['netIncome'];

/** How each class starts, and what its budget comes to beside the base year. */
export function ClassTable({
  register,
  errors,
  preview,
  isCurrent,
}: {
  readonly register: UseFormRegister<NewBudgetFields>;
  readonly errors: FieldErrors<NewBudgetFields>;
  readonly preview: NewBudgetPreviewDto | undefined;
  /** whether the preview is of the fields as they are now */
  readonly isCurrent: boolean;
}) {
  const totalsOf = new Map(preview?.classes.map((each) => [each.class, each]));
  const isExcluding = preview !== undefined && (preview.netIncome.excluded !== 0 || preview.classes.some(({ excluded }) => excluded !== 0));
  const stale = isCurrent ? '' : 'opacity-50';
  return (
    <table className="ledger-table mt-1 w-full" aria-busy={!isCurrent}>
      <thead>
        <tr>
          <th scope="col" className="w-56 pl-1.5">
            Account class
          </th>
          <th scope="col" className="w-72 pl-1.5">
            Starting method
          </th>
          <th scope="col" className="w-28 pl-1.5">
            Change
          </th>
          <th scope="col" className="pr-[11px] text-right!" title={preview?.baseWords}>
            {preview ? `FY${preview.from} base` : 'Base year'}
          </th>
          {isExcluding ? (
            <th scope="col" className="pr-[11px] text-right!">
              Excluded
            </th>
          ) : null}
          <th scope="col" className="pr-[11px] text-right!">
            {preview ? `FY${preview.year} budget` : 'Budget'}
          </th>
          <th scope="col" className="pr-[25px] text-right!">
            Variance
          </th>
          <th scope="col" className="pr-[11px] text-right!">
            %
          </th>
        </tr>
      </thead>
      <tbody>
        {CLASSES.map((key) => {
          const name = ACCOUNT_CLASSES[key].name;
          return (
            <tr key={key}>
              <th scope="row" className="font-normal!">
                {name}
              </th>
              <td>
                <select
                  className="field min-h-7 w-56 py-0 text-[13px]"
                  aria-label={`Starting method of ${name.toLowerCase()}`}
                  {...register(`basis.${key}`)}
                >
                  {Object.entries(FIRST_BASES).map(([basis, words]) => (
                    <option key={basis} value={basis}>
                      {words}
                    </option>
                  ))}
                </select>
              </td>
              <td className="whitespace-nowrap">
                <input
                  className="field min-h-7 w-14 py-0 text-right"
                  aria-label={`Percent change of ${name.toLowerCase()}`}
                  aria-invalid={errors.byClass?.[key] !== undefined}
                  {...register(`byClass.${key}`)}
                />{' '}
                %
              </td>
              <Figures totals={totalsOf.get(key)} isExcluding={isExcluding} className={stale} />
            </tr>
          );
        })}
        {/* here before its amounts, so that nothing moves when they arrive */}
        <tr className="font-semibold">
          <th scope="row" colSpan={3}>
            Net income
          </th>
          <Figures totals={preview?.netIncome} isExcluding={isExcluding} className={`${stale} border-t border-ink`} />
        </tr>
      </tbody>
    </table>
  );
}

function Figures({
  totals,
  isExcluding,
  className,
}: {
  readonly totals: Totals | undefined;
  readonly isExcluding: boolean;
  readonly className: string;
}) {
  const { exponent } = useCompany();
  if (!totals) return <td colSpan={isExcluding ? 5 : 4} />;
  const format = { exponent, unit: 'dollars' } as const;
  const { base, excluded, budget, change, percent } = totals;
  const favor = favorOf(change);
  return (
    <>
      <td className={`figure ${className}`}>
        <Amount value={base} {...format} />
      </td>
      {isExcluding ? <td className={`figure ${className}`}>{excluded === 0 ? null : <Amount value={excluded} {...format} />}</td> : null}
      <td className={`figure ${className}`}>
        <Amount value={budget} {...format} />
      </td>
      <td className={`figure relative pr-5! ${className} ${favorColor(favor)}`}>
        <CellFigure cell={change} format={format} />
        <span className="absolute top-0 right-1 text-[10px] leading-[25px] font-normal">{favor}</span>
      </td>
      <td className={`figure ${className} ${favorColor(favor)}`}>
        <CellFigure cell={percent} format={format} />
      </td>
    </>
  );
}
