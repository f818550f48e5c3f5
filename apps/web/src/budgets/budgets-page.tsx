import type { BudgetDto } from '@wise-margin/contract';
import { STATE_WORDS } from '@wise-margin/presentation';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { useBudgets } from '../data/use-statement.ts';
import { ColumnChoice } from '../ui/column-choice.tsx';
import { dateWords } from '../ui/date-words.ts';
import { Amount } from '../ui/figure.tsx';
import { List, type ListColumn, type ListSort } from '../ui/list.tsx';
import { ListExport } from '../ui/list-export.tsx';
import { Page } from '../ui/page.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useListColumns } from '../ui/use-list-columns.ts';
import { NewBudgetForm } from './new-budget/new-budget-form.tsx';

/** A list of fewer budgets says what comes next. */
const FEW = 8;

/** Every budget of the company, and the form that makes one. */
export default function BudgetsPage() {
  const company = useCompany();
  const budgets = useBudgets(company.id);
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const [sort, setSort] = useState<ListSort>({ by: '', descending: false });
  const chosen = useListColumns('budgets', NO_EXTRA);
  const columns = useMemo(() => budgetColumns(budgets.data ?? [], company.exponent), [budgets.data, company.exponent]);
  const hasHistory = company.lastActual !== null;
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
        <div className="mb-2 flex items-center gap-4 text-[13px]">
          <ColumnChoice columns={columns} chosen={chosen} />
          <ListExport name="budgets" columns={columns} rows={budgets.data} />
        </div>
        <div className={`flex min-h-0 ${budgets.data.length < FEW ? '' : 'flex-1'}`}>
          <List
            label="Budgets"
            rows={budgets.data}
            rowKey={({ id }) => id}
            columns={columns}
            chosen={chosen}
            sort={{ now: sort, set: setSort, isOfServer: false }}
            open={{ words: ({ name }) => name, to: ({ id }) => String(id) }}
          />
        </div>
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
      <div className="mt-3 flex min-h-0 flex-1 flex-col overflow-auto pb-4">{body()}</div>
    </Page>
  );
}

const NO_EXTRA: readonly string[] = [];

function budgetColumns(all: readonly BudgetDto[], exponent: number): readonly ListColumn<BudgetDto>[] {
  const baseOf = ({ copiedFrom, fromYear }: BudgetDto): string =>
    copiedFrom ? (all.find(({ id }) => id === copiedFrom)?.name ?? '') : fromYear ? `FY${fromYear}` : '';
  const amount = (key: 'revenue' | 'operatingIncome', name: string): ListColumn<BudgetDto> => ({
    key,
    name,
    isAmount: true,
    value: (budget) => budget[key],
    file: (budget) => budget[key] / 10 ** exponent,
    cell: (budget) => <Amount value={budget[key]} exponent={exponent} unit="dollars" />,
  });
  return [
    { key: 'name', name: 'Budget', value: ({ name }) => name, cell: ({ name }) => name, most: 290 },
    { key: 'year', name: 'Year', value: ({ year }) => year, cell: ({ year }) => `FY${year}` },
    {
      key: 'state',
      name: 'Status',
      value: ({ state }) => STATE_WORDS[state],
      cell: ({ state }) => <span className={state === 'approved' ? 'font-semibold' : ''}>{STATE_WORDS[state]}</span>,
    },
    { key: 'base', name: 'Base year', value: baseOf, cell: baseOf },
    { key: 'lines', name: 'Lines', isAmount: true, value: ({ lineCount }) => lineCount, cell: ({ lineCount }) => lineCount },
    amount('revenue', 'Revenue, net'),
    amount('operatingIncome', 'Operating income'),
    {
      key: 'createdAt',
      name: 'Created',
      value: ({ createdAt }) => createdAt,
      cell: ({ createdAt, actor }) => `${dateWords(createdAt)}, ${actor}`,
    },
    { key: 'note', name: 'Note', value: ({ note }) => note, cell: ({ note }) => note, most: 220 },
  ];
}
