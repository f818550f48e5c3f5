/** A figure from outside that a ratio, or the share a line has of the percent base, is held against. */
export type Benchmark = {
  readonly kind: 'industry' | 'target';
  /** percentages as fractions, other ratios in their own unit */
  readonly value: number;
};
/** Benchmarks by the key of the line. */
export type Benchmarks = ReadonlyMap<string, Benchmark>;
export const NO_BENCHMARKS: Benchmarks = new Map();
