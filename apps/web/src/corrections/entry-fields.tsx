import { formatAmount, type Minor } from '@wise-margin/core';
import { X } from 'lucide-react';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { dimensionName } from '../filters/index.ts';
import { AccountInput } from './account-input.tsx';
import { draftSides, emptyLine, type EntryDraft, type LineDraft } from './entry-draft.ts';

/** The lines of an entry as they are typed, with both sides added up. */
export function EntryFields({ draft, setDraft }: { readonly draft: EntryDraft; readonly setDraft: (draft: EntryDraft) => void }) {
  const { exponent, dimensions } = useCompany();
  const [next, setNext] = useState(draft.lines.length);
  const { debits, credits } = draftSides(draft, exponent);
  const setLine = (key: number, change: Partial<LineDraft>) =>
    setDraft({ ...draft, lines: draft.lines.map((line) => (line.key === key ? { ...line, ...change } : line)) });
  const exact = (amount: number) => formatAmount(amount as Minor, { exponent, unit: 'cents' });
  return (
    <>
      <table className="ledger-table mt-2 w-full">
        <thead>
          <tr>
            <th scope="col" className="px-1">
              Account
            </th>
            <th scope="col" className="px-2 text-right!">
              Debit
            </th>
            <th scope="col" className="px-2 text-right!">
              Credit
            </th>
            {dimensions.map(({ name }) => (
              <th key={name} scope="col" className="px-1">
                {dimensionName(name)}
              </th>
            ))}
            <th scope="col" className="px-1">
              Customer or vendor
            </th>
            <th scope="col" className="px-1">
              Document
            </th>
            <th scope="col" className="px-1">
              Memo
            </th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {draft.lines.map((line, place) => (
            <LineFields
              key={line.key}
              line={line}
              place={place}
              set={(change) => setLine(line.key, change)}
              remove={() => setDraft({ ...draft, lines: draft.lines.filter(({ key }) => key !== line.key) })}
            />
          ))}
        </tbody>
        <tfoot>
          <tr className="font-semibold">
            <th scope="row">
              <button
                type="button"
                className="link font-normal"
                onClick={() => {
                  setDraft({ ...draft, lines: [...draft.lines, emptyLine(next)] });
                  setNext(next + 1);
                }}
              >
                Add line
              </button>
            </th>
            <td className="figure">{exact(debits)}</td>
            <td className="figure">{exact(credits)}</td>
            <td colSpan={dimensions.length + 4} className="text-pine">
              {debits === credits && debits !== 0 ? 'Debits equal credits' : ''}
            </td>
          </tr>
        </tfoot>
      </table>
    </>
  );
}

function LineFields({
  line,
  place,
  set,
  remove,
}: {
  readonly line: LineDraft;
  readonly place: number;
  readonly set: (change: Partial<LineDraft>) => void;
  readonly remove: () => void;
}) {
  const { dimensions } = useCompany();
  const name = (field: string) => `${field}, line ${place + 1}`;
  const text = (field: 'memo' | 'party' | 'document', label: string) => (
    <td className="px-1!">
      <input
        className="field w-full min-w-24 py-0.5 text-[13px]"
        aria-label={name(label)}
        value={line[field]}
        onChange={(event) => set({ [field]: event.target.value })}
      />
    </td>
  );
  return (
    <tr>
      <td className="px-1!">
        <AccountInput
          className="field w-full min-w-36 py-0.5 text-[13px]"
          label={name('Account')}
          value={line.account}
          set={(account) => set({ account })}
        />
      </td>
      {(['debit', 'credit'] as const).map((side) => (
        <td key={side} className="px-1!">
          <input
            className="field w-28 py-0.5 text-right text-[13px] tabular-nums"
            inputMode="decimal"
            aria-label={name(side === 'debit' ? 'Debit' : 'Credit')}
            value={line[side]}
            onChange={(event) => set({ [side]: event.target.value })}
          />
        </td>
      ))}
      {dimensions.map(({ name: dimension, values }) => (
        <td key={dimension} className="px-1!">
          <select
            className="field w-full max-w-32 py-0.5 text-[13px]"
            aria-label={name(dimensionName(dimension))}
            value={line.dimensions[dimension] ?? ''}
            onChange={(event) => set({ dimensions: { ...line.dimensions, [dimension]: event.target.value } })}
          >
            {[...new Set(['', ...values])].map((value) => (
              <option key={value} value={value}>
                {value || 'None'}
              </option>
            ))}
          </select>
        </td>
      ))}
      {text('party', 'Customer or vendor')}
      {text('document', 'Document')}
      {text('memo', 'Memo')}
      <td className="px-1!">
        <button type="button" className="p-1 text-ink-soft hover:text-ink" aria-label={`Remove line ${place + 1}`} onClick={remove}>
          <X size={14} />
        </button>
      </td>
    </tr>
  );
}
