import type { DateRule, Section } from '@wise-margin/core';

import { useCompany } from '../data/company.ts';
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
      <TextEditor text={text} month={month} label={section.title} change={(changed) => editor.setText(section, changed)} />
      <button type="button" className="button mt-1" onClick={close}>
        Done
      </button>
    </div>
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
