import { useId } from 'react';

import { useCompany } from '../data/company.ts';
import { useTyped } from '../ui/use-typed.ts';

/** A range as typed, with those that are asked for most to choose from. */
export function RangeField({
  value,
  asOf,
  commit,
}: {
  readonly value: string;
  readonly asOf: string;
  readonly commit: (range: string) => void;
}) {
  const { periods } = useCompany();
  const at = periods.findIndex(({ key }) => key === asOf);
  const month = periods[at];
  const first = month ? periods[at - (month.number - 1)] : undefined;
  const quarter = month ? Math.ceil(month.number / 3) : 1;
  const nameOf = (text: string): string => periods.find(({ key }) => key === text)?.name ?? text;
  const presets = month
    ? [
        month.name,
        `${first!.name} to ${month.name}`,
        `Q${quarter} FY${month.year}`,
        `FY${month.year}`,
        ...(periods.some(({ year }) => year === month.year - 1) ? [`FY${month.year - 1}`] : []),
      ]
    : [];
  return <TypedField label="Months" value={nameOf(value)} presets={presets} placeholder="Apr 2026 to Jun 2026" commit={commit} />;
}

/** A text that is taken when it is left or entered; what it was chosen from before stands beneath. */
export function TypedField({
  label,
  value,
  presets = [],
  placeholder,
  commit,
}: {
  readonly label: string;
  readonly value: string;
  readonly presets?: readonly string[];
  readonly placeholder: string;
  readonly commit: (text: string) => void;
}) {
  const [text, setText] = useTyped(value);
  const id = useId();
  const take = (typed: string) => (typed.trim() === value ? undefined : commit(typed.trim()));
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        take(text);
      }}
    >
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
      <input
        id={id}
        className="field w-44 py-0.5 text-[13px]"
        list={presets.length > 0 ? `${id}-presets` : undefined}
        placeholder={placeholder}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          // chosen from the list, not typed
          if (presets.includes(event.target.value)) take(event.target.value);
        }}
        onBlur={() => take(text)}
      />
      {presets.length > 0 ? (
        <datalist id={`${id}-presets`}>
          {presets.map((preset) => (
            <option key={preset} value={preset} />
          ))}
        </datalist>
      ) : null}
    </form>
  );
}
