import type { ClearingDto, ReconciliationDto } from '@wise-margin/contract';
import { dayWords } from '@wise-margin/presentation';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import type { useReconciliationActs } from './use-reconciliation.ts';

type Acts = ReturnType<typeof useReconciliationActs>;
const KINDS = { matched: 'Matched', adjustment: 'Posted from the statement', difference: 'Forced' } as const;

/** What was cleared, the latest first; forced differences and those that no longer add up stand before the others. */
export function ClearedList({
  of,
  acts,
  openEntry,
}: {
  readonly of: ReconciliationDto;
  readonly acts: Acts;
  readonly openEntry: (entry: number) => void;
}) {
  if (of.cleared.length === 0) return <p className="py-3 text-[14px] text-ink-soft">Nothing is cleared yet.</p>;
  const needsLook = ({ isBroken, kind, explanation }: ClearingDto) => isBroken || (kind === 'difference' && explanation === '');
  const ordered = [...of.cleared.filter(needsLook), ...of.cleared.filter((each) => !needsLook(each))];
  return (
    <>
      {of.clearedCount > of.cleared.length ? (
        <p className="py-1 text-[13px] text-ink-soft">
          The latest {of.cleared.length.toLocaleString('en-US')} of {of.clearedCount.toLocaleString('en-US')}.
        </p>
      ) : null}
      <table className="ledger-table w-full table-fixed text-[13px]" aria-label="Cleared">
        <thead>
          <tr className="text-[12.5px]">
            <th scope="col" className="w-24">
              Date
            </th>
            <th scope="col" className="w-[28%]">
              On the statement
            </th>
            <th scope="col">In the ledger</th>
            <th scope="col" className="w-28 text-right!">
              Amount
            </th>
            <th scope="col" className="w-[24%] pl-4!">
              How
            </th>
          </tr>
        </thead>
        <tbody>
          {ordered.map((clearing) => (
            <Row key={clearing.id} clearing={clearing} acts={acts} openEntry={openEntry} />
          ))}
        </tbody>
      </table>
    </>
  );
}

function Row({
  clearing,
  acts,
  openEntry,
}: {
  readonly clearing: ClearingDto;
  readonly acts: Acts;
  readonly openEntry: (entry: number) => void;
}) {
  const { exponent } = useCompany();
  const { id, kind, date, bank, ledger, amount, person, isBroken } = clearing;
  const cell = 'border-b border-hairline align-top whitespace-normal!';
  return (
    <tr className="hover:bg-wash">
      <td className={cell}>{dayWords(date)}</td>
      <td className={cell}>{bank.map(({ text }) => text).join('; ')}</td>
      <td className={cell}>
        {ledger.map(({ id: line, entryId, entry }, at) => (
          <span key={line}>
            {at > 0 ? ', ' : ''}
            <button type="button" className="link" onClick={() => openEntry(entryId)}>
              {entry}
            </button>
          </span>
        ))}
        {isBroken ? (
          <span className="block text-brick">No longer adds up: a line was corrected or removed. Take it back and match again.</span>
        ) : null}
      </td>
      <td className="figure border-b border-hairline align-top">
        <Amount value={amount} exponent={exponent} />
      </td>
      <td className={`${cell} pl-4!`}>
        <span className="flex items-start justify-between gap-2">
          <span>
            {KINDS[kind]}
            {kind === 'difference' ? (
              <>
                {', '}
                <Amount value={clearing.difference} exponent={exponent} />: {clearing.reason}
              </>
            ) : null}
            <span className="block text-ink-soft">{person}</span>
          </span>
          <button
            type="button"
            className="link shrink-0"
            disabled={acts.isPending}
            aria-label={`Undo ${bank[0]?.text ?? ''}`}
            onClick={() => acts.mutate({ kind: 'unclear', clearing: id })}
          >
            Undo
          </button>
        </span>
        {kind === 'difference' ? <Explanation clearing={clearing} acts={acts} /> : null}
      </td>
    </tr>
  );
}

function Explanation({ clearing: { id, explanation }, acts }: { readonly clearing: ClearingDto; readonly acts: Acts }) {
  const [text, setText] = useState(explanation);
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        acts.mutate({ kind: 'explain', clearing: id, explanation: text });
      }}
    >
      <input
        className="field min-w-0 flex-1 py-0.5 text-[13px]"
        aria-label="What it was"
        placeholder="What it was"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button type="submit" className="link" disabled={acts.isPending || text.trim() === explanation}>
        Explain
      </button>
    </form>
  );
}
