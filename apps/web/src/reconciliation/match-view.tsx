import type { BankLineDto, CashLineDto, MatchProposalDto, ReconciliationDto } from '@wise-margin/contract';
import { dayWords } from '@wise-margin/presentation';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { bankWords, cashWords } from './line-words.ts';
import { MatchActions } from './match-actions.tsx';
import type { useReconciliationActs } from './use-reconciliation.ts';

type Acts = ReturnType<typeof useReconciliationActs>;
const NONE: ReadonlySet<number> = new Set();

/** Lines of the statement that are not cleared: those with a proposal, to accept, and the others beside the ledger's, to select. */
export function MatchView({
  of,
  acts,
  openEntry,
}: {
  readonly of: ReconciliationDto;
  readonly acts: Acts;
  readonly openEntry: (entry: number) => void;
}) {
  const [selected, setSelected] = useState<{ readonly bank: ReadonlySet<number>; readonly ledger: ReadonlySet<number> }>({
    bank: NONE,
    ledger: NONE,
  });
  const bankOf = new Map(of.bank.map((line) => [line.id, line]));
  const ledgerOf = new Map(of.ledger.map((line) => [line.id, line]));
  const proposed = {
    bank: new Set(of.proposals.flatMap(({ bank }) => bank)),
    ledger: new Set(of.proposals.flatMap(({ ledger }) => ledger)),
  };
  const bank = of.bank.filter(({ id }) => !proposed.bank.has(id));
  const ledger = of.ledger.filter(
    ({ id, isBefore, isMarked }) => !proposed.ledger.has(id) && (!isBefore || isMarked || (of.figures?.difference ?? 0) !== 0),
  );
  const sure = of.proposals.filter(({ isSure }) => isSure);
  const accept = (proposals: readonly MatchProposalDto[]) =>
    acts.mutate({ kind: 'clear', clearings: proposals.map(({ bank: b, ledger: l }) => ({ bank: b, ledger: l })) });
  const toggle = (side: 'bank' | 'ledger', id: number) =>
    setSelected((before) => {
      const next = new Set(before[side]);
      if (!next.delete(id)) next.add(id);
      return { ...before, [side]: next };
    });
  if (of.bank.length === 0 && ledger.length === 0)
    return <p className="py-3 text-[14px] text-ink-soft">Every line of the statements is cleared, and none of the ledger is left over.</p>;
  return (
    <>
      {of.proposals.length > 0 ? (
        <section aria-label="Proposals">
          <div className="sticky top-0 z-10 flex flex-wrap items-center gap-3 bg-sheet py-1.5 text-[13px]">
            <span role="status" className="text-ink-soft">
              {of.proposals.length.toLocaleString('en-US')} proposals, {sure.length.toLocaleString('en-US')} of them by reference, name or
              words
            </span>
            {sure.length > 0 ? (
              <button
                type="button"
                className="button button-primary min-h-7 py-0.5 text-[13px]"
                disabled={acts.isPending}
                onClick={() => accept(sure)}
              >
                Accept these {sure.length.toLocaleString('en-US')}
              </button>
            ) : null}
            <button
              type="button"
              className="button min-h-7 py-0.5 text-[13px]"
              disabled={acts.isPending}
              onClick={() => accept(of.proposals)}
            >
              Accept all {of.proposals.length.toLocaleString('en-US')}
            </button>
          </div>
          <table className="ledger-table w-full table-fixed text-[13px]" aria-label="Proposals">
            <thead>
              <tr className="text-[12.5px]">
                <th scope="col" className="w-[27%]">
                  On the statement
                </th>
                <th scope="col" className="w-[34%]">
                  In the ledger
                </th>
                <th scope="col" className="w-[12%] text-right!">
                  Amount
                </th>
                <th scope="col" className="pl-4!">
                  Why
                </th>
              </tr>
            </thead>
            <tbody>
              {[...of.proposals]
                .sort((a, b) => Number(a.isSure) - Number(b.isSure))
                .map((proposal) => (
                  <ProposalRow
                    key={proposal.bank.join()}
                    proposal={proposal}
                    bank={proposal.bank.map((id) => bankOf.get(id)!)}
                    ledger={proposal.ledger.flatMap((id) => ledgerOf.get(id) ?? [])}
                    accept={() => accept([proposal])}
                    openEntry={openEntry}
                    isPending={acts.isPending}
                  />
                ))}
            </tbody>
          </table>
        </section>
      ) : null}
      <section aria-label="Without a proposal" className="mt-3">
        <h3 className="text-[14px] font-semibold">{of.proposals.length > 0 ? 'Without a proposal' : 'Not matched'}</h3>
        <p className="text-[13px] text-ink-soft">
          Select lines of both sides that are the same money; or a line of the statement alone, to post it.
        </p>
        {of.near.map(({ bank: b, words }) => (
          <p key={b} className="border-l-2 border-copper pl-2 text-[13px]">
            {bankOf.get(b)?.text}: {words}. Correct the entry if the bank is right.
          </p>
        ))}
        <div className="mt-1 grid grid-cols-2 gap-4 narrow:grid-cols-1">
          <LineChoice
            title={`On the statement (${bank.length.toLocaleString('en-US')})`}
            lines={bank.map((line) => ({ id: line.id, date: line.date, amount: line.amount, words: bankWords(line), entry: null }))}
            selected={selected.bank}
            toggle={(id) => toggle('bank', id)}
            openEntry={openEntry}
          />
          <LineChoice
            title={`In the ledger (${ledger.length.toLocaleString('en-US')}${of.ledgerCount > of.ledger.length ? `; the latest ${of.ledger.length.toLocaleString('en-US')} of ${of.ledgerCount.toLocaleString('en-US')} are looked through` : ''})`}
            lines={ledger.map((line) => ({
              id: line.id,
              date: line.date,
              amount: line.amount,
              words: `${cashWords(line)}${line.isMarked ? ', outstanding before the first statement' : line.isBefore ? ', before the first statement' : ''}`,
              entry: { id: line.entryId, number: line.entry },
            }))}
            selected={selected.ledger}
            toggle={(id) => toggle('ledger', id)}
            openEntry={openEntry}
          />
        </div>
      </section>
      <MatchActions
        bank={bank.filter(({ id }) => selected.bank.has(id))}
        ledger={ledger.filter(({ id }) => selected.ledger.has(id))}
        differenceAccount={of.differenceAccount}
        acts={acts}
        clear={() => setSelected({ bank: NONE, ledger: NONE })}
      />
    </>
  );
}

