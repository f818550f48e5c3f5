import { NavLink } from 'react-router';

/** The pages of a station, one of them open. */
export function Tabs({ label, tabs }: { readonly label: string; readonly tabs: readonly (readonly [path: string, name: string])[] }) {
  return (
    <nav
      aria-label={label}
      className="no-print mt-2 mb-2.5 flex shrink-0 gap-5 overflow-x-auto overflow-y-hidden border-b border-hairline whitespace-nowrap"
    >
      {tabs.map(([path, name]) => (
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
  );
}
