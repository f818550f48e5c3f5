import type { Use } from '@wise-margin/core';
import { useEffect, useRef } from 'react';

const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
const MOST_NAMED = 6;

/** Asks before something is removed that others use: remove them too, or hide it so that their amounts stay. */
export function RemovalPrompt({
  name,
  uses,
  removed,
  removeAll,
  hide,
  cancel,
}: {
  readonly name: string;
  readonly uses: readonly Use[];
  /** how many lines and columns go with it, itself and those in it counted */
  readonly removed: number;
  readonly removeAll: () => void;
  readonly hide: () => void;
  readonly cancel: () => void;
}) {
  const names = uses.map((use) => (use.of === 'column' && uses.some(({ of }) => of === 'line') ? `column ${use.name}` : use.name));
  const more = names.length - MOST_NAMED;
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => first.current?.focus(), []);
  return (
    <div
      role="alertdialog"
      aria-label={`Remove ${name}`}
      onKeyDown={(event) => event.key === 'Escape' && cancel()}
      className="my-1 border-l-2 border-brick bg-sheet p-2 text-[13px]"
    >
      <p>
        {name} is used by {more > 0 ? `${names.slice(0, MOST_NAMED).join(', ')} and ${more} more` : listed(names)}.
        {removed > uses.length + 1 ? ` Others use these: ${removed} would be removed in all.` : ''}
      </p>
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <button type="button" ref={first} className="button py-0.5" onClick={hide}>
          Hide it and keep their amounts
        </button>
        <button type="button" className="button py-0.5" onClick={removeAll}>
          Remove all {removed}
        </button>
        <button type="button" className="link" onClick={cancel}>
          Cancel
        </button>
      </div>
    </div>
  );
}
