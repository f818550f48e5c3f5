import { useQuery } from '@tanstack/react-query';
import type { BudgetProposalDto } from '@wise-margin/contract';
import { effectOfLeavingOut, type FirstBasis, formatAmount, minor } from '@wise-margin/core';

import { getJson, queryText } from '../../api/client.ts';
import { useCompany } from '../../data/company.ts';

export type Candidate = BudgetProposalDto['candidates'][number];
/** The same candidate has the same key from one answer to the next. */
export const candidateKey = ({ account, period, entry }: Candidate): string => `${account} ${period} ${entry?.id ?? 'budget'}`;

/** What a new budget from a year would start with. */
export function useProposal(from: number, projected: boolean) {
  const { id } = useCompany();
  return useQuery({
    queryKey: ['budget-proposal', id, from, projected],
    enabled: Number.isFinite(from),
    queryFn: ({ signal }) =>
      getJson<BudgetProposalDto>(
        `/companies/${id}/budgets/proposal${queryText({ from: String(from), projected: String(projected) })}`,
        signal,
      ),
  });
}

/** Amounts that may not recur, each with a tick that leaves it out of the history the budget draws on. */
export function Candidates({
  candidates,
  excluded,
  toggle,
}: {
  readonly candidates: readonly Candidate[];
  readonly excluded: ReadonlySet<string>;
  readonly toggle: (key: string) => void;
}) {
  const { exponent, periods } = useCompany();
  const amount = (value: number) => formatAmount(minor(value), { exponent, unit: 'dollars' });
  const nameOf = (key: string) => periods.find((period) => period.key === key)?.name ?? key;
  const out = candidates.filter((each) => excluded.has(candidateKey(each)));
  const effect = effectOfLeavingOut(out.map(({ netIncome }) => netIncome));
  if (candidates.length === 0) return null;
  return (
    <fieldset className="mt-3">
      <legend className="text-[13px] font-semibold">Possible nonrecurring items: select those to exclude from the base</legend>
      <div className="mt-1 max-h-56 overflow-auto border border-hairline">
        <table className="ledger-table w-full text-[13px]">
          <tbody>
            {candidates.map((each) => {
              const key = candidateKey(each);
              const { account, name, period, entry, reason } = each;
              return (
                <tr key={key}>
                  <td className="w-8 text-center">
                    <input
                      type="checkbox"
                      className="accent-copper"
                      aria-label={`Exclude ${account} ${name}, ${nameOf(period)}, ${amount(each.amount)}`}
                      checked={excluded.has(key)}
                      onChange={() => toggle(key)}
                    />
                  </td>
                  <th scope="row" className="font-normal! whitespace-normal!">
                    {account} {name}
                    <span className="block text-ink-soft">
                      {entry === null ? 'From the budget' : `${entry.number}, ${entry.description}`}
                    </span>
                  </th>
                  <td className="whitespace-nowrap">{nameOf(period)}</td>
                  <td className="text-right tabular-nums">{amount(each.amount)}</td>
                  <td className="whitespace-normal! text-ink-soft">{reason}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p role="status" className="mt-1 text-[13px]">
        {out.length} of {candidates.length} excluded
        {effect === 0 ? '.' : `: net income in the base is ${amount(Math.abs(effect))} ${effect > 0 ? 'higher' : 'lower'}.`}
      </p>
    </fieldset>
  );
}

/** The method each account starts with where its own history decides, and why. */
export function Methods({
  methods,
  bases,
}: {
  readonly methods: BudgetProposalDto['methods'];
  readonly bases: Readonly<Record<string, string>>;
}) {
  const own = methods.filter(({ class: of }) => bases[of] === ('ownHistory' satisfies FirstBasis));
  if (own.length === 0) return null;
  return (
    <details className="mt-2 text-[13px]">
      <summary className="link cursor-pointer">Starting method of {own.length} accounts</summary>
      <div className="mt-1 max-h-64 overflow-auto border border-hairline">
        <table className="ledger-table w-full">
          <thead>
            <tr>
              <th scope="col">Account</th>
              <th scope="col">Method</th>
              <th scope="col">Reason</th>
            </tr>
          </thead>
          <tbody>
            {own.map(({ account, name, method, why }) => (
              <tr key={account}>
                <th scope="row" className="font-normal!">
                  {account} {name}
                </th>
                <td className="whitespace-normal!">{method}</td>
                <td className="whitespace-normal! text-ink-soft">{why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
