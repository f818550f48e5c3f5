import { type EntryFilterDto, filterParameters, isFilterParameter, readFilter } from '@wise-margin/contract';

import type { ListSort } from '../ui/list.tsx';

/** What the list of entries keeps to, as the address holds it; amounts as typed. */
export type EntryChoices = {
  readonly find: string;
  readonly from: string;
  readonly to: string;
  readonly accounts: string;
  readonly filter: Readonly<Record<string, readonly string[]>>;
  readonly least: string;
  readonly most: string;
  readonly origin: string;
  readonly state: string;
  readonly sort: ListSort;
};
/** Each text with its name in the address, where a drill-down keeps `from` and `to` of its own. */
const TEXTS = {
  find: 'find',
  from: 'fromMonth',
  to: 'toMonth',
  accounts: 'accounts',
  least: 'least',
  most: 'most',
  origin: 'origin',
  state: 'state',
} as const;
type TextChoice = keyof typeof TEXTS;
const NAMES = Object.keys(TEXTS) as TextChoice[];
const SORTED_BY: readonly EntryFilterDto['sort'][] = ['date', 'account', 'party', 'amount', 'source'];

export function readEntryChoices(search: URLSearchParams): EntryChoices {
  const text = Object.fromEntries(NAMES.map((name) => [name, search.get(TEXTS[name]) ?? ''])) as Record<TextChoice, string>;
  const by = search.get('sort') ?? 'date';
  return {
    ...text,
    filter: readFilter(search),
    sort: { by: (SORTED_BY as readonly string[]).includes(by) ? by : 'date', descending: search.get('order') !== 'ascending' },
  };
}

/** Puts choices in the address in place of those there. */
export function writeEntryChoices(search: URLSearchParams, choices: Partial<EntryChoices>): void {
  for (const name of NAMES) {
    const value = choices[name];
    if (value === undefined) continue;
    if (value.trim() === '') search.delete(TEXTS[name]);
    else search.set(TEXTS[name], value);
  }
  if (choices.filter) {
    for (const name of [...search.keys()]) if (isFilterParameter(name)) search.delete(name);
    for (const [name, value] of filterParameters(choices.filter)) search.append(name, value);
  }
  if (choices.sort) {
    search.set('sort', choices.sort.by);
    search.set('order', choices.sort.descending ? 'descending' : 'ascending');
  }
}

/** The choices of an address alone, as an address, so that they can be kept under a name. */
export function chosenAddress(search: URLSearchParams): string {
  const kept = new URLSearchParams();
  writeEntryChoices(kept, readEntryChoices(search));
  return kept.toString();
}

/** How many of the choices behind the Filters button are made. */
export const filterCount = ({ accounts, filter, least, most, origin, state }: EntryChoices): number =>
  [accounts, least, most, origin, state].filter((each) => each.trim() !== '').length +
  Object.values(filter).filter((values) => values.length > 0).length;
