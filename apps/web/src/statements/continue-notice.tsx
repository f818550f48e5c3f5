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
  const chosen = choicesIn(search)['address'] ?? '';
  const [opened] = useState(chosen);
  const [hasChosen, setHasChosen] = useState(false);
  const [last, setLast] = useState('');
  const listed = choices?.['address'] ?? '';
  // the list is followed until the first choice of this visit: from then on, what it has is no longer of the last time
  if (!hasChosen && chosen !== opened) setHasChosen(true);
  else if (!hasChosen && listed !== last) setLast(listed);
  const words = rememberedWords(last, budgets);
  if (words === '' || chosen !== '') return null;
  const next = new URLSearchParams(last);
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
