import { type Ref, useRef, useState } from 'react';

/**
 * A list that acts when something is chosen in it. By mouse it acts at once; by keyboard only on Enter, since letters and
 * arrows pass over other choices on their way.
 */
export function ActionSelect({
  label,
  prompt,
  options,
  act,
  className,
  ref,
}: {
  readonly label: string;
  readonly prompt: string;
  readonly options: readonly (readonly [value: string, words: string])[];
  readonly act: (value: string) => void;
  readonly className: string;
  readonly ref?: Ref<HTMLSelectElement>;
}) {
  const [pending, setPending] = useState('');
  const isByKey = useRef(false);
  return (
    <select
      ref={ref}
      aria-label={label}
      className={className}
      value={pending}
      onPointerDown={() => {
        isByKey.current = false;
      }}
      onKeyDown={(event) => {
        isByKey.current = true;
        if (event.key === 'Escape') setPending('');
        if (event.key !== 'Enter' || pending === '') return;
        event.preventDefault();
        setPending('');
        act(pending);
      }}
      onBlur={() => {
        isByKey.current = false;
        setPending('');
      }}
      onChange={(event) => {
        if (isByKey.current) setPending(event.target.value);
        else if (event.target.value !== '') act(event.target.value);
      }}
    >
      <option value="">{prompt}</option>
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}
