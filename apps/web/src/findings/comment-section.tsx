import { FINDING_STATUSES, type FindingRecordDto, type FindingStatus, type VarianceExplanationDto } from '@wise-margin/contract';
import { findingStatusWords } from '@wise-margin/presentation';
import { useId, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { type FindingPlace, placeKey, useFindingChanges, useFindingRecord } from '../data/use-findings.ts';
import { DateField } from '../ui/date-field.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure } from '../ui/states.tsx';
import { useKeptText } from '../ui/use-kept-text.ts';
import { LiveText } from './live-text.tsx';
import { Section } from './section.tsx';

/** The comment: drafted from the ledger, edited, accepted; beside it status, owner and due date. */
export function CommentSection({ place, explanation }: { readonly place: FindingPlace; readonly explanation: VarianceExplanationDto }) {
  const company = useCompany();
  const record = useFindingRecord(company.id, place);
  if (record.isError) return <Failure error={record.error} retry={() => void record.refetch()} />;
  if (!record.data) return <p className="mt-3 min-h-24 text-[14px] text-ink-soft">…</p>;
  return <Comment place={place} explanation={explanation} record={record.data} />;
}

function Comment({
  place,
  explanation: { proposal, causes },
  record,
}: {
  readonly place: FindingPlace;
  readonly explanation: VarianceExplanationDto;
  readonly record: FindingRecordDto;
}) {
  const company = useCompany();
  const { change } = useFindingChanges(company.id, place);
  const [draft, setDraft] = useKeptText(`comment ${company.id} ${placeKey(place)}`);
  const { comment, hasMoved } = record;
  const text = comment ?? proposal;
  const isTiming = causes[0]?.kind === 'timing';
  const isRejected = comment === null && record.rejected !== '' && record.rejected === proposal.template;
  const accept = (template: string) =>
    change
      .mutateAsync({
        comment: template,
        status: record.status === 'open' ? 'explained' : record.status,
        ...(comment === null && isTiming ? { isTiming: true } : {}),
      })
      .then(
        () => setDraft(null),
        // what was written stays, and the section says why
        () => undefined,
      );
  return (
    <Section
      title={comment === null ? 'Proposed comment' : 'Comment'}
      actions={
        hasMoved ? (
          <span role="status" className="text-[12px] font-semibold text-brick">
            Figures have changed since it was accepted
          </span>
        ) : null
      }
    >
      {isRejected && draft === null ? (
        <p className="py-1.5 text-[14px] text-ink-soft">The drafted comment was rejected.</p>
      ) : draft === null ? (
        <p className="py-1.5 font-serif text-[15px] leading-[1.45]">
          <LiveText text={text} />
        </p>
      ) : (
        <CommentEditor draft={draft} set={setDraft} />
      )}
      <div className="flex flex-wrap items-center gap-2">
        {draft !== null ? (
          <>
            <button
              type="button"
              className="button button-primary min-h-[28px]! py-0.5!"
              disabled={change.isPending || draft.trim() === ''}
              onClick={() => void accept(draft)}
            >
              Accept comment
            </button>
            <button type="button" className="button min-h-[28px]! py-0.5!" onClick={() => setDraft(null)}>
              Cancel
            </button>
          </>
        ) : (
          <>
            {!isRejected && (comment === null || hasMoved) ? (
              <button
                type="button"
                className="button button-primary min-h-[28px]! py-0.5!"
                disabled={change.isPending}
                onClick={() => void accept(text.template)}
              >
                {hasMoved ? 'Accept with new figures' : 'Accept comment'}
              </button>
            ) : null}
            <button type="button" className="button min-h-[28px]! py-0.5!" onClick={() => setDraft(isRejected ? '' : text.template)}>
              {isRejected ? 'Write a comment' : 'Edit'}
            </button>
            {comment !== null ? null : (
              <button
                type="button"
                className="button min-h-[28px]! py-0.5!"
                disabled={change.isPending}
                onClick={() => change.mutate({ rejected: isRejected ? '' : proposal.template })}
              >
                {isRejected ? 'Show it again' : 'Reject'}
              </button>
            )}
            {comment === null ? null : (
              <button
                type="button"
                className="button min-h-[28px]! py-0.5!"
                disabled={change.isPending}
                onClick={() => change.mutate({ comment: '', status: 'open', isTiming: false })}
              >
                Remove comment
              </button>
            )}
          </>
        )}
      </div>
      {change.isError ? (
        <p role="alert" className="mt-1 text-[13px] text-brick">
          {change.error.message}
        </p>
      ) : null}
      <StatusFields record={record} change={change.mutate} key={record.owner} />
    </Section>
  );
}

function CommentEditor({ draft, set }: { readonly draft: string; readonly set: (text: string) => void }) {
  const id = useId();
  return (
    <div className="py-1.5">
      <label htmlFor={id} className="text-[12px] text-ink-soft">
        Figures in braces follow the ledger: {'{variance}, {percent}, {actual}, {base}, {account:5210}, {party:Name}, {month:2026-09}'}
      </label>
      <textarea
        id={id}
        autoFocus
        aria-label="Comment"
        className="field mt-0.5 w-full font-serif text-[15px]"
        rows={5}
        value={draft}
        onChange={(event) => set(event.target.value)}
      />
    </div>
  );
}

/** Status, owner, due date, and whether it is timing. */
function StatusFields({
  record,
  change,
}: {
  readonly record: FindingRecordDto;
  readonly change: (body: { status?: FindingStatus; owner?: string; due?: string | null; isTiming?: boolean }) => void;
}) {
  const [owner, setOwner] = useState(record.owner);
  const id = useId();
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
      <label className="flex items-center gap-1.5">
        <span className="text-ink-soft">Status</span>
        <select
          className="field min-h-[28px]! py-0! text-[13px]"
          value={record.status}
          onChange={(event) => change({ status: event.target.value as FindingStatus })}
        >
          {FINDING_STATUSES.map((status) => (
            <option key={status} value={status}>
              {findingStatusWords(status)}
            </option>
          ))}
        </select>
      </label>
      <span className="flex items-center gap-1.5">
        <label htmlFor={`${id}-owner`} className="text-ink-soft">
          Owner
        </label>
        <input
          id={`${id}-owner`}
          className="field min-h-[28px]! w-32 py-0! text-[13px]"
          value={owner}
          onChange={(event) => setOwner(event.target.value)}
          onBlur={() => (owner.trim() === record.owner ? undefined : change({ owner }))}
          onKeyDown={(event) => (event.key === 'Enter' ? event.currentTarget.blur() : undefined)}
        />
      </span>
      <span className="flex items-center gap-1.5">
        <label htmlFor={`${id}-due`} className="text-ink-soft">
          Due
        </label>
        <DateField
          id={`${id}-due`}
          className="field min-h-[28px]! py-0! text-[13px]"
          value={record.due ?? ''}
          set={(due) => change({ due: due || null })}
        />
      </span>
      <CheckField label="Timing; expected to reverse" checked={record.isTiming} set={(isTiming) => change({ isTiming })} />
    </div>
  );
}
