/**
 * Fields that stand in a sentence: underlined, as wide as what is in them, named for those who do not see the
 * words around them.
 */
export function SentenceText({
  label,
  value,
  empty = '…',
  set,
}: {
  readonly label: string;
  readonly value: string;
  /** what stands there while nothing is typed */
  readonly empty?: string;
  readonly set: (text: string) => void;
}) {
  return (
    <input
      aria-label={label}
      title={label}
      className="sentence-field"
      size={Math.max(2, (value || empty).length)}
      value={value}
      placeholder={empty}
      onChange={(event) => set(event.target.value)}
      onFocus={(event) => event.target.select()}
    />
  );
}

export function SentenceChoice<Value extends string>({
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
    <select
      aria-label={label}
      title={label}
      className="sentence-field"
      value={value}
      onChange={(event) => set(event.target.value as Value)}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
