import { STATE_WORDS } from '@wise-margin/presentation';

import type { WorksheetSession, WorksheetSnapshot } from './worksheet-session.ts';

/** What was refused of the last change, what of a block found no place, and what others saved meanwhile. */
export function Notices({
  session,
  snapshot,
  message,
}: {
  readonly session: WorksheetSession;
  readonly snapshot: WorksheetSnapshot;
  readonly message: string | null;
}) {
  const { refusals, others, replaced, view } = snapshot;
  const names = new Map(view?.grid.lines.map((line) => [line.account, line.name]));
  return (
    <>
      {refusals.length > 0 ? (
        <div role="alert" className="mb-2 max-h-28 overflow-y-auto border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
          <p className="flex justify-between font-semibold">
            {refusals.length === 1 ? 'One amount was rejected' : `${refusals.length.toLocaleString('en-US')} amounts were rejected`}
            <button type="button" className="link" onClick={() => session.dismissRefusals()}>
              Close
            </button>
          </p>
          <ul>
            {refusals.map(({ edit, account, text, message }) => (
              <li key={`${edit} ${account}`}>
                {account} {names.get(account) ?? ''}: {text === '' ? '' : `"${text}" `}
                {message}.
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {[message, snapshot.notUndone]
        .flatMap((words) => words ?? [])
        .map((words) => (
          <p key={words} role="alert" className="mb-2 border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
            {words}
          </p>
        ))}
      {replaced.length > 0 ? (
        <div role="alert" className="mb-2 flex justify-between border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
          <ul>
            {replaced.map(({ place, mine, theirs, actor, filter }) => (
              <li key={`${place} ${JSON.stringify(filter)}`}>
                {place}: {actor} replaced your {mine} with {theirs}.
              </li>
            ))}
          </ul>
          <span className="flex gap-3">
            <button type="button" className="link" onClick={() => session.restore(replaced)}>
              {replaced.length === 1 ? `Enter ${replaced[0]!.mine} again` : 'Enter mine again'}
            </button>
            <button type="button" className="link" onClick={() => session.dismissOthers()}>
              Close
            </button>
          </span>
        </div>
      ) : null}
      {others.length > 0 && replaced.length === 0 ? (
        <p role="status" className="mb-2 flex justify-between border-l-2 border-copper bg-sheet px-3 py-1.5 text-[13px]">
          <span>
            Changed by others: {others.slice(-3).join('; ')}
            {others.length > 3 ? ` and ${others.length - 3} before` : ''}
          </span>
          <button type="button" className="link" onClick={() => session.dismissOthers()}>
            Close
          </button>
        </p>
      ) : null}
    </>
  );
}

/** How the budget stands: its state, and whether everything typed is saved. */
export function SaveMark({ snapshot, locked }: { readonly snapshot: WorksheetSnapshot; readonly locked: boolean }) {
  const { save: state } = snapshot;
  const mark = STATE_WORDS[snapshot.state];
  if (locked) return <span role="status">{mark} and locked</span>;
  if (state.kind === 'saved') return <span role="status">{mark}, all changes saved</span>;
  if (state.kind === 'saving') return <span role="status">Saving…</span>;
  if (state.kind === 'asked') return <span role="status">Waiting for your choice</span>;
  return (
    <span role="alert" className="font-semibold text-brick">
      {state.message}
    </span>
  );
}
