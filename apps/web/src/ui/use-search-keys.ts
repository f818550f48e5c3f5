import { useEffect, useRef } from 'react';

/** `/` outside of fields, and Ctrl+K anywhere. */
export function useSearchKeys(open: () => void): void {
  const latest = useRef(open);
  useEffect(() => {
    latest.current = open;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey) return;
      const isInField = Boolean((event.target as HTMLElement | null)?.closest('input, textarea, select, [contenteditable], [role=dialog]'));
      const isSlash = event.key === '/' && !event.ctrlKey && !event.metaKey && !isInField;
      const isControlK = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k';
      if (!isSlash && !isControlK) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
