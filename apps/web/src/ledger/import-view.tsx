import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { importChoicesSchema, ImportDto, ImportIssueDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { Download } from 'lucide-react';
import { useRef, useState } from 'react';
import type { z } from 'zod';

import { sendDelete, sendJson } from '../api/client.ts';
import { dateWords } from '../ui/date-words.ts';
import { Failure } from '../ui/states.tsx';

type ImportChoices = z.infer<typeof importChoicesSchema>;
const count = (value: number, one: string, many = `${one}s`): string => `${value.toLocaleString('en-US')} ${value === 1 ? one : many}`;

/** An import from its check to its posting: preview or refused rows, and the step that is left. */
export function ImportView({
  made,
  onPosted,
  onDropped,
}: {
  readonly made: ImportDto;
  readonly onPosted: (posted: ImportDto) => void;
  readonly onDropped: () => void;
}) {
  const client = useQueryClient();
  const post = useMutation({
    mutationFn: () => sendJson<ImportDto>('POST', `/imports/${made.id}/post`, {}),
    onSuccess: async (posted) => {
      await client.invalidateQueries();
      onPosted(posted);
    },
  });
  const choose = useMutation({
    mutationFn: (choices: ImportChoices) => sendJson<ImportDto>('POST', `/imports/${made.id}/check`, choices),
    onSuccess: () => client.invalidateQueries(),
  });
  const reverse = useMutation({
    mutationFn: () => sendJson<ImportDto>('POST', `/imports/${made.id}/reverse`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const drop = useMutation({ mutationFn: () => sendDelete(`/imports/${made.id}`), onSuccess: onDropped });
  if (made.state === 'checking') {
    return (
      <div role="status" className="border border-hairline bg-sheet p-5">
        <p>Checking the files: {count(made.rowsRead, 'row')} read.</p>
        {drop.isError ? <Failure error={drop.error} /> : null}
        <button type="button" className="button mt-3" disabled={drop.isPending} onClick={() => drop.mutate()}>
          Stop and discard
        </button>
      </div>
    );
  }
  if (made.state === 'failed') {
    return (
      <div role="alert" className="border border-brick bg-sheet p-5">
        <p className="font-semibold text-brick">The check failed</p>
        <p>{made.failure}</p>
        {drop.isError ? <Failure error={drop.error} /> : null}
        <button type="button" className="button mt-3" disabled={drop.isPending} onClick={() => drop.mutate()}>
          Discard import
        </button>
      </div>
    );
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto pb-4">
      {made.state === 'reversed' ? (
        <p role="status" className="border-l-2 border-copper bg-sheet px-4 py-2">
          This import was reversed. Its entries are no longer in the ledger.
        </p>
      ) : null}
      {made.state === 'refused' ? <Refused made={made} /> : null}
      {made.state === 'refused' ? (
        <Questions made={made} isPending={choose.isPending} choose={(choices) => choose.mutate(choices)} />
      ) : null}
      {choose.isError ? <Failure error={choose.error} /> : null}
      {reverse.isError ? <Failure error={reverse.error} /> : null}
      {made.state === 'posted' ? <Reverse isPending={reverse.isPending} reverse={() => reverse.mutate()} /> : null}
      {made.preview && made.state === 'refused' ? (
        <details className="shrink-0">
          <summary className="text-ink-soft">
            What was read: {count(made.preview.rows, 'row')}, {count(made.preview.entries, 'good entry', 'good entries')}
          </summary>
          <Preview made={made} preview={made.preview} />
        </details>
      ) : null}
      {made.preview && made.state !== 'refused' ? <Preview made={made} preview={made.preview} /> : null}
      {post.isError ? <Failure error={post.error} /> : null}
      {drop.isError ? <Failure error={drop.error} /> : null}
      {made.state === 'posted' || made.state === 'reversed' ? null : (
        <div className="flex gap-2">
          {made.state === 'refused' ? null : (
            <button
              type="button"
              className="button button-primary"
              disabled={post.isPending || made.state === 'posting'}
              onClick={() => post.mutate()}
            >
              {post.isPending || made.state === 'posting'
                ? 'Posting'
                : made.preview!.entries > 0
                  ? `Post ${count(made.preview!.entries, 'entry', 'entries')}`
                  : `Import ${count(made.preview!.newAccounts.length + made.preview!.changedAccounts, 'account')}`}
            </button>
          )}
          <button type="button" className="button" disabled={post.isPending || drop.isPending} onClick={() => drop.mutate()}>
            Discard import
          </button>
        </div>
      )}
    </div>
  );
}

function Preview({ made, preview }: { readonly made: ImportDto; readonly preview: NonNullable<ImportDto['preview']> }) {
  const money = (value: number) => (value === 0 ? '0.00' : formatAmount(value as Minor, { exponent: made.exponent, unit: 'cents' }));
  const facts: readonly (readonly [string, string])[] = [
    ['Rows read', preview.rows.toLocaleString('en-US')],
    ['Good entries', `${preview.entries.toLocaleString('en-US')}${preview.drafts > 0 ? `, ${preview.drafts} of them draft` : ''}`],
    ['Dates', preview.firstPeriod ? `${dateWords(preview.firstPeriod)} to ${dateWords(preview.lastPeriod)}` : 'None'],
    ['Debits', money(preview.debits)],
    ['Credits', money(preview.credits)],
    ['Rows with errors', made.issueCount.toLocaleString('en-US')],
    [
      'New accounts',
      preview.newAccounts.length === 0
        ? 'none'
        : `${preview.newAccounts.length}: ${preview.newAccounts
            .slice(0, 6)
            .map(({ number, name }) => `${number} ${name}`)
            .join(', ')}${preview.newAccounts.length > 6 ? ` and ${preview.newAccounts.length - 6} more` : ''}`,
    ],
    ['Changed accounts', String(preview.changedAccounts || 'none')],
    ['New fiscal years', preview.newYears.length === 0 ? 'none' : preview.newYears.map((year) => `FY${year}`).join(', ')],
    [
      'New dimension values',
      preview.newDimensionValues.length === 0
        ? 'none'
        : preview.newDimensionValues
            .map(
              ({ dimension, values }) =>
                `${dimension}: ${values.slice(0, 8).join(', ')}${values.length > 8 ? ` and ${values.length - 8} more` : ''}`,
            )
            .join('; '),
    ],
    ['New parties', String(preview.newParties || 'none')],
  ];
  return (
    <section aria-label="Preview" className="border border-hairline bg-sheet p-4">
      <h2 className="font-serif text-lg font-semibold">
        {made.state === 'posted' ? `Posted to ${made.company}` : `For ${made.company}${made.isNewCompany ? ', a new company' : ''}`}
      </h2>
      <p className="text-[13px] text-ink-soft">
        {made.files
          .map(
            ({ name, bytes, encoding }) =>
              `${name}, ${(bytes / 1024).toLocaleString('en-US', { maximumFractionDigits: 0 })} KB, ${encoding}`,
          )
          .join('; ')}
      </p>
      {preview.notices.map((notice) => (
        <p key={notice} className="mt-1 text-[13px] font-semibold">
          {notice}
        </p>
      ))}
      <dl className="mt-2 grid grid-cols-[170px_1fr] gap-y-1 text-[14px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-soft">{name}</dt>
            <dd className="tabular-nums">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** What the check asks: how stray bytes are read, and whether unknown columns are dimensions. */
function Questions({
  made,
  isPending,
  choose,
}: {
  readonly made: ImportDto;
  readonly isPending: boolean;
  readonly choose: (choices: ImportChoices) => void;
}) {
  const hasStray = made.issues.some(({ code }) => code === 'strayBytes');
  const columns = made.issues.filter(({ code }) => code === 'newDimension').map(({ column }) => column);
  if (!hasStray && columns.length === 0) return null;
  return (
    <section aria-label="Questions about the file" className="border border-hairline bg-sheet px-4 py-3 text-[14px]">
      {hasStray ? (
        <div className="flex flex-wrap items-center gap-2">
          <span className="mr-2">How should the file be read?</span>
          <button type="button" className="button" disabled={isPending} onClick={() => choose({ encoding: 'utf-8' })}>
            As UTF-8, unreadable characters shown as �
          </button>
          <button type="button" className="button" disabled={isPending} onClick={() => choose({ encoding: 'windows-1252' })}>
            As Latin-1
          </button>
        </div>
      ) : null}
      {columns.length > 0 ? (
        <div className="flex flex-wrap items-center gap-2">
          <span className="mr-2">
            {columns.length === 1 ? `Is ${columns[0]} a dimension?` : `Are these columns dimensions: ${columns.join(', ')}?`}
          </span>
          <button type="button" className="button" disabled={isPending} onClick={() => choose({ dimensions: columns })}>
            {columns.length === 1 ? `Add dimension ${columns[0]}` : 'Add these dimensions'}
          </button>
        </div>
      ) : null}
    </section>
  );
}

/** Taking a posted import out of the ledger, asked once more. */
function Reverse({ isPending, reverse }: { readonly isPending: boolean; readonly reverse: () => void }) {
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <div>
        <button type="button" className="button" onClick={() => setAsked(true)}>
          Reverse import
        </button>
      </div>
    );
  return (
    <div role="alert" className="flex flex-wrap items-center gap-2 border-l-2 border-brick bg-sheet px-4 py-2">
      <span>Its entries will be removed from the ledger. The import stays on record.</span>
      <button type="button" className="button" disabled={isPending} onClick={reverse}>
        {isPending ? 'Reversing' : 'Reverse import'}
      </button>
      <button type="button" className="button" onClick={() => setAsked(false)}>
        Cancel
      </button>
    </div>
  );
}

const ROW = 42;

function Refused({ made }: { readonly made: ImportDto }) {
  return (
    <section aria-label="Rejected rows" className="flex min-h-60 flex-1 flex-col border border-brick bg-sheet">
      <div className="flex items-center gap-3 px-4 py-2">
        <div className="flex-1">
          <h2 className="font-serif text-lg font-semibold">{count(made.issueCount, 'error')}. Nothing was posted.</h2>
          <p className="text-[13px] text-ink-soft">
            {made.issues.length < made.issueCount
              ? `The first ${made.issues.length} are listed here; the download has all ${made.issueCount.toLocaleString('en-US')}.`
              : 'Fix the file and import it again.'}
          </p>
        </div>
        <a className="button" href={`/api/imports/${made.id}/issues.csv`} download>
          <Download size={15} aria-hidden="true" /> Download rejected rows
        </a>
      </div>
      <IssueList issues={made.issues} />
    </section>
  );
}

function IssueList({ issues }: { readonly issues: readonly ImportIssueDto[] }) {
  const scroller = useRef<HTMLDivElement>(null);
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({ count: issues.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 10 });
  const columns = 'grid grid-cols-[70px_56px_90px_180px_1fr] items-center gap-2 px-4';
  return (
    <>
      <div className={`${columns} border-y border-hairline py-1 text-[13px] font-semibold`}>
        <span>File</span>
        <span>Row</span>
        <span>Column</span>
        <span>Text</span>
        <span>Reason and fix</span>
      </div>
      <div ref={scroller} tabIndex={0} role="region" aria-label="Rows with errors" className="min-h-0 flex-1 overflow-y-auto">
        <ul className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const issue = issues[item.index]!;
            return (
              <li
                key={item.key}
                className={`${columns} absolute inset-x-0 border-b border-hairline text-[13px]`}
                style={{ height: ROW, top: item.start }}
              >
                <span>{issue.file}</span>
                <span className="tabular-nums">{issue.row === 0 ? 'file' : issue.row}</span>
                <span className="truncate">{issue.column}</span>
                <span className="truncate" title={issue.text}>
                  {issue.text === '' ? <em className="text-ink-soft">empty</em> : issue.text}
                </span>
                <span className="line-clamp-2 leading-4" title={`${issue.reason}. ${issue.fix}.`}>
                  {issue.reason}. <span className="text-ink-soft">{issue.fix}.</span>
                </span>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
