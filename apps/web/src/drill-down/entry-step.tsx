import type { EntryDto } from '@wise-margin/contract';
import { TOTAL_RULE } from '@wise-margin/core';
import { useState } from 'react';
import { Link } from 'react-router';

import { CorrectionDialog, DraftActions, EntryHistory, ReversalDialog } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import type { useEntry } from '../data/use-entry.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { ruleClasses } from '../ui/rule-classes.ts';
import { Failure, Loading } from '../ui/states.tsx';

const KINDS: Readonly<Record<string, string>> = {
  ordinary: 'Standard',
  closing: 'Closing',
  adjustment: 'Adjustment',
  reclassification: 'Reclassification',
};
const STATES: Readonly<Record<string, string>> = { draft: 'Draft, not included', discarded: 'Discarded', posted: 'Posted' };
const RELATED: Readonly<Record<EntryDto['related'][number]['how'], string>> = {
  corrects: 'Corrects',
  correctedBy: 'Corrected by',
  reverses: 'Reverses',
  reversedBy: 'Reversed by',
};

/** An entry as a slip with its two sides. */
export function EntryStep({
  entry,
  exponent,
  account,
  openEntry,
}: {
  readonly entry: ReturnType<typeof useEntry>;
  readonly exponent: number;
  readonly account: string | null;
  readonly openEntry: (entry: number) => void;
}) {
  const company = useCompany();
  const [isCorrecting, setCorrecting] = useState(false);
  const [isReversing, setReversing] = useState(false);
  if (entry.isError) return <Failure error={entry.error} retry={() => void entry.refetch()} />;
  const slip = entry.data;
  if (!slip) return <Loading what="the entry" />;
  const facts = [
    ['Date', dateWords(slip.date)],
    ['Period', slip.period],
    ['Source', slip.source || 'None'],
    ['Type', KINDS[slip.kind] ?? slip.kind],
    ['Status', STATES[slip.state] ?? slip.state],
    [
      'Origin',
      slip.importId === null ? (
        'Manual entry'
      ) : (
        <Link
          key="import"
          className="link"
          to={`/c/${company.id}/ledger/imports/${slip.importId}`}
        >{`Import ${slip.importId}, ${dateWords(slip.importedAt)}`}</Link>
      ),
    ],
    ...slip.related.map(
      ({ id, number, how }) =>
        [
          RELATED[how],
          <button key={id} type="button" className="link" onClick={() => openEntry(id)}>
            {number}
          </button>,
        ] as const,
    ),
  ] as const;
  return (
    <>
      <dl className="grid grid-cols-[90px_1fr] text-[13px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <table className="ledger-table mt-3 w-full">
        <thead>
          <tr>
            <th scope="col" className="border-b border-ink">
              Account
            </th>
            <th scope="col" className="border-b border-ink text-right!">
              Debit
            </th>
            <th scope="col" className="border-b border-ink text-right!">
              Credit
            </th>
          </tr>
        </thead>
        <tbody>
          {slip.lines.map((line, index) => (
            <tr key={index} className={line.account === account ? 'bg-wash' : ''}>
              <td className="border-b border-hairline py-0.5 whitespace-normal!">
                {line.account} {line.accountName}
                <div className="text-[12px] text-ink-soft">
                  {[line.party, line.document, line.memo, ...Object.values(line.dimensions), line.due ? `due ${dateWords(line.due)}` : '']
                    .filter(Boolean)
                    .join(' · ')}
                </div>
              </td>
              <td className="figure border-b border-hairline align-top">
                {line.debit === null ? '' : <Amount value={line.debit} exponent={exponent} />}
              </td>
              <td className="figure border-b border-hairline align-top">
                {line.credit === null ? '' : <Amount value={line.credit} exponent={exponent} />}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className={`${ruleClasses(TOTAL_RULE)} font-semibold`}>
            <th scope="row">Total</th>
            <td className="figure">
              <Amount value={slip.debits} exponent={exponent} />
            </td>
            <td className="figure">
              <Amount value={slip.credits} exponent={exponent} />
            </td>
          </tr>
        </tfoot>
      </table>
      {slip.state === 'draft' ? (
        <DraftActions entry={slip} edit={() => setCorrecting(true)} />
      ) : slip.state === 'posted' ? (
        <div className="mt-3 flex gap-2">
          <button type="button" className="button" onClick={() => setCorrecting(true)}>
            Correct
          </button>
          {slip.related.some(({ how }) => how === 'reversedBy') ? null : (
            <button type="button" className="button" onClick={() => setReversing(true)}>
              Void or reverse
            </button>
          )}
        </div>
      ) : null}
      <EntryHistory entry={slip.id} />
      {isReversing ? <ReversalDialog entry={slip.id} close={() => setReversing(false)} /> : null}
      {isCorrecting ? <CorrectionDialog entry={slip} close={() => setCorrecting(false)} /> : null}
    </>
  );
}
