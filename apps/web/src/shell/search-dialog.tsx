import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
  DialogTitle,
} from '@headlessui/react';
import type { SearchHitDto } from '@wise-margin/contract';
import { searchKindWords } from '@wise-margin/presentation';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { recentFirst, recentPlaces, rememberPlace } from '../data/recent-places.ts';
import { useSearchHits } from '../data/use-search-hits.ts';
import { Amount } from '../ui/figure.tsx';

const EXAMPLES = 'A name, an account, an entry or document number, an amount such as 9466 or >50k, or a month such as Oct 2025.';

/** Search over everything of the company; by keyboard alone. */
export function SearchDialog({ open, close }: { readonly open: boolean; readonly close: () => void }) {
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/30" />
      <div className="fixed inset-0 flex justify-center p-4 pt-[9vh] short:pt-2 narrow:p-0">
        <DialogPanel className="flex h-fit max-h-full w-full max-w-2xl flex-col border border-hairline bg-sheet shadow-lg">
          <DialogTitle className="sr-only">Search</DialogTitle>
          {open ? <SearchBox close={close} /> : null}
        </DialogPanel>
      </div>
    </Dialog>
  );
}

function SearchBox({ close }: { readonly close: () => void }) {
  const company = useCompany();
  const navigate = useNavigate();
  const [asOf, setAsOf] = useAsOf();
  const [text, setText] = useState('');
  const search = useSearchHits(company.id, { text: text.trim(), asOf, isOpen: true });
  // Enter pressed before the answer was there
  const wantsFirst = useRef(false);
  const recent = recentPlaces(company.id);
  const isEmpty = text.trim() === '';
  const found = search.data;
  const hits = isEmpty ? recent : recentFirst(found?.hits ?? [], recent);
  const choose = (hit: SearchHitDto | null) => {
    if (hit === null) return;
    close();
    if (hit.kind === 'month') return setAsOf(hit.link);
    rememberPlace(company.id, hit);
    void navigate(`/c/${company.id}/${hit.link}`);
  };
  const isWaiting = !isEmpty && (search.isPlaceholderData || search.isPending);
  useEffect(() => {
    if (isWaiting || !wantsFirst.current) return;
    wantsFirst.current = false;
    choose(hits[0] ?? null);
  });
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    // the list is always open, so Escape is for the dialog
    if (event.key === 'Escape') {
      event.preventDefault();
      close();
    }
    // the list itself opens the one that is highlighted
    const isHighlighted = event.currentTarget.hasAttribute('aria-activedescendant');
    if (event.key !== 'Enter' || isEmpty || (isHighlighted && !isWaiting)) return;
    event.preventDefault();
    if (isWaiting) wantsFirst.current = true;
    else choose(hits[0] ?? null);
  };
  const moreEntries = isEmpty ? null : (found?.moreEntries ?? null);
  return (
    <Combobox<SearchHitDto | null> value={null} onChange={choose} by={(a, b) => a?.kind === b?.kind && a?.key === b?.key}>
      <ComboboxInput
        autoFocus
        aria-label={`Search ${company.name}`}
        placeholder={`Search ${company.name}`}
        autoComplete="off"
        className="h-12 w-full border-b border-hairline bg-sheet px-4 text-[17px] outline-none"
        onChange={(event) => {
          wantsFirst.current = false;
          setText(event.target.value);
        }}
        onKeyDown={onKeyDown}
      />
      <ComboboxOptions static modal={false} className="min-h-0 overflow-y-auto py-1 empty:hidden">
        {hits.map((hit, at) => (
          <ComboboxOption
            key={`${hit.kind} ${hit.key}`}
            value={hit}
            className="grid grid-cols-[7.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 px-4 py-1 data-focus:bg-wash narrow:grid-cols-[5rem_minmax(0,1fr)_auto]"
          >
            <span className="text-[12.5px] text-ink-soft">{hits[at - 1]?.kind === hit.kind ? '' : searchKindWords(hit.kind)}</span>
            <span className="min-w-0 truncate">
              {hit.name}
              {hit.detail === '' ? null : <span className="ml-2 text-[13px] text-ink-soft">{hit.detail}</span>}
            </span>
            <span className="figure">{hit.amount === null ? null : <Amount value={hit.amount} exponent={company.exponent} />}</span>
          </ComboboxOption>
        ))}
        {moreEntries !== null && hits.length > 0 ? (
          <ComboboxOption
            value={
              {
                kind: 'page',
                key: 'entries',
                name: `Entries with ${text.trim()}`,
                detail: '',
                amount: null,
                link: moreEntries,
              } satisfies SearchHitDto
            }
            className="px-4 py-1 pl-[9.25rem] text-[13.5px] text-copper data-focus:bg-wash narrow:pl-4"
          >
            All entries with {text.trim()}
          </ComboboxOption>
        ) : null}
      </ComboboxOptions>
      <p role="status" className="border-t border-hairline px-4 py-1.5 text-[13px] text-ink-soft">
        {statusWords({
          isEmpty,
          hasRecent: recent.length > 0,
          found: isWaiting ? null : hits.length,
          pending: found?.pending ?? 0,
          error: search.error,
        })}
      </p>
    </Combobox>
  );
}

function statusWords({
  isEmpty,
  hasRecent,
  found,
  pending,
  error,
}: {
  readonly isEmpty: boolean;
  readonly hasRecent: boolean;
  readonly found: number | null;
  readonly pending: number;
  readonly error: Error | null;
}): string {
  if (error) return error.message;
  const words = isEmpty
    ? `${hasRecent ? 'Recently viewed. ' : ''}${EXAMPLES}`
    : found === null
      ? 'Searching…'
      : found === 0
        ? `Nothing found. ${EXAMPLES}`
        : `${found.toLocaleString('en-US')} found`;
  return pending === 0 ? words : `${words} ${pending.toLocaleString('en-US')} entries are not searched yet; their index is being built.`;
}
