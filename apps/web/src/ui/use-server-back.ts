import { useEffect, useRef } from 'react';

import { ApiProblem } from '../api/client.ts';

const BETWEEN_MS = 2000;

/** Whether something failed because the server is away: a request, or the code of a page that was not loaded yet. */
export const isServerAway = (error: unknown): boolean =>
  error instanceof ApiProblem
    ? error.isConnection
    : error instanceof Error &&
      /dynamically imported module|Importing a module script failed|error loading dynamically/i.test(error.message);

/** Looks every two seconds whether the server answers again, and then goes on. */
export function useServerBack(isAway: boolean, goOn: () => void): void {
  const latest = useRef(goOn);
  useEffect(() => {
    latest.current = goOn;
  });
  useEffect(() => {
    if (!isAway) return undefined;
    const timer = setInterval(() => {
      fetch('/api/companies').then(
        (answer) => {
          if (!answer.ok) return;
          clearInterval(timer);
          latest.current();
        },
        // still away: the next look asks again
        () => undefined,
      );
    }, BETWEEN_MS);
    return () => clearInterval(timer);
  }, [isAway]);
}
