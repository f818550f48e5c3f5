import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { useQuery } from '@tanstack/react-query';
import type { CompanyDto } from '@wise-margin/contract';
import { BookOpen, ChartNoAxesColumn, ChevronDown, FileText, Package, Search } from 'lucide-react';
import { Suspense, useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { getJson } from '../api/client.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { useBudgets } from '../statements/use-statement.ts';
import { useViews } from './use-views.ts';
import { useKeys } from '../ui/use-keys.ts';
import { CompanyContext, useAsOf, useCompanies } from './company.ts';
import { KeysDialog } from './keys-dialog.tsx';

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
  statements: 'Statements',
  findings: 'Findings',
  packs: 'Packs',
  imports: 'Imports',
  accounts: 'Accounts',
  'trial-balance': 'Trial balance',
  statistics: 'Statistics',
  new: 'New',
  edit: 'Edit',
};

/** The frame around every station: rail, top line, and the company in view. */
export function Frame() {
  const { company: id } = useParams();
  const company = useQuery({ queryKey: ['company', Number(id)], queryFn: ({ signal }) => getJson<CompanyDto>(`/companies/${id}`, signal) });
  useEffect(() => {
    if (company.data) localStorage.setItem('wm.company', String(company.data.id));
  }, [company.data]);
  if (company.isError) return <Failure error={company.error} retry={() => void company.refetch()} />;
  if (!company.data) return <Loading what="the company" />;
  return (
    <CompanyContext value={company.data}>
      <div className="flex h-dvh min-w-[900px]">
        <Rail companyId={company.data.id} />
        <div className="flex min-w-0 flex-1 flex-col">
          <TopLine company={company.data} />
          <main className="flex min-h-0 min-w-0 flex-1 flex-col">
            <Suspense fallback={<Loading what="the page" />}>
              <Outlet />
            </Suspense>
          </main>
        </div>
      </div>
    </CompanyContext>
  );
}

function Rail({ companyId }: { readonly companyId: number }) {
  return (
    <nav aria-label="Stations" className="flex w-[84px] shrink-0 flex-col items-stretch border-r border-hairline px-1.5 pt-3 text-[13px]">
      <Link to={`/c/${companyId}`} aria-label="Overview" className="mb-3 self-center font-serif text-[26px] leading-8 font-bold">
        w<span className="border-b-2 border-copper text-copper">m</span>
      </Link>
      {STATIONS.map(({ path, name, icon: Icon }) => (
        <NavLink
          key={path}
          to={`/c/${companyId}/${path}`}
          className={({ isActive }) =>
            `mb-1 flex flex-col items-center gap-0.5 border-l-[3px] py-2 ${isActive ? 'border-copper bg-sheet font-semibold' : 'border-transparent text-ink-soft hover:bg-wash'}`
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
  const companies = useCompanies();
  const navigate = useNavigate();
  const location = useLocation();
  const [asOf] = useAsOf();
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ '?': () => setKeysOpen(true) });
  const parts = location.pathname.split('/').slice(3).filter(Boolean);
  const views = useViews(company.id);
  const budgets = useBudgets(company.id);
  const month = company.periods.find(({ key }) => key === asOf);
  return (
    <header className="flex h-12 shrink-0 items-center gap-4 border-b border-hairline px-5">
      <Listbox value={company.id} onChange={(id: number) => void navigate(`/c/${id}/${samePlace(parts)}`)}>
        <ListboxButton aria-label={`Company: ${company.name}`} className="flex max-w-80 items-center gap-1 font-semibold">
          <span className="truncate">{company.name}</span> <ChevronDown size={14} aria-hidden="true" />
        </ListboxButton>
        <ListboxOptions anchor="bottom start" className="z-30 min-w-64 border border-hairline bg-sheet py-1 shadow-md">
          {(companies.data ?? []).map(({ id, name }) => (
            <ListboxOption key={id} value={id} className="px-3 py-1.5 data-focus:bg-wash data-selected:font-semibold">
              {name}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
      <nav aria-label="Place" className="min-w-0 flex-1 truncate text-ink-soft">
        {parts.map((part, index) => {
          const name =
            (parts[0] === 'statements' ? views.data?.find(({ key }) => key === part)?.name : undefined) ??
            (parts[0] === 'budgets' ? budgets.data?.find(({ id }) => String(id) === part)?.name : undefined) ??
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
      <button type="button" className="text-[13px] text-ink-soft hover:underline" onClick={() => setKeysOpen(true)}>
        Keys <kbd className="rounded border border-hairline bg-sheet px-1">?</kbd>
      </button>
      <span className="text-ink-soft">
        as of <strong className="text-ink">{month?.name ?? 'no month yet'}</strong>
      </span>
      <KeysDialog open={keysOpen} close={() => setKeysOpen(false)} />
    </header>
  );
}

/** Where another company opens: in the same station, and with a shipped view in that one, since it serves every company. */
function samePlace(parts: readonly string[]): string {
  const [station = '', view] = parts;
  return station === 'statements' && parts.length === 2 && view !== 'new' && !view!.startsWith('view-') ? parts.join('/') : station;
}
