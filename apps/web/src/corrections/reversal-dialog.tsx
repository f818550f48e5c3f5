import type { EntryDto } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { useEntry } from '../data/use-entry.ts';
import { DateField } from '../ui/date-field.tsx';
import { dateWords } from '../ui/date-words.ts';
import { ChangeDialog } from './change-dialog.tsx';

/** An entry voided on its own day, or reversed on a later one; both entries stay on record and name each other. */
export function ReversalDialog({
  entry: id,
  close,
  done,
}: {
  readonly entry: number;
  readonly close: () => void;
  readonly done?: () => void;
}) {
  const company = useCompany();
  const entry = useEntry(company.id, id);
  return entry.data ? <Reversal key={id} entry={entry.data} close={close} {...(done ? { done } : {})} /> : null;
}

function Reversal({ entry, close, done }: { readonly entry: EntryDto; readonly close: () => void; readonly done?: () => void }) {
  const { id: company } = useCompany();
  const [date, setDate] = useState(entry.date);
  const isVoid = date === entry.date;
  return (
    <ChangeDialog
      title={`Void or reverse entry ${entry.number}`}
      path={`/companies/${company}/entries/${entry.id}/reversal`}
      request={date === '' ? null : { version: entry.version, date }}
      fault={date === '' ? 'Enter the date of the reversing entry.' : null}
      act={isVoid ? 'Void entry' : 'Post reversal'}
      reasonHint="Such as: posted twice"
      close={close}
      {...(done ? { done } : {})}
    >
      <p className="mt-2 text-[13px] text-ink-soft">
        {isVoid
          ? `An entry with the opposite amounts is posted on ${dateWords(entry.date)}. Both stay on record.`
          : `The amounts stay in ${dateWords(entry.date)} and are reversed on ${dateWords(date)}.`}
      </p>
      <label className="mt-2 flex items-center gap-2 text-[13px]">
        <span className="text-ink-soft">Reversing entry dated</span>
        <DateField value={date} min={entry.date} set={setDate} />
      </label>
    </ChangeDialog>
  );
}
