import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { EntryChangeDto } from '@wise-margin/contract';
import { useId, useState } from 'react';

import { getJson, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { momentWords } from '../ui/date-words.ts';

const KIND_WORDS: Readonly<Record<EntryChangeDto['kind'], string>> = {
  correct: 'Corrected',
  reclassify: 'Reclassified',
  undo: 'Undone',
  create: 'Made',
  post: 'Posted',
  discard: 'Discarded',
};

/** Every change of an entry, the newest first, with what it replaced; each can be undone as one. */
export function EntryHistory({ entry }: { readonly entry: number }) {
  const { id: company } = useCompany();
  const history = useQuery({
    queryKey: ['entry-history', company, entry],
    queryFn: ({ signal }) => getJson<EntryChangeDto[]>(`/companies/${company}/entries/${entry}/history`, signal),
  });
  if (history.isError)
    return (
      <p role="alert" className="mt-3 text-brick">
        {history.error.message}
      </p>
    );
  if (!history.data || history.data.length === 0) return null;
  return (
    <section className="mt-4" aria-label="History">
      <h3 className="font-serif text-[16px] font-semibold">History</h3>
      <ol>
        {history.data.map((change) => (
          <Change key={change.id} change={change} />
        ))}
      </ol>
    </section>
  );
}

function Change({ change }: { readonly change: EntryChangeDto }) {
  const { id, at, actor, kind, reason, entries, undoneBy, differences } = change;
  const [isAsking, setAsking] = useState(false);
  return (
    <li className="border-b border-hairline py-1.5 text-[13px]">
      <p>
        {KIND_WORDS[kind]} {momentWords(at)} by {actor}
        {entries > 1 ? `, with ${(entries - 1).toLocaleString('en-US')} other ${entries === 2 ? 'entry' : 'entries'}` : ''}
        {undoneBy === null ? '' : ' (undone)'}
      </p>
      {reason === '' ? null : <p className="text-ink-soft">Reason: {reason}</p>}
      <ul className="text-ink-soft">
        {differences.map(({ line, field, from, to }) => (
          <li key={`${line} ${field}`}>
            {line === 0 ? '' : `Line ${line}, `}
            {field}: {from || 'none'} → {to || 'none'}
          </li>
        ))}
      </ul>
      {undoneBy !== null || kind === 'undo' ? null : isAsking ? (
        <Undo change={id} close={() => setAsking(false)} />
      ) : (
        <button type="button" className="link" onClick={() => setAsking(true)}>
          Undo this change
        </button>
      )}
    </li>
  );
}

function Undo({ change, close }: { readonly change: number; readonly close: () => void }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  const [reason, setReason] = useState('');
  const id = useId();
  const undo = useMutation({
    mutationFn: () => sendJson<null>('POST', `/companies/${company}/entry-changes/${change}/undo`, { reason }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <form
      className="mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        undo.mutate();
      }}
    >
      {undo.isError ? (
        <p role="alert" className="text-brick">
          {undo.error.message}
        </p>
      ) : null}
      <label htmlFor={id} className="text-ink-soft">
        Reason for undoing it
      </label>
      <input
        id={id}
        // asked for just now
        autoFocus
        className="field w-full py-0.5 text-[13px]"
        value={reason}
        maxLength={500}
        onChange={(event) => setReason(event.target.value)}
      />
      <div className="mt-1 flex gap-2">
        <button type="submit" className="button" disabled={reason.trim().length < 3 || undo.isPending}>
          Undo change
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
