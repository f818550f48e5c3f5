import { type ReactNode, useContext, useId } from 'react';

import { CheckField } from '../../ui/labeled-field.tsx';
import { FieldContext } from './field-context.ts';

/** A labeled field of an editor form; its control takes its id and its hint from here. */
export function Field({
  label,
  hint,
  children,
}: {
  readonly label: string;
  readonly hint?: string | undefined;
  readonly children: ReactNode;
}) {
  const id = useId();
  return (
    <div className="mt-2 text-[13px]">
      <label htmlFor={id} className="mb-0.5 block text-ink-soft">
        {label}
      </label>
      <FieldContext value={{ id, hint: hint ? `${id}-hint` : undefined }}>{children}</FieldContext>
      {hint ? (
        <p id={`${id}-hint`} className="mt-0.5 text-[12px] text-ink-soft">
          {hint}
        </p>
      ) : null}
    </div>
  );
}

/** A choice among a few values in words. */
export function Select<Value extends string>({
  value,
  options,
  choose,
}: {
  readonly value: Value;
  readonly options: readonly (readonly [Value, string])[];
  readonly choose: (value: Value) => void;
}) {
  const field = useContext(FieldContext);
  return (
    <select
      id={field?.id}
      aria-describedby={field?.hint}
      className="field w-full py-0.5 text-[13px]"
      value={value}
      onChange={(event) => choose(event.target.value as Value)}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}

export function Check({
  label,
  checked,
  choose,
}: {
  readonly label: string;
  readonly checked: boolean;
  readonly choose: (on: boolean) => void;
}) {
  return (
    <div className="mt-2">
      <CheckField label={label} checked={checked} set={choose} />
    </div>
  );
}
