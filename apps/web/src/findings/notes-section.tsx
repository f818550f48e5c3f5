import { useId, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { type FindingPlace, placeKey, useFindingChanges, useFindingRecord } from '../data/use-findings.ts';
import { useKeptText } from '../ui/use-kept-text.ts';
import { Section } from './section.tsx';

const KINDS = { status: 'changed', comment: 'commented', question: 'is asked', answer: 'answered' } as const;
const WHEN = new Intl.DateTimeFormat('en-US', { month: 'short', day: 'numeric', hour: 'numeric', minute: '2-digit' });

/** Questions to the owner and their answers, with everything else that was done about a finding. */
export function NotesSection({ place }: { readonly place: FindingPlace }) {
  const company = useCompany();
  const record = useFindingRecord(company.id, place);
  const { note } = useFindingChanges(company.id, place);
  const [kind, setKind] = useState<'question' | 'answer' | null>(null);
  const [text, setText] = useKeptText(`note ${company.id} ${placeKey(place)}`);
  const leave = (): void => {
    setKind(null);
    setText(null);
  };
  const notes = record.data?.notes ?? [];
  const hasQuestion = notes.some((each) => each.kind === 'question');
  return (
    <Section
      title="Questions and history"
      actions={
        <span className="flex gap-3">
          <button type="button" className="link" onClick={() => setKind('question')}>
            Ask the owner
          </button>
          {hasQuestion ? (
            <button type="button" className="link" onClick={() => setKind('answer')}>
              Answer
            </button>
          ) : null}
        </span>
      }
    >
      {kind === null ? null : (
        <NoteForm
          key={kind}
          kind={kind}
          person={kind === 'question' ? (record.data?.owner ?? '') : (notes.findLast((each) => each.kind === 'question')?.person ?? '')}
          isPending={note.isPending}
          error={note.error?.message ?? null}
          text={text ?? ''}
          setText={setText}
          send={(person) =>
            // what could not be sent stays in the form, which says why
            void note.mutateAsync({ kind, person, text: text ?? '' }).then(leave, () => undefined)
          }
          cancel={leave}
        />
      )}
      {notes.length === 0 && kind === null ? <p className="py-1 text-[13px] text-ink-soft">Nothing yet.</p> : null}
      <ol>
        {[...notes].reverse().map(({ at, person, kind: of, text }, index) => (
          <li key={index} className="border-b border-hairline py-1 text-[13px]">
            <span className="text-ink-soft">
              {WHEN.format(new Date(at))}, {person || 'nobody'} {KINDS[of]}:
            </span>{' '}
            {text}
          </li>
        ))}
      </ol>
    </Section>
  );
}

function NoteForm({
  kind,
  person: first,
  text,
  setText,
  isPending,
  error,
  send,
  cancel,
}: {
  readonly kind: 'question' | 'answer';
  readonly person: string;
  readonly text: string;
  readonly setText: (text: string) => void;
  readonly isPending: boolean;
  readonly error: string | null;
  readonly send: (person: string) => void;
  readonly cancel: () => void;
}) {
  const [person, setPerson] = useState(first);
  const id = useId();
  return (
    <form
      className="flex flex-col gap-1.5 border-b border-hairline py-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        send(person);
      }}
    >
      <span className="flex items-center gap-2">
        <label htmlFor={`${id}-person`} className="text-ink-soft">
          {kind === 'question' ? 'Owner' : 'Name'}
        </label>
        <input
          id={`${id}-person`}
          autoFocus={person === ''}
          className="field min-h-[28px]! py-0! text-[13px]"
          value={person}
          onChange={(event) => setPerson(event.target.value)}
        />
      </span>
      <textarea
        aria-label={kind === 'question' ? 'Question' : 'Answer'}
        autoFocus={person !== ''}
        className="field w-full text-[13px]"
        rows={2}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {error === null ? null : (
        <span role="alert" className="text-brick">
          {error}
        </span>
      )}
      <span className="flex gap-2">
        <button type="submit" className="button min-h-[28px]! py-0.5!" disabled={isPending || person.trim() === '' || text.trim() === ''}>
          {kind === 'question' ? 'Ask' : 'Answer'}
        </button>
        <button type="button" className="button min-h-[28px]! py-0.5!" onClick={cancel}>
          Cancel
        </button>
      </span>
    </form>
  );
}
