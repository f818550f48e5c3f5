import { useQuery } from '@tanstack/react-query';
import type { CompanyDto, PackListDto } from '@wise-margin/contract';
import { BookOpen, ChartNoAxesColumn, FileText, Package, Search } from 'lucide-react';
import { Suspense, useEffect, useRef, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useParams } from 'react-router';

import { getJson } from '../api/client.ts';
import { CompanyContext, useAsOf } from '../data/company.ts';
import { rememberPlace } from '../data/recent-places.ts';
import { useLiveBooks } from '../data/use-live-books.ts';
import { usePacks } from '../data/use-packs.ts';
import { useBudgets } from '../data/use-statement.ts';
import { useViews } from '../data/use-views.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useSearch } from '../ui/use-search.ts';
import { useSearchKeys } from '../ui/use-search-keys.ts';
import { CompanySwitch } from './company-switch.tsx';
import { KeysDialog } from './keys-dialog.tsx';
import { SearchDialog } from './search-dialog.tsx';
import { useKeptFocus } from './use-kept-focus.ts';

const STATIONS = [
  { path: 'ledger', name: 'Ledger', icon: BookOpen },
  { path: 'budgets', name: 'Budgets', icon: ChartNoAxesColumn },
  { path: 'statements', name: 'Statements', icon: FileText },
  { path: 'findings', name: 'Findings', icon: Search },
  { path: 'packs', name: 'Packs', icon: Package },
] as const;
const PLACES: Readonly<Record<string, string>> = {
  ledger: 'Ledger',
  budgets: 'Budgets',
  comparison: 'Comparison',
  'balance-plan': 'Cash',
  statements: 'Statements',
  findings: 'Findings',
  variances: 'Variances',
  postings: 'Posting checks',
  'tie-outs': 'Tie-outs',
  limits: 'Materiality',
  packs: 'Packs',
  imports: 'Imports',
  entries: 'Entries',
  accounts: 'Accounts',
  audit: 'Audit trail',
  reports: 'Reports',
  'trial-balance': 'Trial balance',
  'account-detail': 'Account detail',
  journals: 'Journals',
  activity: 'Customers and vendors',
  aging: 'Aging',
  reconciliation: 'Bank reconciliation',
  statistics: 'Statistics',
  drafts: 'Draft entries',
  periods: 'Periods',
  outbox: 'Outbox',
  schedules: 'Schedules',
  companies: 'Companies',
  combined: 'Combined',
  new: 'New',
  edit: 'Edit',
};

/** The frame around every page: menu, top line, and the company in view. */
export function Frame() {
  const { company: id } = useParams();
  const company = useQuery({ queryKey: ['company', Number(id)], queryFn: ({ signal }) => getJson<CompanyDto>(`/companies/${id}`, signal) });
  useLiveBooks(company.data);
  useEffect(() => {
    if (company.data) localStorage.setItem('wm.company', String(company.data.id));
  }, [company.data]);
  if (company.isError)
    return (
      <main className="p-4">
        <h1 className="font-serif text-2xl font-semibold">The company cannot be opened</h1>
        <Failure error={company.error} retry={() => void company.refetch()} />
        <Link className="link" to="/" onClick={() => localStorage.removeItem('wm.company')}>
          Go to another company
        </Link>
      </main>
    );
  if (!company.data)
    return (
      <main>
        <h1 className="sr-only">Wise Margin</h1>
        <Loading what="the company" />
      </main>
    );
  return (
    <CompanyContext value={company.data}>
      <div className="flex h-dvh narrow:flex-col-reverse">
        <SkipLink />
        <Rail companyId={company.data.id} />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          <TopLine company={company.data} />
          <UnknownMonth company={company.data} />
          <Main />
        </div>
      </div>
    </CompanyContext>
  );
}

/** Says that the month of the address is not one of the company. */
function UnknownMonth({ company }: { readonly company: CompanyDto }) {
  const [search] = useSearch();
  const [asOf] = useAsOf();
  const asked = search.get('asOf');
  if (asked === null || company.periods.some(({ key }) => key === asked)) return null;
  const [first, last] = [company.years[0], company.years.at(-1)];
  const shown = company.periods.find(({ key }) => key === asOf)?.name;
  return (
    <p role="alert" className="border-b border-brick bg-sheet px-5 py-1 text-[13px]">
      There is no month {asked} in {company.name}, which has FY{first} to FY{last}.{shown ? ` ${shown} is shown.` : ''}
    </p>
  );
}

/** The page in view; focus stays on it when it leads to another. */
function Main() {
  const page = useRef<HTMLElement>(null);
  useKeptFocus(page);
  return (
    <main ref={page} id="main" tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col outline-none">
      <Suspense fallback={<Loading what="the page" />}>
        <Outlet />
      </Suspense>
    </main>
  );
}

const packName = (part: string, packs: PackListDto): string | undefined =>
  /^\d+$/.test(part) ? `Issue ${part}` : packs.find(({ key }) => key === part)?.name;

/** The first stop of the keyboard: past rail and toolbars to the figures of the page. */
function SkipLink() {
  return (
    <a
      href="#main"
      className="sr-only z-50 border border-copper bg-sheet px-3 py-1.5 focus:not-sr-only focus:fixed focus:top-2 focus:left-2"
      onClick={(event) => {
        event.preventDefault();
        const main = document.getElementById('main');
        (main?.querySelector<HTMLElement>('table [data-tab-stop]') ?? main)?.focus();
      }}
    >
      Skip to content
    </a>
  );
}

