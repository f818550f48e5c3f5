import { type SuspectDto } from '@wise-margin/contract';
import { postingAnswerWords } from '@wise-margin/presentation';
import { X } from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';

import { ReversalDialog } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { useAnswerPosting } from './use-postings.ts';

/** Why a posting deserves a look, with the parts of its score, and its answer. */
export function PostingPanel({
  suspect,
  close,
  openEntry,
}: {
  readonly suspect: SuspectDto;
  readonly close: () => void;
  readonly openEntry: (entry: number) => void;
}) {
  const company = useCompany();
  const answer = useAnswerPosting(company.id);
  const { entry, account, accountName, party, period, amount, reasons, score } = suspect;
  const [reason, setReason] = useState(suspect.answer?.reason ?? '');
  const [learns, setLearns] = useState(false);
  const [isReversing, setReversing] = useState(false);
  const id = useId();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  const give = (what: 'fine' | 'needsCorrection' | 'corrected') =>
    answer.mutate({ posting: suspect.posting, answer: what, reason, learns: what === 'fine' && learns }, { onSuccess: close });
  return (
    <aside
      aria-label="Reasons"
      className="ml-3 flex w-[min(440px,34vw)] shrink-0 flex-col gap-2 overflow-y-auto border border-hairline bg-sheet px-4 py-3 narrow:fixed narrow:inset-x-0 narrow:bottom-12 narrow:z-40 narrow:ml-0 narrow:h-[55dvh] narrow:w-full narrow:border-t-2 narrow:border-t-copper"
    >
      <div className="flex items-start gap-2">
        <h2 ref={heading} tabIndex={-1} className="min-w-0 flex-1 font-serif text-[19px] leading-6 font-semibold outline-none">
          {entry ? entry.number : `${account} in ${period}`}
        </h2>
        <button type="button" aria-label="Close" title="Close (Esc)" onClick={close} className="p-1 text-ink-soft hover:text-ink">
          <X size={16} />
        </button>
      </div>
      <p className="text-[14px]">
        {account} {accountName}
        {party === '' ? '' : `, ${party}`}, <Amount value={amount} exponent={company.exponent} />{' '}
        {entry ? (
          <button type="button" className="link" onClick={() => openEntry(entry.id)}>
            Open entry
          </button>
        ) : null}
      </p>
      <table className="ledger-table w-full" aria-label="Reasons and their scores">
        <tbody>
          {reasons.map(({ kind, words, score: part }) => (
            <tr key={kind}>
              <td className="border-b border-hairline whitespace-normal!">{words}</td>
              <td className="figure border-b border-hairline align-top">{part.toFixed(0)}</td>
            </tr>
          ))}
          <tr className="font-semibold">
            <td className="whitespace-normal!">
              Score: their sum, times {suspect.weight.toFixed(2)} for the size of the amount and its age
            </td>
            <td className="figure">{score.toFixed(0)}</td>
          </tr>
        </tbody>
      </table>
      {suspect.answer ? (
        <p className="text-[13px] text-ink-soft">
          {postingAnswerWords(suspect.answer.answer)}, {suspect.answer.person}: {suspect.answer.reason || 'no reason given'}
        </p>
      ) : null}
      <label htmlFor={id} className="text-[13px] text-ink-soft">
        Reason
      </label>
      <textarea id={id} className="field w-full text-[13px]" rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
      <CheckField label="Do not ask again for this account and customer or vendor" checked={learns} set={setLearns} />
      {answer.isError ? (
        <p role="alert" className="text-[13px] text-brick">
          {answer.error.message}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" disabled={answer.isPending} onClick={() => give('fine')}>
          No action needed
        </button>
        <button type="button" className="button" disabled={answer.isPending} onClick={() => give('needsCorrection')}>
          Needs correction
        </button>
        <button type="button" className="button" disabled={answer.isPending} onClick={() => give('corrected')}>
          Corrected
        </button>
        {entry ? (
          <button type="button" className="button" onClick={() => setReversing(true)}>
            Void entry
          </button>
        ) : null}
      </div>
      {isReversing && entry ? (
        <ReversalDialog
          entry={entry.id}
          close={() => setReversing(false)}
          done={() =>
            answer.mutate(
              { posting: suspect.posting, answer: 'corrected', reason: reason || 'Voided', learns: false },
              { onSuccess: close },
            )
          }
        />
      ) : null}
    </aside>
  );
}
