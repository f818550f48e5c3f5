import type { Problem } from '@wise-margin/contract';

import { DialogFrame } from '../../ui/dialog-frame.tsx';

/** Asks whose figures stand when another place changed the same cells. */
export function ConflictDialog({ problem, resolve }: { readonly problem: Problem; readonly resolve: (keepMine: boolean) => void }) {
  return (
    <DialogFrame title="Which amount should be kept?" width="small" close={() => undefined}>
      <p className="mt-2">{problem.detail}</p>
      <ul className="mt-2 text-[14px]">
        {(problem.errors ?? []).slice(0, 20).map(({ path, message }) => (
          <li key={path}>{message}</li>
        ))}
      </ul>
      {(problem.errors?.length ?? 0) > 20 ? <p className="text-ink-soft">and {problem.errors!.length - 20} more.</p> : null}
      <div className="mt-4 flex gap-2">
        <button type="button" className="button" onClick={() => resolve(false)}>
          Keep theirs
        </button>
        <button type="button" className="button" onClick={() => resolve(true)}>
          Keep mine
        </button>
      </div>
    </DialogFrame>
  );
}
