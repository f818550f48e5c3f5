/** Shares of a year by month, April first; each adds up to about 1. */
export const SEASONS = {
  dealers: [0.135, 0.125, 0.085, 0.06, 0.05, 0.05, 0.045, 0.04, 0.04, 0.06, 0.13, 0.18],
  store: [0.08, 0.095, 0.11, 0.11, 0.095, 0.06, 0.05, 0.1, 0.14, 0.05, 0.05, 0.06],
  online: [0.08, 0.09, 0.1, 0.09, 0.08, 0.06, 0.06, 0.13, 0.15, 0.05, 0.05, 0.06],
  tours: [0.02, 0.06, 0.17, 0.27, 0.27, 0.13, 0.045, 0.008, 0.005, 0.004, 0.006, 0.012],
  rentals: [0.02, 0.07, 0.18, 0.27, 0.25, 0.13, 0.04, 0.008, 0.006, 0.006, 0.008, 0.012],
  repairs: [0.14, 0.13, 0.1, 0.08, 0.08, 0.08, 0.08, 0.06, 0.05, 0.05, 0.06, 0.09],
} as const;
export type Season = keyof typeof SEASONS;

/** Revenue of the first year held, FY2024, in cents. */
export const FIRST_YEAR_REVENUE: Readonly<Record<Season, number>> = {
  dealers: 150_000_000,
  store: 62_000_000,
  online: 27_000_000,
  tours: 92_000_000,
  rentals: 37_000_000,
  repairs: 12_000_000,
};
export const REVENUE_GROWTH = 1.06;
export const COST_GROWTH = 1.04;
