import { useEffect, useRef, useState } from 'react';

import { useStableCallback } from '../ui/use-stable-callback.ts';

// long enough that arrows held down write the address once, short enough that a link copied by hand has it
const ADDRESS_MS = 300;

/**
 * The account whose row is picked. The address holds it too and may change it, and is written when moving
 * about has paused: writing it at each step would be felt while typing.
 * @param write puts an account into the address
 */
export function usePickedRow(
  inAddress: string | null,
  write: (account: string) => void,
): readonly [picked: string | null, pick: (account: string) => void] {
  const [picked, setPicked] = useState(inAddress);
  const [seen, setSeen] = useState(inAddress);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  if (seen !== inAddress) {
    setSeen(inAddress);
    setPicked(inAddress);
  }
  useEffect(() => () => clearTimeout(waiting.current), []);
  const pick = useStableCallback((account: string) => {
    if (account === picked) return;
    setPicked(account);
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => write(account), ADDRESS_MS);
  });
  return [picked, pick];
}
