import type { ReactNode } from 'react';

import { ApiProblem } from '../api/client.ts';
import { isServerAway, useServerBack } from './use-server-back.ts';

/** What went wrong, in the server's words, with a way to try again. */
export function Failure({ error, retry }: { readonly error: unknown; readonly retry?: () => void }) {
  const isAway = isServerAway(error);
  // what has nothing to try again, such as a form, keeps what was typed in it
  useServerBack(isAway && retry !== undefined, () => retry?.());
  const problem = error instanceof ApiProblem ? error.problem : null;
  if (isAway)
    return (
      <div role="alert" className="m-4 max-w-xl self-start border border-brick bg-sheet p-4">
        <p className="font-semibold text-brick">Wise Margin is not running</p>
        <p className="mt-1">
          Start it again with npm start or npm run demo. {retry ? 'This page goes on by itself as soon as it is back' : 'Then try again'};
          nothing that was saved is lost.
        </p>
      </div>
    );
  return (
    <div role="alert" className="m-4 max-w-xl self-start border border-brick bg-sheet p-4">
      <p className="font-semibold text-brick">{problem?.title ?? 'An error occurred'}</p>
      <p className="mt-1">{problem?.detail ?? (error instanceof Error ? error.message : 'The page could not be displayed. Reload it.')}</p>
      {retry ? (
        <button type="button" className="button mt-3" onClick={retry}>
          Try again
        </button>
      ) : null}
    </div>
  );
}

export function Loading({ what }: { readonly what: string }) {
  return (
    <p role="status" className="p-4 text-ink-soft">
      Loading {what}…
    </p>
  );
}

/** A place with nothing in it yet: what belongs here, and the step that brings it. */
export function Empty({ title, children, action }: { readonly title: string; readonly children: ReactNode; readonly action?: ReactNode }) {
  return (
    <div className="m-auto max-w-lg border border-hairline bg-sheet p-6 text-center">
      <h2 className="font-serif text-xl font-semibold">{title}</h2>
      <p className="mt-2 text-ink-soft">{children}</p>
      {action ? <div className="mt-4 flex justify-center gap-2">{action}</div> : null}
    </div>
  );
}
