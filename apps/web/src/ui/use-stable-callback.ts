import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that stays the same from one drawing to the next and always does what the latest one would. */
export function useStableCallback<Arguments extends readonly unknown[], Result>(
  latest: (...given: Arguments) => Result,
): (...given: Arguments) => Result {
  const held = useRef(latest);
  useLayoutEffect(() => {
    held.current = latest;
  });
  return useCallback((...given: Arguments) => held.current(...given), []);
}
