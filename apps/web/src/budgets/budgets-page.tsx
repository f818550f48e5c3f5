import { STATE_WORDS } from '@wise-margin/presentation';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { useBudgets } from '../data/use-statement.ts';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { NewBudgetForm } from './new-budget/new-budget-form.tsx';

/** A list of fewer budgets says what comes next. */
const FEW = 8;

/** Every budget of the company, and the form that makes one. */
export default function BudgetsPage() {
  const company = useCompany();
  const budgets = useBudgets(company.id);
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const hasHistory = company.lastPosted !== null;
  const begin = (
    <button type="button" className="button button-primary" onClick={() => setMaking(true)}>
      New budget
    </button>
  );
  const body = () => {
    if (budgets.isError) return <Failure error={budgets.error} retry={() => void budgets.refetch()} />;
    if (!budgets.data) return <Loading what="the budgets" />;
    if (!hasHistory) {
      return (
        <Empty
          title="A budget starts from history"
          action={
            <Link className="button button-primary" to={`/c/${company.id}/ledger/imports/new`}>
              Import a ledger
            </Link>
          }
        >
          Import at least one year of ledger history. A new budget starts from those months.
        </Empty>
      );
    }
    if (making) return <NewBudgetForm onCreated={(made) => void navigate(String(made.id))} cancel={() => setMaking(false)} />;
    if (budgets.data.length === 0)
      return (
        <Empty title="No budget yet" action={begin}>
          Create the first one from a prior year’s actuals. You can change every month of every account afterward.
        </Empty>
      );
    return (
      <>
        <table className="ledger-table w-full border border-hairline bg-sheet">
          <thead>
            <tr>
              {['Budget', 'Year', 'Status', 'Base year', 'Lines'].map((name) => (
                <th key={name} scope="col" className={`border-b border-ink px-3 py-1.5 ${name === 'Lines' ? 'text-right!' : ''}`}>
                  {name}
                </th>
              ))}
              <th scope="col" className="border-b border-ink px-3 text-right!">
                Revenue, net
              </th>
              <th scope="col" className="border-b border-ink px-3 text-right!">
                Operating income
              </th>
              <th scope="col" className="border-b border-ink px-3">
                Created
              </th>
            </tr>
          </thead>
          <tbody>
            {budgets.data.map((budget) => (
              <tr key={budget.id} className="hover:bg-wash">
                <td className="max-w-72 truncate border-b border-hairline px-3!" title={budget.name}>
                  <Link className="link" to={String(budget.id)}>
                    {budget.name}
                  </Link>
                  {budget.note ? <span className="block truncate text-[12.5px] text-ink-soft">{budget.note}</span> : null}
                </td>
                <td className="border-b border-hairline px-3!">FY{budget.year}</td>
                <td className={`border-b border-hairline px-3! ${budget.state === 'approved' ? 'font-semibold' : ''}`}>
                  {STATE_WORDS[budget.state]}
                </td>
                <td className="border-b border-hairline px-3!">
                  {budget.copiedFrom
                    ? (budgets.data.find(({ id }) => id === budget.copiedFrom)?.name ?? '')
                    : budget.fromYear
                      ? `FY${budget.fromYear}`
                      : ''}
                </td>
                <td className="figure border-b border-hairline px-3!">{budget.lineCount}</td>
                <td className="figure border-b border-hairline px-3!">
                  <Amount value={budget.revenue} exponent={company.exponent} unit="dollars" />
                </td>
                <td className="figure border-b border-hairline px-3!">
                  <Amount value={budget.operatingIncome} exponent={company.exponent} unit="dollars" />
                </td>
                <td className="border-b border-hairline px-3!">
                  {dateWords(budget.createdAt)}, {budget.actor}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {budgets.data.length < FEW ? (
          <p className="mt-3 text-[14px] text-ink-soft">
            Open a budget to edit it by month, check it and plan its cash. The approved budget of a year is compared with actuals in the{' '}
            <Link className="link" to={`/c/${company.id}/statements/income`}>
              income statement
            </Link>
            .
          </p>
        ) : null}
      </>
    );
  };
  return (
    <Page title="Budgets" words={company.currencyWords} actions={hasHistory && !making ? begin : undefined}>
      <div className="mt-3 min-h-0 flex-1 overflow-auto pb-4">{body()}</div>
    </Page>
  );
}
