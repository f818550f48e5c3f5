import { DISPLAY_QUERY_NAMES, type DisplayQuery, type FilterDto } from '@wise-margin/contract';

/** What a statement is asked for; the address bar holds the same. What is left out is as the view has it. */
export type StatementChoices = {
  readonly asOf: string;
  readonly budget: number | undefined;
  readonly filter: FilterDto;
  readonly accounts: string | undefined;
  readonly drafts: 'yes' | 'no' | undefined;
  readonly display: DisplayQuery;
};

const ONLY = 'only.';
/** In the address: lines without a value of the dimension, and every value whatever the view keeps to. */
const NONE = '(none)';
const ALL = '(all)';
const OTHERS = ['budget', 'accounts', 'drafts', 'show', ...DISPLAY_QUERY_NAMES] as const;
const isChoice = (name: string): boolean => name.startsWith(ONLY) || (OTHERS as readonly string[]).includes(name);

/** A month as the view has it, nothing chosen. */
export const plainChoices = (asOf: string): StatementChoices => ({
  asOf,
  budget: undefined,
  filter: {},
  accounts: undefined,
  drafts: undefined,
  display: {},
});

/** The choices of a view as they stand in the address. */
export function readChoices(search: URLSearchParams, asOf: string): StatementChoices {
  const filter: Record<string, string[]> = {};
  for (const [name, value] of search) {
    if (!name.startsWith(ONLY)) continue;
    const values = (filter[name.slice(ONLY.length)] ??= []);
    if (value !== ALL) values.push(value === NONE ? '' : value);
  }
  const drafts = search.get('drafts');
  return {
    asOf,
    budget: Number(search.get('budget')) || undefined,
    filter,
    accounts: search.get('accounts') ?? undefined,
    drafts: drafts === 'yes' || drafts === 'no' ? drafts : undefined,
    // what is no choice of display is refused by the server with the field's name
    display: Object.fromEntries(
      DISPLAY_QUERY_NAMES.flatMap((name) => (search.has(name) ? [[name, search.get(name)]] : [])),
    ) as DisplayQuery,
  };
}

/** Keeps to these values of a dimension; none of them takes the filter off. */
export function setFilter(search: URLSearchParams, dimension: string, values: readonly string[]): void {
  const name = `${ONLY}${dimension}`;
  const wasInAddress = search.has(name);
  search.delete(name);
  for (const value of values) search.append(name, value === '' ? NONE : value);
  // with nothing of it in the address the filter was the view's own
  if (values.length === 0 && !wasInAddress) search.append(name, ALL);
}

/** The choices in an address apart from its month and drill-down, saved for the next time. */
export function choicesIn(search: URLSearchParams): Record<string, string> {
  const choices = new URLSearchParams([...search].filter(([name]) => isChoice(name)));
  return choices.size === 0 ? {} : { address: choices.toString() };
}

/** What goes along from one view to another: what the figures are of, not how they are written. */
const GOES_ALONG = ['budget', 'accounts', 'drafts'];

/**
 * The address of a view as it was saved.
 * @param from the address of the view left, whose filters and budget go along
 */
export function viewAddress(company: number, view: string, asOf: string | null, from?: URLSearchParams): string {
  const isAlong = (name: string): boolean => name.startsWith(ONLY) || GOES_ALONG.includes(name);
  const search = new URLSearchParams([...(from ?? [])].filter(([name]) => isAlong(name)));
  if (asOf !== null) search.set('asOf', asOf);
  return `/c/${company}/statements/${view}${search.size === 0 ? '' : `?${search.toString()}`}`;
}

/** The choices as the query string of the API. */
export function statementQuery({ filter, display, ...rest }: StatementChoices): Record<string, string | number | undefined> {
  return { ...rest, ...display, filter: Object.keys(filter).length > 0 ? JSON.stringify(filter) : undefined };
}
