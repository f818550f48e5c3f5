import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { EntryEffectDto } from '@wise-margin/contract';
import { type ReactNode, useId, useState } from 'react';

import { ApiProblem, sendJson } from '../api/client.ts';
import { DateField } from '../ui/date-field.tsx';
import { dateWords } from '../ui/date-words.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
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
  after,
  previewPath,
  firstReason = '',
  reasonHint = 'What was wrong, or who asked for the change',
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
  readonly done?: (answer: unknown) => void;
  /** what else is sent once the change is made; `what` is the thing that is kept by it, such as `The template` */
  readonly after?: { readonly what: string; readonly act: string; readonly send: () => Promise<unknown> } | null;
  /** where its preview is asked for, when not beneath its path */
  readonly previewPath?: string;
  readonly firstReason?: string;
  readonly reasonHint?: string;
  readonly children: ReactNode;
}) {
  const client = useQueryClient();
  const [reason, setReason] = useState(firstReason);
  const id = useId();
  // the day of a correcting entry, where months of the change are closed
  const [postIn, setPostIn] = useState<string | null>(null);
  const asked = request === null || postIn === null ? request : { ...request, postIn };
  const preview = useEffectPreview(previewPath ?? `${path}/preview`, asked);
  const closed = postIn === null ? (preview.data?.closed ?? null) : null;
  // what was posted is not posted again when only what comes after it fails
  const [made, setMade] = useState<{ readonly answer: unknown } | null>(null);
  const post = useMutation({
    mutationFn: async () => {
      const answer = made ? made.answer : await sendJson<unknown>('POST', path, { ...asked, reason });
      setMade({ answer });
      await after?.send();
      return answer;
    },
    onSuccess: (answer) => {
      close();
      done?.(answer);
    },
    onSettled: () => client.invalidateQueries(),
  });
  const now = JSON.stringify([request, fault, reason]);
  const [first] = useState(now);
  const [isLeaving, setLeaving] = useState(false);
  const error = post.error ?? preview.error;
  const problems = error instanceof ApiProblem ? (error.problem.errors ?? []) : [];
  const messages = ((): readonly string[] => {
    if (made !== null) return after && post.error ? [`The entry was posted. ${after.what} was not saved: ${post.error.message}`] : [];
    if (fault !== null) return [fault];
    if (error === null) return [];
    return problems.length > 0 ? problems.map(({ message }) => message) : [error.message];
  })();
  return (
    <DialogFrame
      title={title}
      width="full"
      isTall
      // Escape and a click beside it are easily made by mistake; Cancel is not
      close={() => (now === first || made !== null ? close() : setLeaving(true))}
    >
      <form
        className="flex min-h-0 flex-1 flex-col"
        onSubmit={(event) => {
          event.preventDefault();
          if ((request !== null || made !== null) && !post.isPending) post.mutate();
        }}
      >
        <div className="-mx-1 min-h-0 flex-1 overflow-y-auto px-1">
          {children}
          <div className="mt-3">
            {messages.length > 0 ? (
              <ul role="alert" className="mb-2 text-brick">
                {messages.map((message) => (
                  <li key={message}>{message}</li>
                ))}
              </ul>
            ) : null}
            {closed ? <ClosedNotice closed={closed} accept={setPostIn} /> : null}
            {postIn === null ? null : (
              <label className="mb-2 flex items-center gap-2 text-[13px]">
                <span className="text-ink-soft">Correcting entry dated</span>
                <DateField value={postIn} set={setPostIn} />
              </label>
            )}
            {request === null && messages.length === 0 ? (
              <p className="text-[13px] text-ink-soft">The effect on accounts and statements is shown here before posting.</p>
            ) : null}
            {request !== null && preview.data && messages.length === 0 ? <EffectTable effect={preview.data} /> : null}
          </div>
        </div>
        {isLeaving ? (
          <div
            role="alertdialog"
            aria-label="Unsaved changes"
            className="mt-3 flex flex-wrap items-center gap-3 border-l-2 border-brick px-3 py-1"
          >
            <span>What you entered here is not posted.</span>
            <button type="button" className="button" autoFocus onClick={() => setLeaving(false)}>
              Keep editing
            </button>
            <button type="button" className="link" onClick={close}>
              Discard changes
            </button>
          </div>
        ) : null}
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
              placeholder={reasonHint}
              onChange={(event) => setReason(event.target.value)}
            />
          </div>
          <button type="button" className="button" onClick={close}>
            {made === null ? 'Cancel' : 'Close'}
          </button>
          <button
            type="submit"
            className="button button-primary"
            disabled={
              post.isPending || (made === null && (request === null || closed !== null || messages.length > 0 || reason.trim().length < 3))
            }
          >
            {post.isPending ? 'Posting…' : made === null ? act : (after?.act ?? 'Done')}
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}

/** What a person can do where months of a change are closed. */
function ClosedNotice({
  closed,
  accept,
}: {
  readonly closed: NonNullable<EntryEffectDto['closed']>;
  readonly accept: (day: string) => void;
}) {
  const { periods, postIn } = closed;
  const words = `${periods.join(', ')} ${periods.length === 1 ? 'is' : 'are'} closed.`;
  return (
    <p role="status" className="mb-2 flex flex-wrap items-center gap-3 border border-copper p-2">
      {words}
      {postIn === null ? (
        ' No later month is open: reopen one on the Periods tab.'
      ) : (
        <button type="button" className="button" onClick={() => accept(postIn)}>
          Post a correcting entry on {dateWords(postIn)} instead
        </button>
      )}
    </p>
  );
}
