import { useId } from 'react';

import { useCompany } from '../data/company.ts';

/** A month of the ledger, or none. */
export function MonthChoice({
  label,
  value,
  none,
  choose,
}: {
  readonly label: string;
  readonly value: string;
  /** the words for no month in particular */
  readonly none: string;
  readonly choose: (month: string) => void;
}) {
  const { periods } = useCompany();
  const id = useId();
  return (
    <div className="flex items-center gap-1.5">
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
      <select id={id} className="field py-0.5 text-[13px]" value={value} onChange={(event) => choose(event.target.value)}>
        <option value="">{none}</option>
        {periods.map(({ key, name }) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}
