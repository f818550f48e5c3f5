import { useEffect, useRef } from 'react';

/** Single-key commands of a page, by `event.key`; silent while a person types in a field, and letters in a dialog. */
export function useKeys(commands: Readonly<Record<string, (event: KeyboardEvent) => void>>): void {
  const latest = useRef(commands);
  useEffect(() => {
    latest.current = commands;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (target?.closest('input, textarea, select, [contenteditable]')) return;
      // a letter typed on a figure is meant for it: the cells of grids and lists, and dialogs, keep letters to themselves
      if (/^[a-z]$/i.test(event.key) && target?.closest('[role="grid"], [role="gridcell"], [data-row], [role="dialog"]')) return;
      if (event.key.length === 1 && target?.closest('[role="dialog"]')) return;
      latest.current[event.key]?.(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
