import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { type CompanyListDto, DISPLAY_QUERY_NAMES } from '@wise-margin/contract';
import { ArrowLeftRight, ChevronDown } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { useLocation, useNavigate } from 'react-router';

import { useCompanies } from '../data/company.ts';
import { useKeys } from '../ui/use-keys.ts';

const PREVIOUS = 'wm.previousCompany';

/** The current company with the list of all, and beside it the previous company, one click or the key `c` away. */
export function CompanySwitch({ company }: { readonly company: { readonly id: number; readonly name: string } }) {
  const companies = useCompanies().data ?? [];
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  const other = otherCompany(companies, company.id);
  const open = (id: number): void => {
    localStorage.setItem(PREVIOUS, String(company.id));
    void navigate(`/c/${id}/${samePlace(pathname.split('/').slice(3).filter(Boolean))}${sharedChoices(search)}`);
  };
  useKeys({ c: () => other && open(other.id) });
  return (
    <div className="relative flex min-w-0 items-center gap-4">
      <Listbox value={company.id} onChange={open}>
        <ListboxButton
          aria-label={`Company: ${company.name}`}
          onKeyDown={opensOnEnter}
          className="flex h-8 max-w-80 items-center gap-1 font-semibold narrow:max-w-[calc(100vw-11rem)]"
        >
          <span className="truncate">{company.name}</span> <ChevronDown size={14} aria-hidden="true" className="shrink-0" />
        </ListboxButton>
        <ListboxOptions
          modal={false}
          className="absolute top-full left-0 z-30 max-h-[70dvh] max-w-96 min-w-64 overflow-y-auto border border-hairline bg-sheet py-1 shadow-md"
        >
          {companies.map(({ id, name }) => (
            <ListboxOption key={id} value={id} className="px-3 py-1.5 data-focus:bg-wash data-selected:font-semibold">
              {name}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
      {other ? (
        <button
          type="button"
          aria-label={`Switch to ${other.name}`}
          title={`Switch to ${other.name} (c)`}
          className="flex max-w-56 min-w-0 items-center gap-1 text-[13px] text-ink-soft hover:underline narrow:hidden"
          onClick={() => open(other.id)}
        >
          <ArrowLeftRight size={14} aria-hidden="true" className="shrink-0" /> <span className="truncate">{other.name}</span>
        </button>
      ) : null}
    </div>
  );
}

/** The previous company; at first the next one in the list, and none where there is only one. */
function otherCompany(companies: CompanyListDto, current: number): CompanyListDto[number] | undefined {
  const previous = Number(localStorage.getItem(PREVIOUS));
  const others = companies.filter(({ id }) => id !== current);
  const after = companies.findIndex(({ id }) => id === current);
  return others.find(({ id }) => id === previous) ?? others[after % others.length];
}

/** The list opens on Space and the arrow keys by itself; people press Enter on a button. */
function opensOnEnter(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'Enter') return;
  event.preventDefault();
  event.currentTarget.dispatchEvent(new window.KeyboardEvent('keydown', { key: ' ', bubbles: true }));
}

/** Choices that mean the same in any company: the month, units, decimals and how figures are written, drafts, charts. */
function sharedChoices(search: string): string {
  const names = new Set<string>(['asOf', 'drafts', 'show', ...DISPLAY_QUERY_NAMES]);
  const shared = new URLSearchParams([...new URLSearchParams(search)].filter(([name]) => names.has(name)));
  return shared.size === 0 ? '' : `?${shared.toString()}`;
}

/** Where another company opens: in the same station, and with a shipped view in that one, since it serves every company. */
function samePlace(parts: readonly string[]): string {
  const [station = '', view] = parts;
  if (parts.length !== 2) return station;
  // what comes with the application is there for every company; so is a pack, unless it is one company's own
  if (station === 'statements') return view !== 'new' && !view!.startsWith('view-') ? parts.join('/') : station;
  return station === 'packs' && !view!.startsWith('pack-') ? parts.join('/') : station;
}
