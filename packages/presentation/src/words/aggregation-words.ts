import type { StatisticOver } from '@wise-margin/core';

/** How a statistic goes over several months. */
export const AGGREGATION_WORDS: Readonly<Record<StatisticOver, string>> = {
  sum: 'Sum of the months',
  average: 'Average of the months',
  last: 'Last month',
};
