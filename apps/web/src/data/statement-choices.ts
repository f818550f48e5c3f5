import {
  DISPLAY_QUERY_NAMES,
  type DisplayQuery,
  type FilterDto,
  filterParameters,
  isFilterParameter,
  readFilter,
} from '@wise-margin/contract';

/** What a statement is asked for; the address bar holds the same. What is left out is as the view has it. */
export type StatementChoices = {
  readonly asOf: string;
  readonly budget: number | undefined;
  readonly filter: FilterDto;
  readonly accounts: string | undefined;
  readonly drafts: 'yes' | 'no' | undefined;
  readonly display: DisplayQuery;
};

const OTHERS = ['budget', 'accounts', 'drafts', 'show', ...DISPLAY_QUERY_NAMES] as const;
const isChoice = (name: string): boolean => isFilterParameter(name) || (OTHERS as readonly string[]).includes(name);

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
  const drafts = search.get('drafts');
  return {
    asOf,
    budget: Number(search.get('budget')) || undefined,
    filter: readFilter(search),
    accounts: search.get('accounts') ?? undefined,
    drafts: drafts === 'yes' || drafts === 'no' ? drafts : undefined,
    // what is no choice of display is refused by the server with the field's name
    display: Object.fromEntries(
      DISPLAY_QUERY_NAMES.flatMap((name) => (search.has(name) ? [[name, search.get(name)]] : [])),
    ) as DisplayQuery,
  };
}

/** Filters by these values of a dimension; none of them takes the filter off. */
export function setFilter(search: URLSearchParams, dimension: string, values: readonly string[]): void {
  const wasInAddress = dimension in readFilter(search);
  for (const [name] of filterParameters({ [dimension]: [] })) search.delete(name);
  // with nothing of it in the address the filter was the view's own, and every value is asked for
  if (values.length === 0 && wasInAddress) return;
  for (const [name, value] of filterParameters({ [dimension]: values })) search.append(name, value);
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
export function viewAddress(
  { company, view }: { readonly company: number; readonly view: string },
  asOf: string | null,
  from?: URLSearchParams,
): string {
  const isAlong = (name: string): boolean => isFilterParameter(name) || GOES_ALONG.includes(name);
  const search = new URLSearchParams([...(from ?? [])].filter(([name]) => isAlong(name)));
  if (asOf !== null) search.set('asOf', asOf);
  return `/c/${company}/statements/${view}${search.size === 0 ? '' : `?${search.toString()}`}`;
}

/** The choices as the query string of the API. */
export function statementQuery({ filter, display, ...rest }: StatementChoices): Record<string, string | number | FilterDto | undefined> {
  return { ...rest, ...display, filter };
}

/** The same with the columns of percentages, which texts may show where the view hides them. */
export const withShares = (asOf: string): StatementChoices => ({ ...plainChoices(asOf), display: { shares: 'yes' } });
