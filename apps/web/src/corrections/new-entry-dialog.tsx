import type { EntryTemplateDto } from '@wise-margin/contract';
import { useState } from 'react';

import { sendJson } from '../api/client.ts';
import { useAsOf, useCompany } from '../data/company.ts';
import { DateField } from '../ui/date-field.tsx';
import { CheckField, SelectField } from '../ui/labeled-field.tsx';
import { ChangeDialog } from './change-dialog.tsx';
import { contentOfDraft, draftOfContent, emptyLine, type EntryDraft } from './entry-draft.ts';
import { EntryFields } from './entry-fields.tsx';

/** The first day of the month after a date; empty for none. */
function firstOfNextMonth(date: string): string {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return '';
  const [year, month] = [Number(date.slice(0, 4)), Number(date.slice(5, 7))];
  return month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, '0')}-01`;
}

/** The last day of a month given as `2026-10`. */
const lastOf = (key: string): string => new Date(Date.UTC(Number(key.slice(0, 4)), Number(key.slice(5)), 0)).toISOString().slice(0, 10);

/** A new entry: its lines, posted or in draft, reversing next month when wanted, kept as a template when wanted. */
export function NewEntryDialog({
  template,
  close,
  done,
}: {
  /** what it starts from; null for an empty one */
  readonly template: EntryTemplateDto | null;
  readonly close: () => void;
  readonly done: (entry: number) => void;
}) {
  const { id: company, exponent } = useCompany();
  const [asOf] = useAsOf();
  const date = asOf === null ? '' : lastOf(asOf);
  const [draft, setDraft] = useState<EntryDraft>(() =>
    template ? { ...draftOfContent(template.content, exponent), date } : { date, lines: [emptyLine(0), emptyLine(1)] },
  );
  const [state, setState] = useState<'posted' | 'draft'>('posted');
  const [isReversing, setReversing] = useState(false);
  const [reverseOn, setReverseOn] = useState('');
  const [isTemplate, setTemplate] = useState(false);
  const [name, setName] = useState(template?.name ?? '');
  const [isMonthly, setMonthly] = useState(false);
  const read = contentOfDraft(draft, { source: template?.content.source ?? 'adjustments', kind: 'adjustment', state, exponent });
  const isTouched = draft.lines.some(({ debit, credit }) => debit !== '' || credit !== '');
  const fault = !isTouched
    ? null
    : isTemplate && name.trim() === ''
      ? 'Enter a name for the template.'
      : 'fault' in read
        ? read.fault
        : null;
  const reversal = isReversing ? reverseOn || firstOfNextMonth(draft.date) : null;
  return (
    <ChangeDialog
      title={template ? `New entry from “${template.name}”` : 'New entry'}
      path={`/companies/${company}/entries`}
      request={isTouched && fault === null && 'content' in read ? { content: read.content, reverseOn: reversal } : null}
      fault={fault}
      act={state === 'draft' ? 'Save draft' : 'Post entry'}
      reasonHint="What the entry is for"
      firstReason={template ? template.name : ''}
      close={close}
      done={(answer) => done((answer as { entries: { id: number }[] }).entries[0]!.id)}
      after={
        isTemplate && 'content' in read
          ? {
              what: 'The template',
              act: 'Save template',
              send: () =>
                sendJson('POST', `/companies/${company}/entry-templates`, {
                  name,
                  content: { ...read.content, state: 'posted' },
                  nextDate: isMonthly ? sameDayNextMonth(draft.date) : null,
                }),
            }
          : null
      }
    >
      <div className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2 text-[13px]">
        <label>
          <span className="block text-ink-soft">Date</span>
          <DateField value={draft.date} set={(date) => setDraft({ ...draft, date })} />
        </label>
        <div className="w-36">
          <SelectField
            label="Save as"
            value={state}
            options={[
              ['posted', 'Posted'],
              ['draft', 'Draft'],
            ]}
            set={setState}
          />
        </div>
        <CheckField label="Reverse on" checked={isReversing} set={setReversing} />
        {isReversing ? <DateField aria-label="Reversal date" value={reversal ?? ''} set={setReverseOn} /> : null}
        <CheckField label="Keep as a template" checked={isTemplate} set={setTemplate} />
        {isTemplate ? (
          <>
            <input
              className="field w-44 py-0.5 text-[13px]"
              aria-label="Template name"
              placeholder="Name"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <CheckField label="Every month" checked={isMonthly} set={setMonthly} />
          </>
        ) : null}
      </div>
      <EntryFields draft={draft} setDraft={setDraft} />
    </ChangeDialog>
  );
}

/** The same day of the next month; its last day when it is shorter, or when the day is the last of its month. */
function sameDayNextMonth(date: string): string {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number];
  const last = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  const isLast = day === new Date(Date.UTC(year, month, 0)).getUTCDate();
  return new Date(Date.UTC(year, month, isLast ? last : Math.min(day, last))).toISOString().slice(0, 10);
}
