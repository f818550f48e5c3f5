import { type FilterDto, filterParameters, isFilterParameter, readFilter } from '@wise-margin/contract';

import { useSearch } from '../ui/use-search.ts';

/** An account's entries over a span, as the drill-down leads to them. */
export type AccountStep = {
  readonly account: string;
  readonly from: string;
  readonly to: string;
  readonly filter: FilterDto;
  readonly opening: boolean;
  /** draft entries included too */
  readonly drafts: boolean;
  /** words that lines are found by, and what they are sorted by */
  readonly find?: string;
  readonly sort?: 'date' | 'amount';
};
/** The open drill-down, outermost step first; the address bar holds the same. */
export type DrillDownState = {
  readonly figures: readonly { readonly line: string; readonly column: string }[];
  /** what the innermost figure is laid out by; null for its accounts or parts */
  readonly by: string | null;
  readonly account: AccountStep | null;
  readonly entry: number | null;
};

/** The filter of an account's entries stands beside the statement's own. */
const SLICE = 'slice';
const NAMES: readonly string[] = ['figure', 'account', 'from', 'to', 'opening', 'withDrafts', 'entry', 'groupBy', 'findLines', 'sortLines'];
const isDrillDownParameter = (name: string): boolean => NAMES.includes(name) || isFilterParameter(name, SLICE);

function read(search: URLSearchParams): DrillDownState {
  const figures = search.getAll('figure').flatMap((text) => {
    const [line, column] = text.split('~');
    return line && column ? [{ line, column }] : [];
  });
  const account = search.get('account');
  const from = search.get('from');
  const to = search.get('to');
  const entry = Number(search.get('entry'));
  return {
    figures,
    by: search.get('groupBy'),
    account:
      account && from && to
        ? {
            account,
            from,
            to,
            filter: readFilter(search, SLICE),
            opening: search.get('opening') === 'true',
            drafts: search.get('withDrafts') === 'true',
            ...(search.get('findLines') ? { find: search.get('findLines')! } : {}),
            ...(search.get('sortLines') === 'amount' ? { sort: 'amount' as const } : {}),
          }
        : null,
    entry: Number.isInteger(entry) && entry > 0 ? entry : null,
  };
}

/** The drill-down in the address bar, and the steps along it. Each step is one step of the browser's history. */
export function useDrillDownAddress() {
  const [search, setSearch] = useSearch();
  const state = read(search);
  const go = (next: DrillDownState) =>
    setSearch((before) => {
      for (const name of [...before.keys()]) if (isDrillDownParameter(name)) before.delete(name);
      for (const { line, column } of next.figures) before.append('figure', `${line}~${column}`);
      if (next.by !== null) before.set('groupBy', next.by);
      if (next.account) {
        before.set('account', next.account.account);
        before.set('from', next.account.from);
        before.set('to', next.account.to);
        for (const [name, value] of filterParameters(next.account.filter, SLICE)) before.append(name, value);
        if (next.account.opening) before.set('opening', 'true');
        if (next.account.drafts) before.set('withDrafts', 'true');
        if (next.account.find) before.set('findLines', next.account.find);
        if (next.account.sort === 'amount') before.set('sortLines', 'amount');
      }
      if (next.entry !== null) before.set('entry', String(next.entry));
    });
  return {
    state,
    isOpen: state.figures.length > 0 || state.account !== null || state.entry !== null,
    openFigure: (figure: DrillDownState['figures'][number]) => go({ figures: [figure], by: null, account: null, entry: null }),
    addFigure: (figure: DrillDownState['figures'][number]) =>
      go({ figures: [...state.figures, figure], by: null, account: null, entry: null }),
    openAccount: (account: AccountStep) => go({ ...state, account, entry: null }),
    openEntry: (entry: number) => go({ ...state, entry }),
    toFigure: (position: number) =>
      go({
        figures: state.figures.slice(0, position + 1),
        by: position === state.figures.length - 1 ? state.by : null,
        account: null,
        entry: null,
      }),
    toAccount: () => go({ ...state, entry: null }),
    close: () => go({ figures: [], by: null, account: null, entry: null }),
    layOut: (by: string | null) => go({ ...state, by, account: null, entry: null }),
    back: () => {
      if (state.entry !== null) go({ ...state, entry: null });
      else if (state.account !== null) go({ ...state, account: null });
      else if (state.by !== null) go({ ...state, by: null });
      else go({ ...state, figures: state.figures.slice(0, -1) });
    },
  };
}
export type DrillDownAddress = ReturnType<typeof useDrillDownAddress>;
