/** A seeded source of numbers: the same seed gives the same sequence on every machine. */
export type Random = {
  /** from 0 up to, not including, 1 */
  readonly next: () => number;
  /** a number near 1, at most `width` away */
  readonly around: (width: number) => number;
  readonly between: (low: number, high: number) => number;
  readonly pick: <T>(items: readonly T[]) => T;
};

/** Mulberry32, a 32-bit generator by Tommy Ettinger (public domain), from memory. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    around: (width) => 1 + (next() * 2 - 1) * width,
    between: (low, high) => Math.floor(low + next() * (high - low + 1)),
    pick: (items) => items[Math.floor(next() * items.length)]!,
  };
}
