import type { MailMessageDto } from '@wise-margin/contract';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { useMail, useMailChanges, useMailDetail } from '../data/use-mail.ts';
import { momentWords } from '../ui/date-words.ts';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useSearch } from '../ui/use-search.ts';
import { MAIL_STATE_WORDS } from './mail-states.ts';

/** Messages that were sent, wait, failed, or stay here because no mail server is set. */
export default function OutboxPage() {
  const company = useCompany();
  const [search, setSearch] = useSearch();
  const mail = useMail(company.id);
  const opened = Number(search.get('message')) || null;
  const words = mail.data
    ? mail.data.hasServer
      ? `Sent as ${mail.data.from}`
      : 'No mail server is set: messages stay here. Set SMTP_URL to send them.'
    : '';
  return (
    <Page
      title="Outbox"
      words={words}
      actions={
        <Link className="button" to={`/c/${company.id}/packs`}>
          Packs
        </Link>
      }
    >
      {mail.isError ? <Failure error={mail.error} retry={() => void mail.refetch()} /> : null}
      {mail.isPending ? <Loading what="the outbox" /> : null}
      {mail.data && mail.data.messages.length === 0 ? (
        <Empty
          title="No messages yet"
          action={
            <Link className="button" to={`/c/${company.id}/packs`}>
              Open packs
            </Link>
          }
        >
          Issue a pack and mail it. What was sent, and what could not be delivered, is listed here.
        </Empty>
      ) : null}
      {mail.data && mail.data.messages.length > 0 ? (
        <div className="mt-2 flex min-h-0 flex-1 gap-3 pb-3 narrow:flex-col">
          <div className="flex min-w-0 flex-1 flex-col">
            <Messages messages={mail.data.messages} open={(id) => setSearch((before) => before.set('message', String(id)))} />
            {mail.data.count > mail.data.messages.length ? (
              <p className="text-[13px] text-ink-soft">
                The latest {mail.data.messages.length.toLocaleString('en-US')} of {mail.data.count.toLocaleString('en-US')} messages are
                listed.
              </p>
            ) : null}
          </div>
          {opened === null ? null : <Message id={opened} close={() => setSearch((before) => before.delete('message'))} />}
        </div>
      ) : null}
    </Page>
  );
}

function Messages({ messages, open }: { readonly messages: readonly MailMessageDto[]; readonly open: (id: number) => void }) {
  return (
    <div className="overflow-auto" tabIndex={0} role="region" aria-label="Messages">
      <table className="w-full border-collapse text-[14px]">
        <thead>
          <tr className="border-b border-ink text-left">
            <th className="py-1 pr-4 font-semibold">To</th>
            <th className="py-1 pr-4 font-semibold">Subject</th>
            <th className="py-1 pr-4 font-semibold">Date</th>
            <th className="py-1 font-semibold">State</th>
          </tr>
        </thead>
        <tbody>
          {messages.map(({ id, recipient, subject, at, state, error, nextAt, sentAt }) => (
            <tr key={id} className="border-b border-hairline align-top hover:bg-wash">
              <td className="py-1 pr-4">
                <button type="button" className="link text-left" onClick={() => open(id)}>
                  {recipient}
                </button>
              </td>
              <td className="py-1 pr-4">{subject}</td>
              <td className="py-1 pr-4 whitespace-nowrap">{momentWords(sentAt ?? at)}</td>
              <td className="py-1">
                <span className={state === 'failed' ? 'font-semibold text-brick' : ''}>{MAIL_STATE_WORDS[state]}</span>
                {error === '' ? null : <span className="block text-[13px] text-ink-soft">{error}</span>}
                {nextAt !== null && error !== '' ? (
                  <span className="block text-[13px] text-ink-soft">Next try {momentWords(nextAt)}</span>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** A message as it reads, with its attachments and every try. */
function Message({ id, close }: { readonly id: number; readonly close: () => void }) {
  const company = useCompany();
  const detail = useMailDetail(company.id, id);
  const { again } = useMailChanges(company.id);
  const message = detail.data;
  return (
    <section
      aria-label="Message"
      className="w-[420px] shrink-0 overflow-y-auto border border-hairline bg-sheet p-3 text-[14px] narrow:w-full"
      tabIndex={0}
    >
      {detail.isError ? <Failure error={detail.error} /> : null}
      {message ? (
        <>
          <h2 className="font-serif text-[17px] font-semibold">{message.subject}</h2>
          <p className="text-ink-soft">
            To {message.recipient}, {MAIL_STATE_WORDS[message.state].toLowerCase()}, by {message.by}
          </p>
          <p className="mt-2 whitespace-pre-wrap">{message.text}</p>
          {message.attachments.length > 0 ? (
            <>
              <h3 className="mt-2 font-semibold">Attachments</h3>
              <ul>
                {message.attachments.map(({ name, bytes }) => (
                  <li key={name}>
                    {name}, {Math.max(1, Math.round(bytes / 1000)).toLocaleString('en-US')} kB
                  </li>
                ))}
              </ul>
            </>
          ) : null}
          <h3 className="mt-2 font-semibold">History</h3>
          <ul className="text-[13px]">
            {message.log.map(({ at, what }, index) => (
              <li key={index}>
                {momentWords(at)}: {what}
              </li>
            ))}
          </ul>
          <div className="mt-3 flex gap-2">
            <a className="button" href={`/api/companies/${company.id}/mail/${id}/message.eml`} download>
              Download message
            </a>
            {message.state === 'failed' ? (
              <button type="button" className="button" disabled={again.isPending} onClick={() => again.mutate(id)}>
                Send again
              </button>
            ) : null}
            <button type="button" className="button" onClick={close}>
              Close
            </button>
          </div>
        </>
      ) : detail.isError ? null : (
        <Loading what="the message" />
      )}
    </section>
  );
}
