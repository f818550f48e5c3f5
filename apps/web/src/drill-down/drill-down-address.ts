import type { FilterDto } from '@wise-margin/contract';
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
};
/** The open drill-down, outermost step first; the address bar holds the same. */
export type DrillDownState = {
  readonly figures: readonly { readonly line: string; readonly column: string }[];
  readonly account: AccountStep | null;
  readonly entry: number | null;
};

/** Names in the address that belong to the drill-down. */
export const DRILL_DOWN_NAMES = ['figure', 'account', 'from', 'to', 'slice', 'opening', 'withDrafts', 'entry'] as const;

function read(search: URLSearchParams): DrillDownState {
  const figures = search.getAll('figure').flatMap((text) => {
    const [line, column] = text.split('~');
    return line && column ? [{ line, column }] : [];
  });
  const account = search.get('account');
  const from = search.get('from');
  const to = search.get('to');
  const entry = Number(search.get('entry'));
  let filter: FilterDto = {};
  try {
    filter = JSON.parse(search.get('slice') ?? '{}') as FilterDto;
  } catch {
    filter = {}; // an address cut short in a mail still opens the account, without its slice
  }
  return {
    figures,
    account:
      account && from && to
        ? { account, from, to, filter, opening: search.get('opening') === 'true', drafts: search.get('withDrafts') === 'true' }
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
      for (const name of DRILL_DOWN_NAMES) before.delete(name);
      for (const { line, column } of next.figures) before.append('figure', `${line}~${column}`);
      if (next.account) {
        before.set('account', next.account.account);
        before.set('from', next.account.from);
        before.set('to', next.account.to);
        if (Object.keys(next.account.filter).length > 0) before.set('slice', JSON.stringify(next.account.filter));
        if (next.account.opening) before.set('opening', 'true');
        if (next.account.drafts) before.set('withDrafts', 'true');
      }
      if (next.entry !== null) before.set('entry', String(next.entry));
    });
  return {
    state,
    isOpen: state.figures.length > 0 || state.account !== null || state.entry !== null,
    openFigure: (figure: DrillDownState['figures'][number]) => go({ figures: [figure], account: null, entry: null }),
    addFigure: (figure: DrillDownState['figures'][number]) => go({ figures: [...state.figures, figure], account: null, entry: null }),
    openAccount: (account: AccountStep) => go({ ...state, account, entry: null }),
    openEntry: (entry: number) => go({ ...state, entry }),
    toFigure: (position: number) => go({ figures: state.figures.slice(0, position + 1), account: null, entry: null }),
    toAccount: () => go({ ...state, entry: null }),
    close: () => go({ figures: [], account: null, entry: null }),
    back: () => {
      if (state.entry !== null) go({ ...state, entry: null });
      else if (state.account !== null) go({ ...state, account: null });
      else go({ ...state, figures: state.figures.slice(0, -1) });
    },
  };
}
export type DrillDownAddress = ReturnType<typeof useDrillDownAddress>;
