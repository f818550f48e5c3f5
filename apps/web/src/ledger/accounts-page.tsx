import type { AccountListDto, CompanyDto } from '@wise-margin/contract';
import { formatAmount, type Minor } from '@wise-margin/core';
import { useState } from 'react';

import { useAsOf, useCompany } from '../data/company.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { ColumnChoice } from '../ui/column-choice.tsx';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Sparkline } from '../ui/sparkline.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useListColumns } from '../ui/use-list-columns.ts';
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
  const [sort, setSort] = useState<ListSort>({ by: 'account', descending: false });
  const chosen = useListColumns('accounts', EXTRA);
  const openMonths = (account: string, from: string, to: string) =>
    address.openAccount({ account, from, to, filter: {}, opening: false, drafts: false });
  const columns = accountColumns({ company, periods: accounts.data?.periods ?? [], openMonths });
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
  const exact = (value: number) => formatAmount(value as Minor, { exponent: company.exponent, unit: 'cents' });
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
        <ColumnChoice columns={columns} chosen={chosen} />
        <ListExport name={`accounts-FY${year}`} columns={columns} rows={shown} />
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
          <List
            label="Accounts"
            rows={shown}
            rowKey={({ number }) => number}
            columns={columns}
            chosen={chosen}
            sort={{ now: sort, set: setSort, isOfServer: false }}
            open={{
              words: ({ number, name, total }) => `${number} ${name}, ${exact(total)}`,
              act:
                ({ number }) =>
                () =>
                  openMonths(number, accounts.data.periods[0]!, accounts.data.periods.at(-1)!),
            }}
            isMarked={({ number }) => number === address.state.account?.account}
          />
        )}
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}

type Row = AccountListDto['accounts'][number];
const EXTRA: readonly string[] = ['group'];

/** Account, class, the year as a line, opening balance, every month and their total; each month opens its entries. */
function accountColumns({
  company: { exponent, periods: known },
  periods,
  openMonths,
}: {
  readonly company: CompanyDto;
  readonly periods: readonly string[];
  readonly openMonths: (account: string, from: string, to: string) => void;
}): readonly ListColumn<Row>[] {
  const nameOf = (key: string) => known.find((period) => period.key === key)?.name.slice(0, 3) ?? key;
  const decimal = (amount: number | null) => (amount === null ? null : amount / 10 ** exponent);
  const figure = (amount: number) => <Amount value={amount} exponent={exponent} unit="dollars" />;
  return [
    {
      key: 'account',
      name: 'Account',
      value: ({ number, name }) => `${number} ${name}`,
      cell: ({ number, name, active }) => `${number} ${name}${active ? '' : ' (inactive)'}`,
      most: 260,
    },
    { key: 'class', name: 'Class', value: ({ className }) => className, cell: ({ className }) => className, most: 160 },
    { key: 'group', name: 'Group', value: ({ group }) => group, cell: ({ group }) => group ?? '', most: 160 },
    { key: 'year', name: 'Year', cell: ({ name, months }) => <Sparkline months={months} label={`${name} by month`} /> },
    {
      key: 'opening',
      name: 'Opening',
      isAmount: true,
      value: ({ opening }) => opening,
      file: ({ opening }) => decimal(opening),
      cell: ({ statement, opening }) => (statement === 'income' ? '' : figure(opening)),
    },
    ...periods.map((period, at): ListColumn<Row> => ({
      key: period,
      name: nameOf(period),
      isAmount: true,
      value: ({ months }) => months[at] ?? null,
      file: ({ months }) => decimal(months[at] ?? null),
      cell: ({ number, name, months }) =>
        months[at] === null || months[at] === undefined ? null : (
          <button
            type="button"
            tabIndex={-1}
            className="w-full text-right"
            aria-label={`${name}, ${period}: ${formatAmount(months[at] as Minor, { exponent, unit: 'cents' })}`}
            onClick={() => openMonths(number, period, period)}
          >
            {figure(months[at])}
          </button>
        ),
    })),
    {
      key: 'total',
      name: 'Total',
      isAmount: true,
      value: ({ total }) => total,
      file: ({ total }) => decimal(total),
      cell: ({ total }) => figure(total),
    },
    {
      key: 'lastPosting',
      name: 'Last posting',
      value: ({ lastPosting }) => lastPosting,
      cell: ({ lastPosting }) => dateWords(lastPosting) || 'never',
    },
  ];
}
