import { useQueryClient } from '@tanstack/react-query';
import type { CompanyDto } from '@wise-margin/contract';
import { useEffect, useRef } from 'react';

import { followVersions } from './follow-versions.ts';

/** Answers that do not follow the books: they are asked for by hand. */
const APART: readonly unknown[] = ['audit-verification', 'effect'];

/** Asks for every open figure again when the books of the company change, in this window or anywhere else. */
export function useLiveBooks(company: CompanyDto | undefined): void {
  const client = useQueryClient();
  const known = useRef<number | null>(null);
  const id = company?.id;
  const version = company?.version ?? null;
  useEffect(() => {
    known.current = version;
  }, [id, version]);
  useEffect(() => {
    if (id === undefined) return;
    return followVersions(id, (now) => {
      if (known.current === now) return;
      known.current = now;
      void client.invalidateQueries({ predicate: ({ queryKey }) => !APART.includes(queryKey[0]) });
    });
  }, [client, id]);
}
