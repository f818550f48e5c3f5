import type { ReactNode } from 'react';

/** A labeled field of an editor form. */
export function Field({
  label,
  hint,
  children,
}: {
  readonly label: string;
  readonly hint?: string | undefined;
  readonly children: ReactNode;
}) {
  return (
    <label className="mt-2 block text-[13px]">
      <span className="mb-0.5 block text-ink-soft">{label}</span>
      {children}
      {hint ? <span className="mt-0.5 block text-[12px] text-ink-soft">{hint}</span> : null}
    </label>
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
  return (
    <select className="field w-full py-0.5 text-[13px]" value={value} onChange={(event) => choose(event.target.value as Value)}>
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
    <label className="mt-2 flex items-center gap-1.5 text-[13px]">
      <input type="checkbox" className="accent-copper" checked={checked} onChange={(event) => choose(event.target.checked)} />
      {label}
    </label>
  );
}
