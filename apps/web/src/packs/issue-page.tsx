import { PACK_FORMATS, type PackIssueDto } from '@wise-margin/contract';
import { figureText } from '@wise-margin/presentation';
import { useState } from 'react';
import { Link, useParams } from 'react-router';

import { useCompany } from '../data/company.ts';
import { useMail } from '../data/use-mail.ts';
import { issueFileAddress, useIssuedPages, usePackIssue } from '../data/use-packs.ts';
import { momentWords } from '../ui/date-words.ts';
import { Page } from '../ui/page.tsx';
import { PageFailure } from '../ui/page-failure.tsx';
import { Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { MailDialog } from './mail-dialog.tsx';
import { MAIL_STATE_WORDS } from './mail-states.ts';
import { PageList } from './page-list.tsx';
import { ShareDialog } from './share-dialog.tsx';

const FORMATS = { pdf: 'PDF', docx: 'DOCX', xlsx: 'XLSX', html: 'HTML' } as const;

/** An issued pack as it was: its pages, its files, its fingerprint, and what it changed against the issue before. */
export default function IssuePage() {
  const company = useCompany();
  const { issue: id } = useParams();
  const issue = usePackIssue(company.id, Number(id));
  if (issue.isError)
    return <PageFailure title="Issued pack" error={issue.error} retry={() => void issue.refetch()} company={company.id} list="packs" />;
  if (!issue.data) return <Loading what="the issued pack" />;
  return <Issued issue={issue.data} />;
}

function Issued({ issue }: { readonly issue: PackIssueDto }) {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const document = issue.documents.find(({ slice }) => slice === search.get('slice')) ?? issue.documents[0]!;
  const [isMailing, setMailing] = useState(false);
  const [isSharing, setSharing] = useState(false);
  const pages = useIssuedPages(company.id, issue.id, document.slice);
  return (
    <Page
      title={issue.name}
      words={`${issue.monthName}, issue ${issue.number}`}
      actions={
        <>
          {issue.documents.length > 1 ? (
            <select
              aria-label="Report for"
              className="field py-0.5 text-[13px]"
              value={document.slice}
              onChange={(event) => setSearch((before) => before.set('slice', event.target.value), { replace: true })}
            >
              {issue.documents.map(({ slice }) => (
                <option key={slice}>{slice}</option>
              ))}
            </select>
          ) : null}
          {PACK_FORMATS.map((format) => (
            <a
              key={format}
              className="button"
              href={issueFileAddress(company.id, { issue: issue.id, format, slice: document.slice })}
              download
            >
              {FORMATS[format]}
            </a>
          ))}
          <button type="button" className="button" disabled={!pages.data} onClick={() => window.print()}>
            Print
          </button>
          <button type="button" className="button" onClick={() => setSharing(true)}>
            Share…
          </button>
          <button type="button" className="button button-primary" onClick={() => setMailing(true)}>
            Mail…
          </button>
          <Link className="button" to={`/c/${company.id}/packs/${issue.pack}?asOf=${issue.month}`}>
            Open pack
          </Link>
        </>
      }
    >
      <p className="text-[13px] text-ink-soft">
        Issued {momentWords(issue.at)} by {issue.by}. {document.pages} pages. Checksum{' '}
        <span className="tabular-nums" title="Two copies with the same checksum show the same figures">
          {document.fingerprint}
        </span>
        , by which a copy is compared with this issue.
      </p>
      {issue.later || issue.ledgerChanges > 0 ? (
        <p role="status" className="mt-1 border-l-2 border-copper bg-sheet px-3 py-1 text-[13px]">
          {issue.later ? (
            <>
              There is a later issue of this month:{' '}
              <Link className="link" to={`/c/${company.id}/packs/${issue.pack}/${issue.later.id}`}>
                issue {issue.later.number}
              </Link>
              .{' '}
            </>
          ) : null}
          {issue.ledgerChanges > 0
            ? `The ledger was changed ${issue.ledgerChanges === 1 ? 'once' : `${issue.ledgerChanges.toLocaleString('en-US')} times`} since this issue.`
            : ''}
        </p>
      ) : null}
      <Mailed issue={issue.id} />
      {isSharing ? <ShareDialog issue={issue} close={() => setSharing(false)} /> : null}
      {isMailing ? <MailDialog issue={issue} close={() => setMailing(false)} /> : null}
      <div className="mt-2 flex min-h-0 flex-1 gap-3 pb-3 narrow:flex-col">
        {issue.changes === null ? null : <Changes issue={issue} />}
        {pages.isError ? <Failure error={pages.error} retry={() => void pages.refetch()} /> : null}
        {pages.data ? (
          <PageList pages={pages.data.pages} logo={pages.data.logo} label="Issued pages" />
        ) : pages.isError ? null : (
          <Loading what="the pages" />
        )}
      </div>
    </Page>
  );
}

/** To whom the issue was mailed, and whom it did not reach. */
function Mailed({ issue }: { readonly issue: number }) {
  const company = useCompany();
  const { messages = [] } = useMail(company.id, issue).data ?? {};
  if (messages.length === 0) return null;
  const failed = messages.filter(({ state }) => state === 'failed');
  const states = (['sent', 'outbox', 'queued', 'sending'] as const).flatMap((state) => {
    const count = messages.filter((message) => message.state === state).length;
    return count === 0 ? [] : [`${count} ${MAIL_STATE_WORDS[state].toLowerCase()}`];
  });
  return (
    <p className="text-[13px]">
      <Link className="link" to={`/c/${company.id}/packs/outbox`}>
        Mail
      </Link>
      : {states.join(', ')}
      {failed.map(({ id, recipient, error }) => (
        <span key={id} className="block text-brick">
          Not delivered to {recipient}: {error}
        </span>
      ))}
    </p>
  );
}

/** What is different from the issue before, figure by figure. */
function Changes({ issue: { list, number } }: { readonly issue: PackIssueDto }) {
  const { exponent } = useCompany();
  return (
    <section aria-label="Changes" className="w-[420px] shrink-0 overflow-y-auto narrow:max-h-64 narrow:w-full" tabIndex={0}>
      <h2 className="font-serif text-[17px] font-semibold">
        {list.length === 0
          ? `Nothing changed since issue ${number - 1}`
          : `Changed since issue ${number - 1}: ${list.length.toLocaleString('en-US')}`}
      </h2>
      {list.length === 0 ? null : (
        <table className="mt-1 w-full border-collapse text-[13px]">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="pr-2 font-semibold">Figure</th>
              <th className="pr-2 text-right font-semibold">Before</th>
              <th className="pr-2 text-right font-semibold">Now</th>
              <th className="text-right font-semibold">Change</th>
            </tr>
          </thead>
          <tbody>
            {list.map(({ slice, title, lineName, heading, before, after, difference }, at) => (
              <tr key={at} className="border-b border-hairline align-top">
                <td className="py-0.5 pr-2">
                  <span className="block font-semibold">{lineName}</span>
                  <span className="block text-ink-soft">{[slice, title, heading].filter((text) => text !== '').join(', ')}</span>
                </td>
                <td className="py-0.5 pr-2 text-right tabular-nums">{before === null ? 'not shown' : before || 'blank'}</td>
                <td className="py-0.5 pr-2 text-right tabular-nums">{after === null ? 'not shown' : after || 'blank'}</td>
                <td className="py-0.5 text-right tabular-nums">
                  {difference === null ? '' : figureText({ kind: 'amount', value: difference }, { exponent, unit: 'cents' })}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
