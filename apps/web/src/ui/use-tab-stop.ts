import { type RefObject, useEffect } from 'react';

/** The current place of a grid, which is its one tab stop. */
const CURRENT = '[data-tab-stop]';

/**
 * Makes a grid one tab stop: its places (elements with `data-row`, drawn with tabIndex -1) leave the
 * order of tabs but for the one last focused, or else the first.
 */
export function useTabStop(container: RefObject<HTMLElement | null>): void {
  // after every drawing, for rows come and go as they are scrolled
  useEffect(() => {
    const within = container.current;
    if (!within || within.querySelector(CURRENT)) return;
    const first =
      within.querySelector<HTMLElement>('[data-row][aria-pressed="true"]') ??
      within.querySelector<HTMLElement>('[data-row]:not([data-column="-1"])');
    setTabStop(within, first);
  });
  useEffect(() => {
    const within = container.current;
    if (!within) return;
    const follow = (event: FocusEvent) => setTabStop(within, (event.target as HTMLElement).closest<HTMLElement>('[data-row]'));
    within.addEventListener('focusin', follow);
    return () => within.removeEventListener('focusin', follow);
  }, [container]);
}

function setTabStop(within: HTMLElement, place: HTMLElement | null): void {
  if (place === null) return;
  for (const each of within.querySelectorAll<HTMLElement>(CURRENT)) {
    each.tabIndex = -1;
    delete each.dataset.tabStop;
  }
  place.tabIndex = 0;
  place.dataset.tabStop = '';
}
