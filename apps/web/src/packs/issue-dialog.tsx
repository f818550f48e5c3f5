import type { PackIssueDto } from '@wise-margin/contract';
import { Link, useNavigate } from 'react-router';

import { type PackPlace, usePackChecklist, usePackMonth } from '../data/use-packs.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { Failure, Loading } from '../ui/states.tsx';

/** What wants a look before a pack is issued, and the button that issues it. */
export function IssueDialog({ place, month, close }: { readonly place: PackPlace; readonly month: string; readonly close: () => void }) {
  const checklist = usePackChecklist(place, month);
  const { data, issue } = usePackMonth(place, month);
  const navigate = useNavigate();
  const items = checklist.data?.items ?? [];
  const next = (data?.issues.length ?? 0) + 1;
  const open = ({ id }: PackIssueDto): void => {
    close();
    void navigate(`/c/${place.company}/packs/${place.pack}/${id}`);
  };
  return (
    <DialogFrame
      title={next === 1 ? 'Issue pack' : `Reissue pack, issue ${next}`}
      width="medium"
      close={issue.isPending ? () => undefined : close}
    >
      <p className="mt-1 text-[14px] text-ink-soft">
        Figures, comments and pages are frozen. Later changes in the ledger do not change them. Sections as of the meeting use today.
      </p>
      <div className="my-3 min-h-0 flex-1 overflow-y-auto">
        {checklist.isError ? <Failure error={checklist.error} retry={() => void checklist.refetch()} /> : null}
        {checklist.isPending ? <Loading what="the checklist" /> : null}
        {checklist.data && items.length === 0 ? <p className="text-pine">No open items.</p> : null}
        {items.length > 0 ? (
          <>
            <h3 className="font-semibold">
              {items.length} {items.length === 1 ? 'item' : 'items'} to look at
            </h3>
            <ul className="mt-1 list-disc pl-5 text-[14px]">
              {items.map(({ words, link }) => (
                <li key={words} className="py-0.5">
                  {words}{' '}
                  {link === '' ? null : (
                    <Link className="link" to={`/c/${place.company}/${link}`}>
                      Open
                    </Link>
                  )}
                </li>
              ))}
            </ul>
          </>
        ) : null}
        {issue.isError ? <Failure error={issue.error} /> : null}
      </div>
      <div className="flex items-center justify-end gap-3">
        {issue.isPending ? (
          <span role="status" className="text-ink-soft">
            Writing PDF, document, spreadsheet and web page…
          </span>
        ) : null}
        <button type="button" className="button" onClick={close} disabled={issue.isPending}>
          Cancel
        </button>
        <button
          type="button"
          className="button button-primary"
          disabled={!checklist.data || issue.isPending}
          onClick={() => issue.mutate(undefined, { onSuccess: open })}
        >
          {items.length > 0 ? 'Issue anyway' : 'Issue pack'}
        </button>
      </div>
    </DialogFrame>
  );
}
