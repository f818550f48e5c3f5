import { useState } from 'react';

/** Names for items whose key may change while they are edited: the name stays, so that their fields keep the focus. */
export function useIdentities() {
  const [held, setHeld] = useState<{ readonly names: ReadonlyMap<string, string>; readonly added: number }>({ names: new Map(), added: 0 });
  return {
    of: (key: string): string => held.names.get(key) ?? key,
    /** A new item; its key may have been another's before. */
    add: (key: string) => setHeld(({ names, added }) => ({ names: new Map(names).set(key, `added ${added}`), added: added + 1 })),
    rename: (from: string, to: string) => {
      if (from !== to) setHeld(({ names, added }) => ({ names: new Map(names).set(to, names.get(from) ?? from), added }));
    },
  };
}
