import { useState } from 'react';

/** An item of a list whose key may change while it is edited. */
type Identity = { readonly name: string; readonly isAdded: boolean };

/** Names for items whose key may change while they are edited: the name stays, so that their fields keep the focus. */
export function useIdentities() {
  const [held, setHeld] = useState<{ readonly of: ReadonlyMap<string, Identity>; readonly added: number }>({ of: new Map(), added: 0 });
  return {
    of: (key: string): string => held.of.get(key)?.name ?? key,
    /** whether it was added here, and so nobody elsewhere knows its key */
    isAdded: (key: string): boolean => held.of.get(key)?.isAdded ?? false,
    /** A new item; its key may have been another's before. */
    add: (key: string) =>
      setHeld(({ of, added }) => ({ of: new Map(of).set(key, { name: `added ${added}`, isAdded: true }), added: added + 1 })),
    rename: (from: string, to: string) => {
      if (from !== to) setHeld(({ of, added }) => ({ of: new Map(of).set(to, of.get(from) ?? { name: from, isAdded: false }), added }));
    },
  };
}
