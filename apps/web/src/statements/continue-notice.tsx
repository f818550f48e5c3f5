import { useState } from 'react';
import { Link, useLocation } from 'react-router';

import { choicesIn } from '../data/statement-choices.ts';
import { useSearch } from '../ui/use-search.ts';
import { rememberedWords } from './remembered-words.ts';

/** On a view opened as it was saved: the choices made in it the last time, at a click. */
export function ContinueNotice({
  choices,
  budgets,
}: {
  /** what was last chosen in the view; left out until the views are loaded */
  readonly choices: Readonly<Record<string, string>> | undefined;
  readonly budgets: readonly { readonly id: number; readonly name: string }[];
}) {
  const { pathname } = useLocation();
  const [search] = useSearch();
  // as they were when the view was opened: choices made since then are no longer those of the last time
  const [before, setBefore] = useState(choices);
  if (before === undefined && choices !== undefined) setBefore(choices);
  const address = before?.['address'] ?? '';
  const words = rememberedWords(address, budgets);
  if (words === '' || Object.keys(choicesIn(search)).length > 0) return null;
  const next = new URLSearchParams(address);
  const asOf = search.get('asOf');
  if (asOf !== null) next.set('asOf', asOf);
  return (
    <p className="no-print pb-1 text-[13px] text-ink-soft">
      <Link className="link" to={`${pathname}?${next.toString()}`}>
        Continue {words}
      </Link>
    </p>
  );
}
