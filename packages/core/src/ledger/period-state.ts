/** Whether a period takes entries: from everybody, from those allowed, from nobody. */
export const PERIOD_STATES = ['open', 'softClosed', 'closed'] as const;
export type PeriodState = (typeof PERIOD_STATES)[number];
