import { useLayoutEffect, useRef } from 'react';

/**
 * Gives focus back to what opened a panel when it closes: the element that had it then, or what is at its
 * place by now.
 * @param find the place to focus where the opener is gone, or nobody clicked it, such as after a link
 */
export function useReturnFocus(isOpen: boolean, find: () => HTMLElement | null): void {
  const opener = useRef<HTMLElement | null>(null);
  const wasOpen = useRef(false);
  const fallback = useRef(find);
  useLayoutEffect(() => {
    // the panel takes focus only after this, so what has it still is the opener
    if (isOpen && !wasOpen.current) opener.current = document.activeElement as HTMLElement | null;
    if (isOpen) fallback.current = find;
    if (!isOpen && wasOpen.current) {
      const target = opener.current?.isConnected && opener.current !== document.body ? opener.current : fallback.current();
      target?.focus();
    }
    wasOpen.current = isOpen;
  });
}
