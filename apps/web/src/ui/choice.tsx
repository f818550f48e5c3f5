import { useId } from 'react';

/** A labeled choice of one among few. */
export function Choice({
  label,
  value,
  options,
  choose,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [string, string])[];
  readonly choose: (value: string) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-1.5">
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
      <select id={id} className="field max-w-44 py-0.5 text-[13px]" value={value} onChange={(event) => choose(event.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