function Rail({ companyId }: { readonly companyId: number }) {
  return (
    <nav
      aria-label="Main"
      className="no-print flex w-[84px] shrink-0 flex-col items-stretch border-r border-hairline px-1.5 pt-3 text-[13px] short:overflow-y-auto narrow:w-full narrow:flex-row narrow:overflow-x-auto narrow:border-t narrow:border-r-0 narrow:pt-0"
    >
      <Link
        to={`/c/${companyId}`}
        aria-label="Overview"
        className="mb-3 self-center font-serif text-[26px] leading-8 font-bold narrow:mb-0 narrow:px-2"
      >
        w<span className="border-b-2 border-copper text-copper">m</span>
      </Link>
      {STATIONS.map(({ path, name, icon: Icon }) => (
        <NavLink
          key={path}
          to={`/c/${companyId}/${path}`}
          className={({ isActive }) =>
            `mb-1 flex flex-col items-center gap-0.5 border-l-[3px] py-2 short:py-1 narrow:mb-0 narrow:flex-1 narrow:border-t-[3px] narrow:border-l-0 narrow:px-1 narrow:py-1 narrow:text-[12px] ${isActive ? 'border-copper bg-sheet font-semibold' : 'border-transparent text-ink-soft hover:bg-wash'}`
          }
        >
          <Icon size={19} strokeWidth={1.6} aria-hidden="true" />
          {name}
        </NavLink>
      ))}
    </nav>
  );
}

function TopLine({ company }: { readonly company: CompanyDto }) {
  const location = useLocation();
  const [asOf, setAsOf] = useAsOf();
  const [keysOpen, setKeysOpen] = useState(false);
  const [searchOpen, setSearchOpen] = useState(false);
  useKeys({ '?': () => setKeysOpen(true) });
  useSearchKeys(() => setSearchOpen(true));
  const parts = location.pathname.split('/').slice(3).filter(Boolean);
  const views = useViews(company.id);
  const budgets = useBudgets(company.id);
  const packs = usePacks(company.id, null);
  const month = company.periods.find(({ key }) => key === asOf);
  const [station = '', place = ''] = parts.length === 2 ? parts : [];
  const view = station === 'statements' ? views.data?.find(({ key }) => key === place) : undefined;
  const budget = station === 'budgets' ? budgets.data?.find(({ id }) => String(id) === place) : undefined;
  useEffect(() => {
    if (view)
      rememberPlace(company.id, {
        kind: 'view',
        key: view.key,
        name: view.name,
        detail: view.note,
        amount: null,
        link: `statements/${view.key}`,
      });
    if (budget)
      rememberPlace(company.id, {
        kind: 'budget',
        key: String(budget.id),
        name: budget.name,
        detail: `FY${budget.year}`,
        amount: null,
        link: `budgets/${budget.id}`,
      });
  }, [company.id, view, budget]);
  return (
    <header className="flex h-12 shrink-0 items-center gap-4 border-b border-hairline px-5 short:h-9 narrow:gap-2 narrow:px-3">
      <CompanySwitch company={company} />
      <nav aria-label="Breadcrumbs" className="min-w-0 flex-1 truncate text-ink-soft narrow:invisible">
        {parts.map((part, index) => {
          const name =
            (parts[0] === 'statements' ? views.data?.find(({ key }) => key === part)?.name : undefined) ??
            (parts[0] === 'budgets' ? budgets.data?.find(({ id }) => String(id) === part)?.name : undefined) ??
            (parts[0] === 'packs' && index > 0 ? packName(part, packs.data ?? []) : undefined) ??
            PLACES[part] ??
            (/^\d+$/.test(part) ? `${parts[index - 1] === 'imports' ? 'Import' : 'Budget'} ${part}` : part);
          const path = `/c/${company.id}/${parts.slice(0, index + 1).join('/')}`;
          return (
            <span key={path}>
              {index > 0 ? ' / ' : ''}
              {index < parts.length - 1 ? (
                <Link to={path} className="hover:underline">
                  {name}
                </Link>
              ) : (
                <span aria-current="page">{name}</span>
              )}
            </span>
          );
        })}
      </nav>
      <button
        type="button"
        className="flex items-center gap-1.5 text-[13px] text-ink-soft hover:underline"
        onClick={() => setSearchOpen(true)}
      >
        <Search size={17} strokeWidth={1.6} aria-hidden="true" className="hidden narrow:block" />
        <span className="narrow:sr-only">Search</span>
        <kbd className="rounded border border-hairline bg-sheet px-1 narrow:hidden">/</kbd>
      </button>
      <button type="button" className="text-[13px] text-ink-soft hover:underline narrow:hidden" onClick={() => setKeysOpen(true)}>
        Shortcuts <kbd className="rounded border border-hairline bg-sheet px-1">?</kbd>
      </button>
      {month ? (
        <label className="flex items-center gap-1.5 text-ink-soft">
          <span className="short:hidden narrow:hidden">as of</span>
          <select
            aria-label="As-of month"
            className="field min-h-7 py-0 text-[13px] font-semibold text-ink"
            value={month.key}
            onChange={(event) => setAsOf(event.target.value)}
          >
            {company.periods.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </label>
      ) : null}
      <SearchDialog open={searchOpen} close={() => setSearchOpen(false)} />
      {keysOpen ? <KeysDialog close={() => setKeysOpen(false)} /> : null}
    </header>
  );
}
