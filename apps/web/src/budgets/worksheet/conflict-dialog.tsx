import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import type { Problem } from '@wise-margin/contract';

/** Asks whose figures stand when another place changed the same cells. */
export function ConflictDialog({ problem, resolve }: { readonly problem: Problem; readonly resolve: (keepMine: boolean) => void }) {
  return (
    <Dialog open onClose={() => undefined} className="relative z-50">
      <div className="fixed inset-0 flex items-center justify-center bg-ink/20 p-4">
        <DialogPanel className="max-h-[80vh] w-full max-w-xl overflow-y-auto border border-hairline bg-sheet p-5 shadow-lg">
          <DialogTitle className="font-serif text-xl font-semibold">Which amount should be kept?</DialogTitle>
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
        </DialogPanel>
      </div>
    </Dialog>
  );
}
