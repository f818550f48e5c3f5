import { QueryClient } from '@tanstack/react-query';

import { ApiProblem } from './client.ts';

/** The cache of answers. A request is repeated twice when the server cannot be reached, and never when it answered with an error. */
export const newQueryClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: { staleTime: 5_000, retry: (count, error) => count < 2 && (!(error instanceof ApiProblem) || error.isConnection) },
    },
  });
