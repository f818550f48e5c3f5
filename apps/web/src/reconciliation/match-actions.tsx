import type { BankLineDto, CashLineDto } from '@wise-margin/contract';
import { type ReactNode, useState } from 'react';

import { AccountInput } from '../corrections/index.ts';
import { useCompany } from '../data/company.ts';
import { dimensionName } from '../filters/index.ts';
import { Amount } from '../ui/figure.tsx';
import type { useReconciliationActs } from './use-reconciliation.ts';

const sumOf = (lines: readonly { readonly amount: number }[]): number => lines.reduce((sum, { amount }) => sum + amount, 0);

/** What can be done with the lines selected; nothing while none is. */
export function MatchActions({
  bank,
  ledger,
  differenceAccount,
  acts,
  clear,
}: {
  readonly bank: readonly BankLineDto[];
  readonly ledger: readonly CashLineDto[];
  readonly differenceAccount: string | null;
  readonly acts: ReturnType<typeof useReconciliationActs>;
  readonly clear: () => void;
}) {
  const { exponent } = useCompany();
  if (bank.length + ledger.length === 0) return null;
  const difference = sumOf(bank) - sumOf(ledger);
  const ids = { bank: bank.map(({ id }) => id), ledger: ledger.map(({ id }) => id) };
  const [first] = bank;
  const early = ledger.filter(({ isBefore }) => isBefore);
  const hasBoth = bank.length > 0 && ledger.length > 0;
  return (
    <section
      aria-label="Selected lines"
      className="sticky bottom-0 mt-2 flex flex-wrap items-end gap-x-5 gap-y-2 border-t-2 border-ink bg-sheet py-2 text-[13px]"
    >
      <Sum name="On the statement" value={sumOf(bank)} exponent={exponent} />
      <Sum name="In the ledger" value={sumOf(ledger)} exponent={exponent} />
      <Sum name="Difference" value={difference} exponent={exponent} />
      {hasBoth && difference === 0 ? (
        <button
          type="button"
          className="button button-primary"
          disabled={acts.isPending}
          onClick={() => acts.mutate({ kind: 'clear', clearings: [ids] })}
        >
          Match
        </button>
      ) : null}
      {hasBoth && difference !== 0 ? (
        <ForceForm
          account={differenceAccount}
          act={(reason) => acts.mutate({ kind: 'force', ...ids, reason })}
          isPending={acts.isPending}
        />
      ) : null}
      {first && bank.length === 1 && ledger.length === 0 ? (
        <PostForm
          key={first.id}
          line={first}
          act={(post) => acts.mutate({ kind: 'post', bankLine: first.id, ...post })}
          isPending={acts.isPending}
        />
      ) : null}
      {bank.length === 0 && early.length === 1 && ledger.length === 1 ? (
        <button
          type="button"
          className="button"
          disabled={acts.isPending}
          onClick={() => acts.mutate({ kind: 'mark', line: early[0]!.id, isOutstanding: !early[0]!.isMarked })}
        >
          {early[0]!.isMarked ? 'No longer outstanding' : 'Mark as outstanding before the first statement'}
        </button>
      ) : null}
      <button type="button" className="link ml-auto" onClick={clear}>
        Clear selection
      </button>
    </section>
  );
}

function Sum({ name, value, exponent }: { readonly name: string; readonly value: number; readonly exponent: number }) {
  return (
    <span>
      <span className="block text-ink-soft">{name}</span>
      <strong className="tabular-nums">
        <Amount value={value} exponent={exponent} />
      </strong>
    </span>
  );
}

/** The other side of an entry for a line of the statement that the ledger lacks. */
function PostForm({
  line,
  act,
  isPending,
}: {
  readonly line: BankLineDto;
  readonly act: (post: { readonly to: string; readonly memo: string; readonly dimensions: Record<string, string> }) => void;
  readonly isPending: boolean;
}) {
  const { dimensions } = useCompany();
  const [account, setAccount] = useState(line.suggested ?? '');
  const [memo, setMemo] = useState(line.text);
  const [values, setValues] = useState<Readonly<Record<string, string>>>({});
  const to = account.trim().split(/\s/)[0]!;
  const chosen = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ''));
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        act({ to, memo, dimensions: chosen });
      }}
    >
      <Labeled name="Post to account">
        <AccountInput className="field w-28 py-0.5 text-[13px]" value={account} set={setAccount} />
      </Labeled>
      <Labeled name="Memo">
        <input className="field w-52 py-0.5 text-[13px]" value={memo} onChange={(event) => setMemo(event.target.value)} />
      </Labeled>
      {dimensions.map(({ name, values: known }) => (
        <Labeled key={name} name={dimensionName(name)}>
          <select
            className="field max-w-28 py-0.5 text-[13px]"
            value={values[name] ?? ''}
            onChange={(event) => setValues({ ...values, [name]: event.target.value })}
          >
            <option value="">None</option>
            {known.filter(Boolean).map((value) => (
              <option key={value}>{value}</option>
            ))}
          </select>
        </Labeled>
      ))}
      <button type="submit" className="button button-primary" disabled={isPending || to === ''}>
        Post entry
      </button>
    </form>
  );
}

/** Lines that do not add up, cleared all the same; the difference stays in view on its account. */
function ForceForm({
  account,
  act,
  isPending,
}: {
  readonly account: string | null;
  readonly act: (reason: string) => void;
  readonly isPending: boolean;
}) {
  const [reason, setReason] = useState('');
  if (account === null)
    return (
      <span className="max-w-80 text-brick">No account is kept for differences. Add one whose name has “Reconciliation differences”.</span>
    );
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        act(reason);
      }}
    >
      <Labeled name="Why they may differ">
        <input className="field w-56 py-0.5 text-[13px]" value={reason} onChange={(event) => setReason(event.target.value)} />
      </Labeled>
      <button type="submit" className="button" disabled={isPending || reason.trim().length < 3}>
        Clear, difference to {account}
      </button>
    </form>
  );
}

function Labeled({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <label>
      <span className="block text-ink-soft">{name}</span>
      {children}
    </label>
  );
}
