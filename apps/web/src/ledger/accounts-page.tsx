import { formatAmount, type Minor } from '@wise-margin/core';

import { useAsOf, useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Amount } from '../ui/figure.tsx';
import { LongTable } from '../ui/long-table.tsx';
import { Sparkline } from '../ui/sparkline.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useSearch } from '../ui/use-search.ts';
import { useAccounts } from './use-ledger.ts';

/** Accounts with their net change by month of a fiscal year. */
export default function AccountsPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const [search, setSearch] = useSearch();
  const address = useDrillDownAddress();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  const year = Number(search.get('year')) || company.periods.find(({ key }) => key === asOf)?.year || company.years.at(-1);
  const find = (search.get('find') ?? '').toLowerCase();
  const accounts = useAccounts(company.id, year);
  const shown = (accounts.data?.accounts ?? []).filter(
    ({ number, name, className, group }) => find === '' || `${number} ${name} ${className} ${group ?? ''}`.toLowerCase().includes(find),
  );
  const set = (name: string, value: string) =>
    setSearch(
      (before) => {
        if (value === '') before.delete(name);
        else before.set(name, value);
      },
      { replace: true },
    );
  if (company.accountCount === 0) return <Empty title="No accounts yet">Import an accounts file on the Imports tab.</Empty>;
  if (accounts.isError) return <Failure error={accounts.error} retry={() => void accounts.refetch()} />;
  if (!accounts.data || year === undefined) return <Loading what="the accounts" />;
  const periodName = (key: string) => company.periods.find((period) => period.key === key)?.name.slice(0, 3) ?? key;
  return (
    <>
      <div className="mb-2 flex items-center gap-4 text-[13px]">
        <label className="flex items-center gap-1.5">
          <span className="text-ink-soft">Fiscal year</span>
          <select className="field py-0.5 text-[13px]" value={year} onChange={(event) => set('year', event.target.value)}>
            {company.years.map((each) => (
              <option key={each} value={each}>
                FY{each}
              </option>
            ))}
          </select>
        </label>
        <input
          className="field w-64 py-0.5 text-[13px]"
          placeholder="Find by number, name, class or group"
          aria-label="Find accounts"
          value={search.get('find') ?? ''}
          onChange={(event) => set('find', event.target.value)}
        />
        <span className="text-ink-soft">
          {shown.length === accounts.data.accounts.length
            ? `${shown.length} accounts`
            : `${shown.length} of ${accounts.data.accounts.length} accounts`}
          ; net change by month, {company.currencyWords}; opening balance for balance-sheet accounts
        </span>
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        {shown.length === 0 ? (
          <p className="flex-1 border border-hairline bg-sheet p-4 text-ink-soft">
            No account matches “{search.get('find')}”. Try part of a number or a name.
          </p>
        ) : (
          <LongTable
            label="Accounts"
            rows={shown}
            rowHeight={28}
            headings={
              <tr>
                <th
                  scope="col"
                  className="sticky left-0 z-10 w-64 min-w-64 border-r border-b border-hairline border-b-ink bg-sheet px-3 py-1.5"
                >
                  Account
                </th>
                <th scope="col" className="border-b border-ink px-2">
                  Class
                </th>
                <th scope="col" className="border-b border-ink px-2">
                  Year
                </th>
                {['Opening', ...accounts.data.periods.map(periodName), 'Total'].map((name) => (
                  <th key={name} scope="col" className="border-b border-ink px-2 text-right!">
                    {name}
                  </th>
                ))}
                <th scope="col" className="border-b border-ink px-2">
                  Last posting
                </th>
              </tr>
            }
            row={(account, height) => (
              <tr key={account.number} className="group hover:bg-wash" style={{ height }}>
                <th
                  scope="row"
                  className="sticky left-0 z-10 max-w-64 truncate border-r border-hairline bg-sheet px-3! font-normal! group-hover:bg-wash"
                  title={account.name}
                >
                  <span className="mr-0.5 text-ink-soft">{account.number}</span> {account.name}
                  {account.active ? '' : ' (inactive)'}
                </th>
                <td className="max-w-40 truncate text-ink-soft">{account.className}</td>
                <td>
                  <Sparkline months={account.months} label={`${account.name} by month`} />
                </td>
                <td className="figure text-ink-soft">
                  {account.statement === 'income' ? '' : <Amount value={account.opening} exponent={company.exponent} unit="dollars" />}
                </td>
                {account.months.map((amount, month) => {
                  const period = accounts.data.periods[month]!;
                  return (
                    <td key={period} className="figure">
                      {amount === null ? null : (
                        <button
                          type="button"
                          className="w-full text-right"
                          aria-label={`${account.name}, ${period}: ${formatAmount(amount as Minor, { exponent: company.exponent, unit: 'cents' })}`}
                          onClick={() =>
                            address.openAccount({
                              account: account.number,
                              from: period,
                              to: period,
                              filter: {},
                              opening: false,
                              drafts: false,
                            })
                          }
                        >
                          <Amount value={amount} exponent={company.exponent} unit="dollars" />
                        </button>
                      )}
                    </td>
                  );
                })}
                <td className="figure font-semibold">
                  <Amount value={account.total} exponent={company.exponent} unit="dollars" />
                </td>
                <td className="text-ink-soft">{account.lastPosting ?? 'never'}</td>
              </tr>
            )}
          />
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}
