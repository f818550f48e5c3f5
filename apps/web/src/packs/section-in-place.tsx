import { useQuery } from '@tanstack/react-query';
import { type DateRule, isEmptyText, type RichText, type Section } from '@wise-margin/core';
import { useState } from 'react';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { Failure } from '../ui/states.tsx';
import { FindingComments } from './finding-comments.tsx';
import { TextEditor } from './text-editor.tsx';
import type { PackEditor } from './use-pack-editor.ts';

/** The text of a section or the comments of its findings, edited on the page where they print. */
export function SectionInPlace({
  section,
  editor,
  month,
  top,
  close,
}: {
  readonly section: Section;
  readonly editor: PackEditor;
  readonly month: string;
  readonly top: number;
  readonly close: () => void;
}) {
  const company = useCompany();
  const [accepted, setAccepted] = useState(0);
  const at = { top: top + 28 };
  if (section.kind === 'findings') {
    const asOf = monthOfRule(section.date, month, company.periods);
    return asOf === null ? null : (
      <div className="absolute right-4 left-4 z-10" style={at}>
        <FindingComments asOf={asOf} comparison={section.comparison} close={close} />
      </div>
    );
  }
  if (section.kind !== 'text') return null;
  const text = section.written === 'monthly' ? (editor.texts[section.id] ?? section.text) : section.text;
  return (
    <div className="absolute right-4 left-4 z-10" style={at}>
      {section.written === 'monthly' && isEmptyText(text) ? (
        <DraftedSummary
          place={{ pack: editor.design.key, month }}
          accept={(draft) => {
            editor.setText(section, draft);
            setAccepted(accepted + 1);
          }}
        />
      ) : null}
      {/* an accepted draft is opened anew; what is typed goes on in the same editor */}
      <TextEditor key={accepted} text={text} month={month} label={section.title} change={(changed) => editor.setText(section, changed)} />
      <button type="button" className="button mt-1" onClick={close}>
        Done
      </button>
    </div>
  );
}

/** Offers the text that the month drafts itself; accepted, it is edited like any other. */
function DraftedSummary({
  place,
  accept,
}: {
  readonly place: { readonly pack: string; readonly month: string };
  readonly accept: (text: RichText) => void;
}) {
  const { id } = useCompany();
  const draft = useQuery({
    queryKey: ['drafted-summary', id, place.pack, place.month],
    queryFn: ({ signal }) => getJson<RichText>(`/companies/${id}/packs/${place.pack}/months/${place.month}/drafted-summary`, signal),
  });
  if (draft.isError) return <Failure error={draft.error} retry={() => void draft.refetch()} />;
  return (
    <p className="mb-1 flex items-center gap-3 border border-copper bg-sheet px-3 py-1 text-[13px]">
      Nobody wrote this text yet. The month has a draft of it, with live figures.
      <button type="button" className="button" disabled={!draft.data} onClick={() => draft.data && accept(draft.data)}>
        Accept draft
      </button>
    </p>
  );
}

/** The month whose findings a section shows; null where it has none of its own, as on the day of the meeting. */
function monthOfRule(rule: DateRule, month: string, periods: readonly { readonly key: string }[]): string | null {
  const at = periods.findIndex(({ key }) => key === month);
  switch (rule.kind) {
    case 'month':
    case 'quarterToDate':
      return month;
    case 'monthBefore':
      return periods[at - 1]?.key ?? null;
    case 'sameMonthLastYear':
      return periods[at - 12]?.key ?? null;
    case 'fixed':
      return rule.month;
    case 'meeting':
      return null;
  }
}
