import { MAIL_FIELDS, PACK_FORMATS, type PackFormat, type PackIssueDto } from '@wise-margin/contract';
import { useId, useState } from 'react';

import { newKey } from '../api/new-key.ts';
import { useCompany } from '../data/company.ts';
import { useMail, useMailChanges, useMailLists } from '../data/use-mail.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure } from '../ui/states.tsx';

const NAMES = { pdf: 'PDF', docx: 'Document', xlsx: 'Spreadsheet', html: 'Web page' } as const;
const SUBJECT = '{pack}, {month}';
const TEXT = 'The {pack} of {company} for {month} is attached.\n\nOpen it in Wise Margin: {link}';
/** Addresses as people type them: one a line, or with commas or semicolons between. */
export const addressesOf = (typed: string): string[] =>
  typed
    .split(/[\s,;]+/)
    .map((address) => address.trim())
    .filter((address) => address !== '');

/** An issued pack is mailed: to whom, with which words, as which files. */
export function MailDialog({ issue, close }: { readonly issue: PackIssueDto; readonly close: () => void }) {
  const company = useCompany();
  const lists = useMailLists(company.id);
  const listing = useMail(company.id, issue.id);
  const { send, setList } = useMailChanges(company.id);
  const [to, setTo] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [subject, setSubject] = useState(SUBJECT);
  const [text, setText] = useState(TEXT);
  const [formats, setFormats] = useState<readonly PackFormat[]>(['pdf']);
  // one for this mail: a second click on the same button sends nothing
  const [key] = useState(newKey);
  const ids = { to: useId(), subject: useId(), text: useId() };
  const addresses = addressesOf(to);
  const count = new Set([...addresses, ...chosen.flatMap((name) => lists.data?.find((list) => list.name === name)?.addresses ?? [])]).size;
  const hasServer = listing.data?.hasServer;
  return (
    <DialogFrame title={`Mail ${issue.name}`} width="medium" close={close}>
      <form
        className="mt-2 flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const mail = { key, to: addresses, lists: [...chosen], subject, text, formats: [...formats] };
          send.mutate({ issue: issue.id, mail }, { onSuccess: close });
        }}
      >
        {hasServer !== false ? null : (
          <p className="border-l-2 border-copper bg-wash px-2 py-1 text-[13px]">
            No mail server is set. Messages stay in the outbox, where they can be read and downloaded.
          </p>
        )}
        <label htmlFor={ids.to} className="text-ink-soft">
          To
        </label>
        <textarea
          id={ids.to}
          className="field min-h-14"
          value={to}
          placeholder="name@company.com, one a line or with commas between"
          onChange={(event) => setTo(event.target.value)}
        />
        {lists.data && lists.data.length > 0 ? (
          <fieldset className="flex flex-wrap gap-3">
            <legend className="text-ink-soft">Lists</legend>
            {lists.data.map(({ name, addresses: own }) => (
              <CheckField
                key={name}
                label={`${name} (${own.length})`}
                checked={chosen.includes(name)}
                set={(on) => setChosen(on ? [...chosen, name] : chosen.filter((each) => each !== name))}
              />
            ))}
          </fieldset>
        ) : null}
        {addresses.length > 1 ? (
          <SaveList addresses={addresses} save={(name) => setList.mutate({ name, addresses })} failure={setList.error} />
        ) : null}
        <label htmlFor={ids.subject} className="text-ink-soft">
          Subject
        </label>
        <input id={ids.subject} className="field" value={subject} onChange={(event) => setSubject(event.target.value)} />
        <label htmlFor={ids.text} className="text-ink-soft">
          Text
        </label>
        <textarea id={ids.text} className="field min-h-28" value={text} onChange={(event) => setText(event.target.value)} />
        <p className="text-[13px] text-ink-soft">Fields: {MAIL_FIELDS.map((field) => `{${field}}`).join(' ')}</p>
        <fieldset className="flex flex-wrap gap-3">
          <legend className="text-ink-soft">Attach</legend>
          {PACK_FORMATS.map((format) => (
            <CheckField
              key={format}
              label={NAMES[format]}
              checked={formats.includes(format)}
              set={(on) => setFormats(on ? [...formats, format] : formats.filter((each) => each !== format))}
            />
          ))}
        </fieldset>
        {lists.isError ? <Failure error={lists.error} retry={() => void lists.refetch()} /> : null}
        {listing.isError ? <Failure error={listing.error} retry={() => void listing.refetch()} /> : null}
        {send.isError ? <Failure error={send.error} /> : null}
        <div className="mt-2 flex justify-end gap-3">
          <button type="button" className="button" onClick={close}>
            Cancel
          </button>
          <button type="submit" className="button button-primary" disabled={send.isPending || count === 0 || hasServer === undefined}>
            {hasServer === false ? `Put ${count} in the outbox` : `Send to ${count}`}
          </button>
        </div>
      </form>
    </DialogFrame>
  );
}

/** The addresses typed, kept as a list for the next time. */
function SaveList({
  addresses,
  save,
  failure,
}: {
  readonly addresses: readonly string[];
  readonly save: (name: string) => void;
  readonly failure: Error | null;
}) {
  const [name, setName] = useState('');
  return (
    <div className="flex flex-wrap items-center gap-2 text-[13px]">
      <input
        className="field py-0.5"
        aria-label="Name of the list"
        placeholder="Name of the list"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="button" className="link" disabled={name.trim() === ''} onClick={() => save(name)}>
        Save these {addresses.length} as a list
      </button>
      {failure ? (
        <span role="alert" className="text-brick">
          {failure.message}
        </span>
      ) : null}
    </div>
  );
}
