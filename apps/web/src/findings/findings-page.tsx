import { NavLink, Outlet } from 'react-router';

import { Page } from '../ui/page.tsx';

const TABS = [
  ['variances', 'Variances'],
  ['postings', 'Posting checks'],
  ['tie-outs', 'Tie-outs'],
  ['limits', 'Materiality'],
] as const;

/** The findings station: what matters, why it happened, and what is done about it. */
export default function FindingsPage() {
  return (
    <Page title="Findings" words="What matters, why it happened, and what is done about it">
      <nav
        aria-label="Findings"
        className="no-print mt-2 mb-2 flex shrink-0 gap-5 overflow-x-auto overflow-y-hidden border-b border-hairline whitespace-nowrap"
      >
        {TABS.map(([path, name]) => (
          <NavLink
            key={path}
            to={path}
            className={({ isActive }) =>
              `-mb-px border-b-[3px] pb-1.5 ${isActive ? 'border-copper font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </Page>
  );
}
