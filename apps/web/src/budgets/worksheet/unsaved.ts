import type { BudgetEditDto, FilterDto } from '@wise-margin/contract';

import { newKey } from '../../api/new-key.ts';

/**
 * Edits that were made and not yet saved, kept by the browser so that closing the page loses nothing. Each is stored
 * under a name of its own: two windows of one budget never write over what the other has stored.
 */
export type Unsaved = {
  readonly edits: readonly BudgetEditDto[];
  readonly filter: FilterDto;
  readonly key: string;
  /** the version of the budget that was looked at: what others changed since is asked about */
  readonly base: number;
  /** milliseconds since 1970, by which the edits of several windows are put in order */
  readonly at: number;
};

const prefixOf = (company: number, budget: number) => `wise-margin.unsaved.${company}.${budget}.`;

/** What any window of this browser left unsaved, the oldest first. */
export function readUnsaved(company: number, budget: number): Unsaved[] {
  const prefix = prefixOf(company, budget);
  const names = Array.from({ length: localStorage.length }, (_, index) => localStorage.key(index) ?? '');
  const kept = names
    .filter((name) => name.startsWith(prefix))
    .flatMap((name): Unsaved[] => {
      try {
        return [JSON.parse(localStorage.getItem(name) ?? '') as Unsaved];
      } catch {
        // what cannot be read was not written by this page; there is nothing to take up
        return [];
      }
    });
  return kept.sort((a, b) => a.at - b.at);
}

export const keepUnsaved = (company: number, budget: number, { edits, filter, key, base, at }: Unsaved): void =>
  localStorage.setItem(prefixOf(company, budget) + key, JSON.stringify({ edits, filter, key, base, at }));

/** Lets go of an edit that was saved, refused, or given up. */
export const forgetUnsaved = (company: number, budget: number, key: string): void =>
  localStorage.removeItem(prefixOf(company, budget) + key);

/** The session of this window: changes from any other, another window too, are asked about, and undo is of its own changes. */
export function ownSession(): string {
  const held = sessionStorage.getItem('wise-margin.session');
  if (held !== null) return held;
  const made = newKey();
  sessionStorage.setItem('wise-margin.session', made);
  return made;
}
