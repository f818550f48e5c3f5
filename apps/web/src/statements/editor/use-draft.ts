import type { DisplayChoices, RunChoices } from '@wise-margin/contract';
import type { ColumnSet, LineSet } from '@wise-margin/core';
import { useCallback, useState } from 'react';

/** What an editor changes: the lines and columns of a view, how it is shown and what it is limited to. */
export type Draft = {
  readonly lineSet: LineSet;
  readonly columnSet: ColumnSet;
  /** keys of the views that lines and columns are taken from; null for own ones */
  readonly linesOf: string | null;
  readonly columnsOf: string | null;
  readonly display: DisplayChoices;
  readonly choices: RunChoices;
};
type History = { readonly past: readonly Draft[]; readonly present: Draft; readonly future: readonly Draft[] };

/** What a new view starts from, in its address, when it is not a copy of another one. */
export const BLANK = 'blank';
const MOST_STEPS = 200;

/** A draft with undo and redo. A change that changes nothing is no step. */
export function useDraft(opened: Draft) {
  const [history, setHistory] = useState<History>({ past: [], present: opened, future: [] });
  const change = useCallback(
    (next: (draft: Draft) => Draft) =>
      setHistory(({ past, present, future }) => {
        const changed = next(present);
        return JSON.stringify(changed) === JSON.stringify(present)
          ? { past, present, future }
          : { past: [...past, present].slice(-MOST_STEPS), present: changed, future: [] };
      }),
    [],
  );
  const undo = useCallback(
    () =>
      setHistory(({ past, present, future }) =>
        past.length === 0 ? { past, present, future } : { past: past.slice(0, -1), present: past.at(-1)!, future: [present, ...future] },
      ),
    [],
  );
  const redo = useCallback(
    () =>
      setHistory(({ past, present, future }) =>
        future.length === 0 ? { past, present, future } : { past: [...past, present], present: future[0]!, future: future.slice(1) },
      ),
    [],
  );
  return { draft: history.present, change, undo, redo, canUndo: history.past.length > 0, canRedo: history.future.length > 0 };
}
