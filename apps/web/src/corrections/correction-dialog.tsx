import type { EntryDto } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { DateField } from '../ui/date-field.tsx';
import { ChangeDialog } from './change-dialog.tsx';
import { ConflictNotice } from './conflict-notice.tsx';
import { contentOfDraft, draftOf } from './entry-draft.ts';
import { EntryFields } from './entry-fields.tsx';

/** An entry opened for correction: every field of it, both sides, what the correction does, and why. */
export function CorrectionDialog({ entry: now, close }: { readonly entry: EntryDto; readonly close: () => void }) {
  // as it was opened: a change by someone else meanwhile is not overwritten unseen
  const [entry, setEntry] = useState(now);
  const { id: company, exponent } = useCompany();
  const [draft, setDraft] = useState(() => draftOf(entry, exponent));
  // a new key starts the fields again
  const [opened, setOpened] = useState(0);
  const read = contentOfDraft(draft, { ...entry, exponent });
  const isChanged = JSON.stringify(draft) !== JSON.stringify(draftOf(entry, exponent));
  const isOvertaken = now.version !== entry.version;
  const isDraft = entry.state === 'draft';
  return (
    <ChangeDialog
      title={`${isDraft ? 'Edit draft' : 'Correct entry'} ${entry.number}`}
      path={`/companies/${company}/entries/${entry.id}/correction`}
      request={'content' in read && isChanged && !isOvertaken ? { version: entry.version, content: read.content } : null}
      fault={isOvertaken || 'content' in read ? null : read.fault}
      act={isDraft ? 'Save draft' : 'Post correction'}
      firstReason={isDraft ? 'Draft edited' : ''}
      close={close}
    >
      {isOvertaken ? (
        <ConflictNotice
          opened={entry}
          theirs={now}
          mine={'content' in read ? read.content : null}
          takeTheirs={() => {
            setEntry(now);
            setDraft(draftOf(now, exponent));
            setOpened(opened + 1);
          }}
          keepMine={() => setEntry({ ...entry, version: now.version })}
        />
      ) : null}
      <label className="mt-2 flex items-center gap-2 text-[13px]">
        <span className="text-ink-soft">Date</span>
        <DateField value={draft.date} set={(date) => setDraft({ ...draft, date })} />
      </label>
      <EntryFields key={opened} draft={draft} setDraft={setDraft} />
    </ChangeDialog>
  );
}
