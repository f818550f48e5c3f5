import type { GridDto } from '@wise-margin/contract';
import { parseAccountList, parseTypedAmount, selectsNumber } from '@wise-margin/core';
import { useEffect, useState } from 'react';

import { useCompany } from '../data/company.ts';
import { Amount } from '../ui/figure.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';
import { SidePanel } from './side-panel.tsx';
import type { Questions } from './worksheet/worksheet-messages.ts';
import type { WorksheetSession } from './worksheet/worksheet-session.ts';

const TARGETS = [
  ['operating_income', 'Operating income'],
  ['net_income', 'Net income'],
  ['revenue', 'Revenue, net'],
  ['cost_of_sales', 'Cost of sales'],
  ['operating_expenses', 'Operating expenses'],
] as const;
const SHARES = [
  ['size', 'size'],
  ['even', 'evenly'],
  ['typed', 'custom weights'],
] as const;
const WEIGHT = /^\d{1,9}(\.\d{1,6})?$/;

/** A target from above: the gap to it, shared over chosen accounts by weight, to be taken or left. */
export function TargetPanel({
  session,
  grid,
  locked,
}: {
  readonly session: WorksheetSession;
  readonly grid: GridDto;
  readonly locked: boolean;
}) {
  const { exponent } = useCompany();
  const [line, setLine] = useState<(typeof TARGETS)[number][0]>('operating_income');
  const [text, setText] = useState('');
  const [list, setList] = useState('');
  const [by, setBy] = useState<(typeof SHARES)[number][0]>('size');
  /** weights typed, by account */
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [proposal, setProposal] = useState<Questions['target']['answer'] | null>(null);
  const target = parseTypedAmount(text, exponent);
  const parsed = parseAccountList(list);
  const year = grid.columns.findIndex(({ key }) => key === 'year.budget');
  const budgeted = grid.lines.flatMap(({ account, name }, index) => {
    const cell = grid.cells[index]![year];
    return account !== null && cell?.kind === 'amount' && cell.value !== 0 ? [{ account, name }] : [];
  });
  const chosen = parsed.ok ? budgeted.filter(({ account }) => selectsNumber(parsed.list, account)) : [];
  const weightText = (account: string) => typed[account] ?? '1';
  const badWeight = by === 'typed' ? chosen.find(({ account }) => !WEIGHT.test(weightText(account).trim())) : undefined;
  const weights = by === 'size' ? null : chosen.map(({ account }) => (by === 'even' ? 1 : Number(weightText(account))));
  const asked =
    target.ok && !badWeight
      ? JSON.stringify({ line, target: target.value, accounts: chosen.map(({ account }) => account), weights })
      : null;
  useEffect(() => {
    if (asked === null) return;
    let isLatest = true;
    void session.ask('target', JSON.parse(asked) as Questions['target']['asked']).then((answer) => {
      if (isLatest) setProposal(answer);
    });
    return () => {
      isLatest = false;
    };
  }, [asked, session]);
  const fault =
    text.trim() !== '' && !target.ok
      ? `“${text}” is not an amount. Enter one such as 650000.`
      : list.trim() !== '' && !parsed.ok
        ? `“${parsed.part}” is not an account. Enter accounts such as 6000-6999, 6410.`
        : list.trim() !== '' && chosen.length === 0
          ? 'The budget has no line in these accounts.'
          : badWeight
            ? `${badWeight.account}: “${weightText(badWeight.account)}” is not a weight. Enter a number such as 1 or 2.5.`
            : null;
  const name = (number: string) => budgeted.find(({ account }) => account === number)?.name ?? '';
  const shown = asked === null ? null : proposal;
  return (
    <SidePanel title="Target" words="The gap is allocated to the accounts you choose, in their monthly pattern.">
      <div className="mt-2 grid grid-cols-2 gap-x-2 gap-y-1">
        <SelectField label="Target for" value={line} options={TARGETS} set={setLine} />
        <TextField label="Annual amount" value={text} set={setText} />
        <TextField label="Allocate to accounts" placeholder="6000-6999" value={list} set={setList} />
        <SelectField label="Allocate by" value={by} options={SHARES} set={setBy} />
      </div>
      {fault ? (
        <p role="alert" className="mt-1 text-brick">
          {fault}
        </p>
      ) : null}
      {by === 'typed' && chosen.length > 0 ? (
        <div role="group" aria-label="Weights" className="mt-2 grid grid-cols-2 gap-x-2 gap-y-1">
          {chosen.map(({ account }) => (
            <TextField
              key={account}
              label={`Weight of ${account} ${name(account)}`}
              value={weightText(account)}
              set={(weight) => setTyped({ ...typed, [account]: weight })}
            />
          ))}
        </div>
      ) : null}
      {shown && fault === null ? (
        <>
          <p className="mt-2 flex justify-between font-semibold">
            <span>Gap</span>
            <Amount value={shown.gap} exponent={exponent} />
          </p>
          <table className="ledger-table mt-1 w-full" aria-label="Proposal">
            <thead>
              <tr className="text-ink-soft">
                <th scope="col">Account</th>
                <th scope="col" className="text-right!">
                  Current
                </th>
                <th scope="col" className="text-right!">
                  Proposed
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.shares.map(({ account, from, to }) => (
                <tr key={account}>
                  <th scope="row" className="max-w-40 truncate font-normal!" title={name(account)}>
                    {account} {name(account)}
                  </th>
                  <td className="figure text-ink-soft">
                    <Amount value={from} exponent={exponent} unit="dollars" />
                  </td>
                  <td className="figure">
                    <Amount value={to} exponent={exponent} unit="dollars" />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {locked || shown.edits.length === 0 ? null : (
            <div className="mt-2 flex items-center gap-3">
              <button
                type="button"
                className="button button-primary"
                onClick={() => {
                  session.apply([...shown.edits]);
                  setText('');
                  setProposal(null);
                }}
              >
                Apply
              </button>
              <button type="button" className="link" onClick={() => setText('')}>
                Cancel
              </button>
            </div>
          )}
        </>
      ) : null}
    </SidePanel>
  );
}
