import { useContext, useState } from 'react';

import { FieldContext } from './field-context.ts';

/** A text that is applied when it is left or Enter is pressed: a word typed is one step to undo. */
export function TextInput({
  value,
  commit,
  label,
  className = '',
  placeholder,
  maxLength,
  autoFocus = false,
}: {
  readonly value: string;
  readonly commit: (text: string) => void;
  readonly label?: string;
  readonly className?: string;
  readonly placeholder?: string;
  readonly maxLength?: number;
  readonly autoFocus?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const field = useContext(FieldContext);
  const take = (): void => {
    if (typed !== null && typed !== value) commit(typed);
    setTyped(null);
  };
  return (
    <input
      id={field?.id}
      aria-describedby={field?.hint}
      className={`field w-full py-0.5 text-[13px] ${className}`}
      value={typed ?? value}
      placeholder={placeholder}
      maxLength={maxLength}
      autoFocus={autoFocus}
      {...(label ? { 'aria-label': label } : {})}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take();
        if (event.key === 'Escape') setTyped(null);
      }}
    />
  );
}

/** Several lines of text, applied when they are left. */
export function TextArea({ value, commit }: { readonly value: string; readonly commit: (text: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const field = useContext(FieldContext);
  return (
    <textarea
      id={field?.id}
      aria-describedby={field?.hint}
      rows={3}
      className="field w-full py-0.5 text-[13px]"
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        if (typed !== null && typed !== value) commit(typed);
        setTyped(null);
      }}
    />
  );
}
