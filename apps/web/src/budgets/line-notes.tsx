import type { BudgetNote } from '@wise-margin/core';
import { useId, useState } from 'react';

/** Why a line or one of its months is what it is, in a person's words. */
export function LineNotes({
  months,
  month,
  notes,
  locked,
  keep,
}: {
  readonly months: readonly string[];
  /** that is looked at; null when it is none */
  readonly month: number | null;
  readonly notes: readonly BudgetNote[];
  readonly locked: boolean;
  readonly keep: (month: number | null, text: string) => void;
}) {
  const others = notes.filter((note) => note.month !== null && note.month !== month);
  const textOf = (at: number | null) => notes.find((note) => note.month === at)?.text ?? '';
  return (
    <section aria-label="Notes" className="mt-3 text-[13px]">
      <NoteField label="Note on the line" text={textOf(null)} locked={locked} keep={(text) => keep(null, text)} />
      {month === null ? null : (
        <NoteField label={`Note on ${months[month]}`} text={textOf(month)} locked={locked} keep={(text) => keep(month, text)} />
      )}
      {others.length > 0 ? (
        <ul className="mt-1">
          {others.map((note) => (
            <li key={note.month}>
              <span className="font-semibold">{months[note.month!]}</span> {note.text}
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

function NoteField({
  label,
  text,
  locked,
  keep,
}: {
  readonly label: string;
  readonly text: string;
  readonly locked: boolean;
  readonly keep: (text: string) => void;
}) {
  const id = useId();
  const [draft, setDraft] = useState(text);
  const [from, setFrom] = useState(text);
  // a note saved or undone elsewhere replaces one that was not touched here
  if (text !== from) {
    setFrom(text);
    if (draft === from) setDraft(text);
  }
  return (
    <div className="mt-1">
      <label htmlFor={id} className="block text-ink-soft">
        {label}
      </label>
      <textarea
        id={id}
        rows={draft.length > 40 ? 3 : 1}
        maxLength={2000}
        readOnly={locked}
        className="field w-full py-0.5 text-[13px]"
        value={draft}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => (draft.trim() === text ? undefined : keep(draft))}
      />
    </div>
  );
}