function ProposalRow({
  proposal,
  bank,
  ledger,
  accept,
  openEntry,
  isPending,
}: {
  readonly proposal: MatchProposalDto;
  readonly bank: readonly BankLineDto[];
  readonly ledger: readonly CashLineDto[];
  readonly accept: () => void;
  readonly openEntry: (entry: number) => void;
  readonly isPending: boolean;
}) {
  const { exponent } = useCompany();
  const amount = bank.reduce((sum, line) => sum + line.amount, 0);
  const cell = 'border-b border-hairline align-top whitespace-normal!';
  return (
    <tr className="hover:bg-wash">
      <td className={cell}>
        {bank.map((line) => (
          <span key={line.id} className="block">
            <span className="text-ink-soft">{dayWords(line.date).slice(0, -6)}</span> {bankWords(line)}
            {bank.length > 1 ? (
              <>
                {' '}
                <Amount value={line.amount} exponent={exponent} />
              </>
            ) : null}
          </span>
        ))}
      </td>
      <td className={cell}>
        {ledger.map((line) => (
          <span key={line.id} className="block">
            <span className="text-ink-soft">{dayWords(line.date).slice(0, -6)}</span>{' '}
            <button type="button" className="link" onClick={() => openEntry(line.entryId)}>
              {line.entry}
            </button>{' '}
            {cashWords(line)}
            {ledger.length > 1 ? (
              <>
                {' '}
                <Amount value={line.amount} exponent={exponent} />
              </>
            ) : null}
          </span>
        ))}
      </td>
      <td className="figure border-b border-hairline align-top">
        <Amount value={amount} exponent={exponent} />
      </td>
      <td className={`${cell} pl-4!`}>
        <span className="flex items-start justify-between gap-2">
          <span className={proposal.isSure ? '' : 'text-ink-soft'}>{proposal.words}</span>
          <button
            type="button"
            className="link shrink-0"
            disabled={isPending}
            onClick={accept}
            aria-label={`Accept ${bank[0]?.text ?? ''}`}
          >
            Accept
          </button>
        </span>
      </td>
    </tr>
  );
}

type ChosenLine = {
  readonly id: number;
  readonly date: string;
  readonly amount: number;
  readonly words: string;
  readonly entry: { readonly id: number; readonly number: string } | null;
};

function LineChoice({
  title,
  lines,
  selected,
  toggle,
  openEntry,
}: {
  readonly title: string;
  readonly lines: readonly ChosenLine[];
  readonly selected: ReadonlySet<number>;
  readonly toggle: (id: number) => void;
  readonly openEntry: (entry: number) => void;
}) {
  const { exponent } = useCompany();
  return (
    <div className="min-w-0">
      <h4 className="border-b border-ink-soft text-[13px] font-semibold">{title}</h4>
      {lines.length === 0 ? <p className="py-1 text-[13px] text-ink-soft">None.</p> : null}
      <ul>
        {lines.map(({ id, date, amount, words, entry }) => (
          <li
            key={id}
            className={`flex items-baseline gap-2 border-b border-hairline py-0.5 text-[13px] ${selected.has(id) ? 'bg-wash' : ''}`}
          >
            <label className="flex min-w-0 flex-1 items-baseline gap-2">
              <input type="checkbox" className="translate-y-0.5" checked={selected.has(id)} onChange={() => toggle(id)} />
              <span className="shrink-0 text-ink-soft">{dayWords(date).slice(0, -6)}</span>
              <span className="min-w-0 flex-1">{words}</span>
            </label>
            {entry ? (
              <button type="button" className="link shrink-0" onClick={() => openEntry(entry.id)}>
                {entry.number}
              </button>
            ) : null}
            <span className="figure w-24 shrink-0 text-right">
              <Amount value={amount} exponent={exponent} />
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
