import { type BalancePlanDto } from '@wise-margin/contract';
import { formatAmount, type Minor, toDecimalText } from '@wise-margin/core';
import { budgetLockWords } from '@wise-margin/presentation';
import { Redo2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';

import { useCompany } from '../../data/company.ts';
import { Choice } from '../../ui/choice.tsx';
import { monthEndWords } from '../../ui/date-words.ts';
import { Page } from '../../ui/page.tsx';
import { PageFailure } from '../../ui/page-failure.tsx';
import { Loading } from '../../ui/states.tsx';
import { useSearch } from '../../ui/use-search.ts';
import { AssumptionsPanel } from './assumptions-panel.tsx';
import { BalancePlanTable } from './balance-plan-table.tsx';
import { CashChart } from './cash-chart.tsx';
import { RulePanel } from './rule-panel.tsx';
import { type BalancePlanChange, useBalancePlan } from './use-balance-plan.ts';

const SHEETS = [
  ['cash', 'Cash flow'],
  ['balance', 'Balance sheet'],
] as const;

/** A budget carried into cash and balance sheet, by month, and the assumptions that take it there. */
export default function BalancePlanPage() {
  const company = useCompany();
  const id = Number(useParams().budget);
  const [search, setSearch] = useSearch();
  const { plan, change } = useBalancePlan(company.id, id);
  // a form keeps what is typed in it until a change was made; what was refused stays to be mended
  const [made, setMade] = useState(0);
  const { mutate: send } = change;
  const mutate = useCallback((asked: BalancePlanChange) => send(asked, { onSuccess: () => setMade((count) => count + 1) }), [send]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement | null)?.closest('input, textarea, select')) return;
      const key = event.key.toLowerCase();
      const step = key === 'z' && !event.shiftKey ? 'undo' : key === 'y' || (key === 'z' && event.shiftKey) ? 'redo' : null;
      if (step === null) return;
      event.preventDefault();
      mutate({ kind: step });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [mutate]);
  if (plan.isError)
    return (
      <PageFailure
        title="Cash and balance sheet"
        error={plan.error}
        retry={() => void plan.refetch()}
        company={company.id}
        list="budgets"
      />
    );
  if (!plan.data) return <Loading what="cash and balance sheet" />;
  const { budget, steps, accounts, opensFrom } = plan.data;
  const lock = budgetLockWords(budget.state);
  const locked = lock !== null;
  const sheet = search.get('sheet') === 'balance' ? 'balance' : 'cash';
  const selected = search.get('account');
  const account = accounts.find((each) => each.account === selected);
  const set = (name: string, value: string | null) =>
    setSearch(
      (before) => {
        if (value === null) before.delete(name);
        else before.set(name, value);
      },
      { replace: true },
    );
  const choose = (number: string | null) => {
    change.reset();
    set('account', number);
  };
  const months = plan.data.cashFlow.blocks.slice(0, plan.data.months.length).map(({ heading }) => heading);
  const shortMonths = months.map((month) => month.slice(0, 3));
  return (
    <Page
      title={`${budget.name}, FY${budget.year}: cash`}
      words={
        change.isPending
          ? 'Calculating…'
          : locked
            ? `${budget.name} ${lock}`
            : `Opening balances: ${opensFrom === null ? 'none, nothing is posted before the budget' : `ledger at ${monthEndWords(opensFrom)}`}.`
      }
      actions={
        <>
          <StepButton kind="undo" words={steps.undo} locked={locked} act={(made) => mutate(made)} />
          <StepButton kind="redo" words={steps.redo} locked={locked} act={(made) => mutate(made)} />
          <Link className="button" to={`/c/${company.id}/budgets/${id}`}>
            Budget by month
          </Link>
        </>
      }
    >
      <Figures plan={plan.data} months={months} />
      <CashChart
        months={['Start', ...shortMonths]}
        cash={[plan.data.openingCash, ...plan.data.months.map(({ cash }) => cash)]}
        lowest={plan.data.lowest + 1}
      />
      <BalancePlanNotices plan={plan.data} locked={locked} act={(made) => mutate(made)} />
      {change.isError && !account ? (
        <p role="alert" className="mt-1 border-l-2 border-brick bg-sheet px-3 py-1 text-[13px]">
          {change.error.message}
        </p>
      ) : null}
      {selected !== null && !account ? (
        <p role="alert" className="mt-1 border-l-2 border-brick bg-sheet px-3 py-1 text-[13px]">
          There is no account {selected} in the balance sheet. Choose one on the right.
        </p>
      ) : null}
      <div className="my-2 flex flex-wrap items-center gap-4 text-[13px]">
        <Choice label="Show" value={sheet} options={SHEETS} choose={(value) => set('sheet', value === 'cash' ? null : value)} />
        <span className="text-ink-soft">{company.currencyWords}. In the cash flow, cash outflows are in parentheses.</span>
      </div>
      <div className="flex min-h-0 flex-1 pb-3">
        <BalancePlanTable
          key={sheet}
          grid={sheet === 'cash' ? plan.data.cashFlow : plan.data.balanceSheet}
          selected={selected}
          choose={choose}
          hrefOf={(number) => (accounts.some((each) => each.account === number) ? null : `/c/${company.id}/budgets/${id}?row=${number}`)}
        />
        {account ? (
          <RulePanel
            key={`${account.account} ${made}`}
            account={account}
            months={shortMonths}
            locked={locked}
            problem={change.isError ? change.error.message : null}
            set={(rule) => mutate({ kind: 'rule', account: account.account, rule, base: plan.data.version })}
            back={() => choose(null)}
          />
        ) : (
          <AssumptionsPanel plan={plan.data} choose={choose} />
        )}
      </div>
    </Page>
  );
}

