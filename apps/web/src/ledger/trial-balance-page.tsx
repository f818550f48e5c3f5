import { formatAmount, type Minor, TOTAL_RULE } from '@wise-margin/core';

import { useAsOf, useCompany } from '../data/company.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { DrillDownSteps, useDrillDownAddress } from '../drill-down/index.ts';
import { Amount } from '../ui/figure.tsx';
import { LongTable } from '../ui/long-table.tsx';
import { ruleClasses } from '../ui/rule-classes.ts';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useReturnFocus } from '../ui/use-return-focus.ts';
import { useTrialBalance } from './use-ledger.ts';

/** The trial balance at any month end; its months step with the same keys as a statement's. */
export default function TrialBalancePage() {
  const company = useCompany();
  const [asOf, setAsOf] = useAsOf();
  const address = useDrillDownAddress();
  const balance = useTrialBalance(company.id, asOf);
  const rows = balance.data?.rows ?? [];
  useMonthKeys();
  useKeys({ Escape: () => (address.isOpen ? address.back() : undefined) });
  useReturnFocus(address.isOpen, () => document.querySelector<HTMLElement>('[data-tab-stop]'));
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Imports tab to see its trial balance.</Empty>;
  if (balance.isError) return <Failure error={balance.error} retry={() => void balance.refetch()} />;
  if (!balance.data) return <Loading what="the trial balance" />;
  const { debits, credits } = balance.data;
  const yearStart = company.periods.find(({ key }) => key === asOf);
  const first = company.periods.find(({ year, number }) => year === yearStart?.year && number === 1)?.key ?? asOf;
  const exact = (value: number) => formatAmount(value as Minor, { exponent: company.exponent, unit: 'cents' });
  const figure = (value: number) => <Amount value={value} exponent={company.exponent} />;
  return (
    <>
      <div className="mb-2 flex items-center gap-4 text-[13px]">
        <label className="flex items-center gap-1.5">
          <span className="text-ink-soft">At the end of</span>
          <select className="field py-0.5 text-[13px]" value={asOf} onChange={(event) => setAsOf(event.target.value)}>
            {company.periods.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <span className="text-ink-soft">
          {company.currencyWords}; opening, year to date and month are debit positive.{' '}
          <strong className={debits === credits ? 'text-pine' : 'text-brick'}>
            {debits === credits ? 'Debits equal credits.' : 'Debits do not equal credits.'}
          </strong>
        </span>
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        <LongTable
          label="Trial balance"
          rows={rows}
          rowHeight={26}
          headings={
            <tr>
              <th scope="col" className="border-b border-ink px-3 py-1.5">
                Account
              </th>
              {['Opening', 'Year to date', 'Month', 'Debit', 'Credit'].map((name) => (
                <th key={name} scope="col" className="border-b border-ink px-2 text-right!">
                  {name}
                </th>
              ))}
            </tr>
          }
          row={(row, height) => (
            <tr key={row.number ?? 'rolled'} className="hover:bg-wash" style={{ height }}>
              <th scope="row" className="max-w-96 truncate px-3! font-normal!" title={row.name}>
                <span className="mr-0.5 text-ink-soft">{row.number}</span> {row.name}
              </th>
              <td className="figure text-ink-soft">{figure(row.opening)}</td>
              <td className="figure">
                {row.number === null ? (
                  figure(row.yearToDate)
                ) : (
                  <button
                    type="button"
                    aria-label={`${row.name}, year to date: ${exact(row.yearToDate)}`}
                    onClick={() =>
                      address.openAccount({ account: row.number!, from: first, to: asOf, filter: {}, opening: false, drafts: false })
                    }
                  >
                    {figure(row.yearToDate)}
                  </button>
                )}
              </td>
              <td className="figure">
                {row.number === null ? (
                  figure(row.month)
                ) : (
                  <button
                    type="button"
                    aria-label={`${row.name}, month: ${exact(row.month)}`}
                    onClick={() =>
                      address.openAccount({ account: row.number!, from: asOf, to: asOf, filter: {}, opening: false, drafts: false })
                    }
                  >
                    {figure(row.month)}
                  </button>
                )}
              </td>
              <td className="figure">{row.debit === null ? '' : figure(row.debit)}</td>
              <td className="figure">{row.credit === null ? '' : figure(row.credit)}</td>
            </tr>
          )}
          footer={
            <tr className={`${ruleClasses(TOTAL_RULE)} font-semibold`}>
              <th scope="row" className="px-3! py-1">
                Total
              </th>
              <td />
              <td />
              <td />
              <td className="figure">{figure(debits)}</td>
              <td className="figure">{figure(credits)}</td>
            </tr>
          }
        />
        {address.isOpen ? <DrillDownSteps address={address} /> : null}
      </div>
    </>
  );
}
