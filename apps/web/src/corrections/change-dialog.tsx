import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useId, useState } from 'react';

import { ApiProblem, sendJson } from '../api/client.ts';
import { EffectTable } from './effect-table.tsx';
import { useEffectPreview } from './use-effect-preview.ts';

/**
 * The frame of a change of entries: its fields, its reason, and what it does before it is made.
 * @param request what is sent; null while it cannot be, with `fault` saying why
 */
export function ChangeDialog({
  title,
  path,
  request,
  fault,
  act,
  close,
  done,
  children,
}: {
  readonly title: string;
  readonly path: string;
  readonly request: object | null;
  readonly fault: string | null;
  /** the words of the button that makes the change */
  readonly act: string;
  readonly close: () => void;
  /** after the change was made */
  readonly done?: () => void;
  readonly children: ReactNode;
}) {
  const client = useQueryClient();
  const [reason, setReason] = useState('');
  const id = useId();
  const preview = useEffectPreview(`${path}/preview`, request);
  const post = useMutation({
    mutationFn: () => sendJson<null>('POST', path, { ...request, reason }),
    onSuccess: async () => {
      close();
      done?.();
      await client.invalidateQueries();
    },
  });
  const error = post.error ?? preview.error;
  const problems = error instanceof ApiProblem ? (error.problem.errors ?? []) : [];
  const messages =
    fault !== null ? [fault] : error === null ? [] : problems.length > 0 ? problems.map(({ message }) => message) : [error.message];
  return (
    <Dialog open onClose={close} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/20" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="flex max-h-full w-[min(1160px,96vw)] flex-col border border-hairline bg-sheet p-5 shadow-lg">
          <DialogTitle className="font-serif text-xl font-semibold">{title}</DialogTitle>
          <form
            className="flex min-h-0 flex-1 flex-col"
            onSubmit={(event) => {
              event.preventDefault();
              if (request !== null) post.mutate();
            }}
          >
            <div className="min-h-0 flex-1 overflow-y-auto">
              {children}
              <div className="mt-3">
                {messages.length > 0 ? (
                  <ul role="alert" className="mb-2 text-brick">
                    {messages.map((message) => (
                      <li key={message}>{message}</li>
                    ))}
                  </ul>
                ) : null}
                {request !== null && preview.data && messages.length === 0 ? <EffectTable effect={preview.data} /> : null}
              </div>
            </div>
            <div className="mt-4 flex items-end gap-3">
              <div className="min-w-0 flex-1">
                <label htmlFor={id} className="block text-[13px] text-ink-soft">
                  Reason
                </label>
                <input
                  id={id}
                  className="field w-full"
                  value={reason}
                  maxLength={500}
                  placeholder="What was wrong, or who asked for the change"
                  onChange={(event) => setReason(event.target.value)}
                />
              </div>
              <button type="button" className="button" onClick={close}>
                Cancel
              </button>
              <button
                type="submit"
                className="button button-primary"
                disabled={request === null || messages.length > 0 || reason.trim().length < 3 || post.isPending}
              >
                {post.isPending ? 'Posting…' : act}
              </button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
