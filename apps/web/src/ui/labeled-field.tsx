import { type ReactNode, useId } from 'react';

/** A label above its control, tied by an id of its own, so that units and options do not join the control's name. */
function Labeled({ label, control }: { readonly label: string; readonly control: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className="min-w-0 flex-1">
      <label htmlFor={id} className="block truncate text-ink-soft" title={label}>
        {label}
      </label>
      {control(id)}
    </div>
  );
}

export function TextField({
  label,
  short,
  value,
  placeholder,
  set,
}: {
  readonly label: string;
  /** the unit, beside the field */
  readonly short?: string;
  readonly value: string;
  readonly placeholder?: string;
  readonly set: (text: string) => void;
}) {
  return (
    <Labeled
      label={label}
      control={(id) => (
        <span className="flex items-center gap-1">
          <input
            id={id}
            className="field w-full min-w-0 py-0.5 text-[13px]"
            value={value}
            placeholder={placeholder}
            onChange={(event) => set(event.target.value)}
          />
          {short}
        </span>
      )}
    />
  );
}

export function SelectField<Value extends string>({
  label,
  value,
  options,
  set,
}: {
  readonly label: string;
  readonly value: Value;
  readonly options: readonly (readonly [Value, string])[];
  readonly set: (value: Value) => void;
}) {
  return (
    <Labeled
      label={label}
      control={(id) => (
        <select id={id} className="field w-full py-0.5 text-[13px]" value={value} onChange={(event) => set(event.target.value as Value)}>
          {options.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      )}
    />
  );
}

/** A box that is ticked, its words beside it. */
export function CheckField({
  label,
  checked,
  disabled = false,
  set,
}: {
  readonly label: string;
  readonly checked: boolean;
  readonly disabled?: boolean;
  readonly set: (on: boolean) => void;
}) {
  return (
    <label className={`flex items-center gap-1.5 text-[13px] ${disabled ? 'text-ink-soft' : ''}`}>
      <input
        type="checkbox"
        className="shrink-0 accent-copper"
        checked={checked}
        disabled={disabled}
        onChange={(event) => set(event.target.checked)}
      />
      <span className="min-w-0 wrap-anywhere">{label}</span>
    </label>
  );
}
