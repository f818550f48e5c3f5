import { useState } from 'react';

/**
 * A text being written, kept in this tab until it is saved or canceled, so that another page, a reload, or a save that
 * fails behind a closed panel loses nothing.
 * @param key of what the text is about, such as `comment 1 income freight 2026-10`
 * @returns the text, null for none; and what sets it
 */
export function useKeptText(key: string): readonly [string | null, (text: string | null) => void] {
  const at = `wm.text.${key}`;
  const [text, setText] = useState(() => sessionStorage.getItem(at));
  return [
    text,
    (next) => {
      setText(next);
      if (next === null) sessionStorage.removeItem(at);
      else sessionStorage.setItem(at, next);
    },
  ];
}
