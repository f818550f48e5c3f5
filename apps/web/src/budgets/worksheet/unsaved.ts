import type { BudgetEditDto, FilterDto } from '@wise-margin/contract';

import { newKey } from '../../data/new-key.ts';

/** Edits that were made and not yet saved, kept by the browser so that closing the page loses nothing. */
export type Unsaved = { readonly edits: readonly BudgetEditDto[]; readonly filter: FilterDto; readonly key: string };

const keyOf = (company: number, budget: number) => `wise-margin.unsaved.${company}.${budget}`;

export function readUnsaved(company: number, budget: number): Unsaved[] {
  const text = localStorage.getItem(keyOf(company, budget));
  if (text === null) return [];
  try {
    return JSON.parse(text) as Unsaved[];
  } catch {
    // what cannot be read was not written by this page; there is nothing to take up
    return [];
  }
}

export function keepUnsaved(company: number, budget: number, unsaved: readonly Unsaved[]): void {
  if (unsaved.length === 0) localStorage.removeItem(keyOf(company, budget));
  else localStorage.setItem(keyOf(company, budget), JSON.stringify(unsaved));
}

/** Who works in this browser: changes from elsewhere are asked about, and undo is of one's own. */
export function ownSession(): string {
  const held = localStorage.getItem('wise-margin.session');
  if (held !== null) return held;
  const made = newKey();
  localStorage.setItem('wise-margin.session', made);
  return made;
}
