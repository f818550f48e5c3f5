import { type RefObject, useEffect } from 'react';

/**
 * Keeps the focus on the page when what had it goes away, such as a link that led to another page or a form that was saved: the
 * nearest of its surroundings that is left takes it, in the end the page itself. Whatever places focus itself goes first, since
 * this looks only after a change is done.
 * @param page takes focus (`tabIndex`) and holds everything that is watched
 */
export function useKeptFocus(page: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const within = page.current;
    if (!within) return;
    let last: readonly Element[] = [];
    const follow = ({ target }: FocusEvent): void => {
      last = pathOf(target as Element, within);
    };
    const look = (): void => {
      const [focused, ...around] = last;
      if (document.activeElement !== document.body || !focused || focused.isConnected) return;
      const left = around.find((element) => element.isConnected && element.hasAttribute('tabindex'));
      last = [];
      (left instanceof HTMLElement ? left : within).focus({ preventScroll: true });
    };
    const observer = new MutationObserver(look);
    observer.observe(within, { childList: true, subtree: true });
    within.addEventListener('focusin', follow);
    return () => {
      observer.disconnect();
      within.removeEventListener('focusin', follow);
    };
  }, [page]);
}

/** An element and all it is in, up to the page. */
function pathOf(element: Element, page: Element): Element[] {
  const path = [element];
  for (let around = element.parentElement; around && around !== page; around = around.parentElement) path.push(around);
  return path;
}
