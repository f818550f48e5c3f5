import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { AuditEventDto } from '@wise-margin/contract';
import { type ReactNode, useState } from 'react';

import { sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { momentWords } from '../ui/date-words.ts';

const MOST_FIELDS = 6;

/** Changes on record, the newest first, each with its fields. */
export function AuditEvents({
  events,
  openEntry,
  more,
}: {
  readonly events: readonly AuditEventDto[];
  readonly openEntry: (entry: number) => void;
  readonly more: { readonly isLoading: boolean; readonly load: () => void } | null;
}) {
  return (
    <div className="min-h-0 flex-1 overflow-auto border border-hairline bg-sheet" tabIndex={0} role="region" aria-label="Changes">
      <table className="ledger-table w-full">
        <thead className="sticky top-0 z-10 bg-sheet">
          <tr>
            {['Reviewed', 'When', 'Person', 'Change', 'Field', 'From', 'To', 'Reason'].map((name) => (
              <th key={name} scope="col" className="border-b border-ink px-3 py-1.5">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        {events.map((event) => (
          <Event key={event.id} event={event} openEntry={openEntry} />
        ))}
      </table>
      {more ? (
        <button type="button" className="button m-3" disabled={more.isLoading} onClick={more.load}>
          Show earlier changes
        </button>
      ) : null}
    </div>
  );
}

/** A change with a row for each of its first fields. */
function Event({ event, openEntry }: { readonly event: AuditEventDto; readonly openEntry: (entry: number) => void }) {
  const { at, actor, words, changes, reason, entryId } = event;
  const fields = changes.slice(0, MOST_FIELDS);
  const [first = { what: '', from: '', to: '' }, ...further] = fields;
  const more = changes.length - fields.length;
  return (
    <tbody className="[&>tr:first-child>td]:border-t [&>tr:first-child>td]:border-hairline">
      <tr className="align-top">
        <td className="px-3! py-1!">
          <Tick event={event} />
        </td>
        <Text>{momentWords(at)}</Text>
        <Text>{actor}</Text>
        <td className="max-w-80 px-3! py-1! whitespace-normal!">
          {entryId === null ? (
            words
          ) : (
            <button type="button" className="link text-left" onClick={() => openEntry(entryId)}>
              {words}
            </button>
          )}
        </td>
        <Fields field={first} />
        <td className="max-w-64 px-3! py-1! whitespace-normal!">{reason}</td>
      </tr>
      {further.map((field, index) => (
        <tr key={index}>
          <td colSpan={4} />
          <Fields field={field} />
          <td />
        </tr>
      ))}
      {more > 0 ? (
        <tr>
          <td colSpan={4} />
          <td colSpan={4} className="px-3! text-ink-soft">
            and {more.toLocaleString('en-US')} more, all in the export
          </td>
        </tr>
      ) : null}
    </tbody>
  );
}

/** Ticked by whoever looked at the change; ticked off again by unticking. */
function Tick({ event: { id, words, reviewed } }: { readonly event: AuditEventDto }) {
  const { id: company } = useCompany();
  const client = useQueryClient();
  // shown at once, until the answer is there
  const [chosen, setChosen] = useState<boolean | null>(null);
  const tick = useMutation({
    mutationFn: (on: boolean) => sendJson<null>('PUT', `/companies/${company}/audit/${id}/review`, { reviewed: on }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['audit', company] }),
    onSettled: () => setChosen(null),
  });
  const title = tick.isError
    ? tick.error.message
    : reviewed
      ? `Reviewed by ${reviewed.actor}, ${momentWords(reviewed.at)}`
      : 'Not reviewed';
  return (
    <input
      type="checkbox"
      className="accent-copper"
      aria-label={`Reviewed: ${words}`}
      title={title}
      checked={chosen ?? reviewed !== null}
      onChange={(change) => {
        setChosen(change.target.checked);
        tick.mutate(change.target.checked);
      }}
    />
  );
}

const Text = ({ children }: { readonly children: ReactNode }) => <td className="px-3! py-1!">{children}</td>;

function Fields({ field: { what, from, to } }: { readonly field: AuditEventDto['changes'][number] }) {
  return [what, from, to].map((text, column) => (
    <td key={column} className={`max-w-56 truncate px-3! py-1! ${column === 1 ? 'text-ink-soft' : ''}`} title={text}>
      {text}
    </td>
  ));
}