function StepButton({
  kind,
  words,
  locked,
  act,
}: {
  readonly kind: 'undo' | 'redo';
  readonly words: string | null;
  readonly locked: boolean;
  readonly act: (change: BalancePlanChange) => void;
}) {
  const [label, none, verb, keys] =
    kind === 'undo' ? (['Undo', 'Nothing to undo', 'Undo', 'Ctrl+Z'] as const) : (['Redo', 'Nothing to redo', 'Redo', 'Ctrl+Y'] as const);
  const Icon = kind === 'undo' ? Undo2 : Redo2;
  return (
    <button
      type="button"
      className="button"
      aria-label={label}
      disabled={words === null || locked}
      title={words === null ? none : `${verb}: ${words} (${keys})`}
      onClick={() => act({ kind })}
    >
      <Icon size={15} aria-hidden="true" />
    </button>
  );
}

/** Cash at both ends of the year and where it is least. */
function Figures({ plan, months }: { readonly plan: BalancePlanDto; readonly months: readonly string[] }) {
  const { exponent, periods } = useCompany();
  const before = periods[periods.findIndex(({ key }) => key === plan.months[0]!.key) - 1]?.name;
  const text = (amount: number) => formatAmount(amount as Minor, { exponent, unit: 'dollars' });
  const [lowest, at] =
    plan.lowest < 0 ? [plan.openingCash, before ?? 'the opening'] : [plan.months[plan.lowest]!.cash, months[plan.lowest]!];
  const closing = plan.months.at(-1)!.cash;
  const shown = [
    ['Opening cash', text(plan.openingCash), before ? `end of ${before}` : 'before the first month'],
    ['Low point', text(lowest), `end of ${at}${lowest < 0 ? ', below zero: additional funding is needed' : ''}`],
    ['Closing cash', text(closing), `end of ${months.at(-1)}`],
    ['Change for the year', text(closing - plan.openingCash), ''],
  ] as const;
  return (
    <dl className="mt-2 flex flex-wrap gap-x-10 gap-y-1" aria-label="Cash for the year">
      {shown.map(([name, figure, words], index) => (
        <div key={name}>
          <dt className="text-[13px] text-ink-soft">{name}</dt>
          <dd className={`font-serif text-[20px] leading-6 font-semibold tabular-nums ${index === 1 && lowest < 0 ? 'text-brick' : ''}`}>
            {figure}
          </dd>
          <dd className="text-[13px] text-ink-soft">{words}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What the plan wants said; interest that differs can be taken into the budget. */
function BalancePlanNotices({
  plan,
  locked,
  act,
}: {
  readonly plan: BalancePlanDto;
  readonly locked: boolean;
  readonly act: (change: BalancePlanChange) => void;
}) {
  const { exponent } = useCompany();
  const { interest, notices } = plan;
  if (notices.length === 0) return null;
  return (
    <div className="mt-1 border-l-2 border-copper bg-sheet px-3 py-1 text-[13px]" role="note">
      {notices.map((words) => (
        <span key={words} className="mr-2">
          {words}
        </span>
      ))}
      {interest && !locked ? (
        <button
          type="button"
          className="link"
          onClick={() =>
            act({
              kind: 'edits',
              edits: interest.months.map(({ month, scheduled }) => ({
                kind: 'month' as const,
                account: interest.account,
                month,
                text: toDecimalText(scheduled as Minor, exponent),
              })),
            })
          }
        >
          Budget scheduled interest on {interest.account}
        </button>
      ) : null}
    </div>
  );
}
