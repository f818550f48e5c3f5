import type { PackIssueDto } from '@wise-margin/contract';
import { dayWords } from '@wise-margin/presentation';
import { Copy } from 'lucide-react';
import { useId, useRef, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { useShares } from '../data/use-shares.ts';
import { DateField } from '../ui/date-field.tsx';
import { momentWords } from '../ui/date-words.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { localDay, today } from '../ui/today.ts';

const DAYS = 30;

/** Links to an issued pack: made with a last day, told once, withdrawn at any time. */
export function ShareDialog({ issue, close }: { readonly issue: PackIssueDto; readonly close: () => void }) {
  const company = useCompany();
  const shares = useShares(company.id, issue.id);
  const { create, revoke } = shares;
  const [expires, setExpires] = useState(() => localDay(new Date(Date.now() + DAYS * 86_400_000)));
  const [drillDown, setDrillDown] = useState(false);
  const [copied, setCopied] = useState<'no' | 'yes' | 'refused'>('no');
  const link = useRef<HTMLInputElement>(null);
  const id = useId();
  return (
    <DialogFrame title={`Share ${issue.name}`} width="medium" close={close}>
      <div className="mt-3 flex flex-col gap-3">
        <p className="text-[13px] text-ink-soft">
          Anyone with the link can read this issue until its last day, and nothing else. Later issues need a link of their own.
        </p>
        <form
          className="flex flex-wrap items-end gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            setCopied('no');
            create.mutate({ expires, drillDown });
          }}
        >
          <div>
            <label htmlFor={id} className="block text-ink-soft">
              Opens through
            </label>
            <DateField id={id} className="field" min={today()} value={expires} set={setExpires} />
          </div>
          <CheckField label="Allow drill-down to accounts" checked={drillDown} set={setDrillDown} />
          <button type="submit" className="button button-primary" disabled={create.isPending || expires === ''}>
            Create link
          </button>
        </form>
        {create.isError ? <Failure error={create.error} /> : null}
        {create.data ? (
          <div className="border-l-2 border-copper bg-wash px-3 py-2">
            <p className="text-[13px]">Copy this link now. It is not shown again.</p>
            <div className="mt-1 flex items-center gap-2">
              <input
                ref={link}
                className="field min-w-0 flex-1 text-[13px]"
                aria-label="Link"
                readOnly
                value={create.data.link}
                onFocus={(event) => event.target.select()}
              />
              {/* browsers have no clipboard for pages that come without TLS: the field is marked when it is entered */}
              {window.isSecureContext ? (
                <button
                  type="button"
                  className="button"
                  onClick={() =>
                    void navigator.clipboard.writeText(create.data.link).then(
                      () => setCopied('yes'),
                      () => {
                        setCopied('refused');
                        link.current?.focus();
                      },
                    )
                  }
                >
                  <Copy size={15} aria-hidden="true" /> {copied === 'yes' ? 'Copied' : 'Copy'}
                </button>
              ) : null}
            </div>
            {copied === 'refused' ? (
              <p role="alert" className="mt-1 text-[13px] text-brick">
                The browser does not allow copying. The link is selected: copy it with the keyboard.
              </p>
            ) : null}
          </div>
        ) : null}
        {shares.isError ? <Failure error={shares.error} retry={() => void shares.refetch()} /> : null}
        {shares.isPending ? <Loading what="the links" /> : null}
        {shares.data && shares.data.length > 0 ? (
          <table className="w-full border-collapse text-[13px]" aria-label="Links">
            <thead>
              <tr className="border-b border-ink text-left">
                <th scope="col" className="py-1 pr-3">
                  Created
                </th>
                <th scope="col" className="py-1 pr-3">
                  Opens through
                </th>
                <th scope="col" className="py-1 pr-3">
                  Drill-down
                </th>
                <th scope="col" className="py-1 pr-3">
                  Opened
                </th>
                <th scope="col" className="py-1">
                  State
                </th>
              </tr>
            </thead>
            <tbody>
              {shares.data.map((share) => (
                <tr key={share.id} className="border-b border-hairline">
                  <td className="py-1 pr-3">
                    {momentWords(share.createdAt)}, {share.createdBy}
                  </td>
                  <td className="py-1 pr-3">{dayWords(share.expires)}</td>
                  <td className="py-1 pr-3">{share.drillDown ? 'Yes' : 'No'}</td>
                  <td className="py-1 pr-3">
                    {share.opens === 0
                      ? 'Never'
                      : `${share.opens === 1 ? 'Once' : `${share.opens} times`}, last ${momentWords(share.lastOpenedAt!)}`}
                  </td>
                  <td className="py-1">
                    {share.revokedAt !== null ? (
                      'Revoked'
                    ) : share.expires < today() ? (
                      'Ended'
                    ) : (
                      <button type="button" className="link" disabled={revoke.isPending} onClick={() => revoke.mutate(share.id)}>
                        Revoke
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : null}
        {revoke.isError ? <Failure error={revoke.error} /> : null}
        <div className="flex justify-end">
          <button type="button" className="button" onClick={close}>
            Close
          </button>
        </div>
      </div>
    </DialogFrame>
  );
}
