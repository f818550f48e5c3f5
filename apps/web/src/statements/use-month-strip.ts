import { useState } from 'react';

const KEY = 'wm.monthStrip';
/** Below this window height the strip starts closed, so that the statement gets its rows. */
const TALL = 880;

/** Whether the strip of months is open above a statement: as it was left, else open in a tall window. */
export function useMonthStrip(): { readonly isOpen: boolean; readonly toggle: () => void } {
  const [isOpen, setOpen] = useState(() => {
    const remembered = localStorage.getItem(KEY);
    return remembered === null ? window.innerHeight >= TALL : remembered === 'open';
  });
  return {
    isOpen,
    toggle: () => {
      localStorage.setItem(KEY, isOpen ? 'closed' : 'open');
      setOpen(!isOpen);
    },
  };
}
