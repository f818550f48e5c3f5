import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { EntryDto } from '@wise-margin/contract';
import { useState } from 'react';

import { sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';

/** What is done with a draft: posted, edited, or discarded after one question. */
export function DraftActions({ entry, edit }: { readonly entry: EntryDto; readonly edit: () => void }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const [isAsking, setAsking] = useState(false);
  const act = useMutation({
    mutationFn: (what: 'post' | 'discard') =>
      sendJson<null>('POST', `/companies/${company}/entries/${entry.id}/${what}`, { version: entry.version }),
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <div className="mt-3">
      {act.isError ? (
        <p role="alert" className="mb-2 text-brick">
          {act.error.message}
        </p>
      ) : null}
      {isAsking ? (
        <p className="flex items-center gap-2">
          Discard this draft?
          <button type="button" className="button" autoFocus disabled={act.isPending} onClick={() => act.mutate('discard')}>
            Discard draft
          </button>
          <button type="button" className="button" onClick={() => setAsking(false)}>
            Keep it
          </button>
        </p>
      ) : (
        <p className="flex gap-2">
          <button type="button" className="button button-primary" disabled={act.isPending} onClick={() => act.mutate('post')}>
            Post draft
          </button>
          <button type="button" className="button" onClick={edit}>
            Edit
          </button>
          <button type="button" className="button" onClick={() => setAsking(true)}>
            Discard
          </button>
        </p>
      )}
    </div>
  );
}
