import { medianOf } from '../postings/median.ts';
import type { StatisticOver } from './line-set.ts';

/** What is counted in a month, such as guests or units sold: months add up. */
const COUNTED =
  /\b(?:guests?|visits?|visitors?|units?|built|sold|orders?|shipments?|deliver(?:y|ies)|tours?|trips?|hours?|days?|nights?|calls?|tickets?|bookings?|hires?|kayaks?|miles|tons|gallons|transactions?|customers served|applications|admissions|passengers|leads|downloads|produced|processed|returned)\b/i;
/** What is there at a moment and is the same people or things next month: months are averaged. */
const LEVEL =
  /\b(?:head ?count|heads?|employees?|staff|fte|ftes|square (?:feet|foot|meters)|sq ?ft|floor ?space|seats|beds|rooms|stores|locations|branches|vehicles|capacity|rate|price|index|percent|pct|utilization|occupancy|share)\b/i;
/** What the last month says best: what has been reached, or is left. */
const STOCK =
  /\b(?:members|subscribers|subscriptions|backlog|pipeline|active (?:users|accounts|customers)|on hand|outstanding|open orders)\b/i;
/** A series whose months lie this close together, relative to their median, is taken as a level. */
const STEADY = 0.1;
const MONTHS_NEEDED = 4;

/**
 * How a statistic goes over several months, proposed from its name and else from its values: a count of the month is summed,
 * a level is averaged, and what has been reached by the end is the last month's. Without a telling name, values within a tenth
 * of their median in each month are a level; fewer than four months are summed.
 * @param values of all slices together by month, without gaps
 * @example proposedAggregation('tour_guests', [120, 340, 80, 20]) // 'sum'
 */
export function proposedAggregation(name: string, values: readonly number[]): StatisticOver {
  const words = name.replaceAll(/[_-]+/g, ' ').replaceAll(/([a-z])([A-Z])/g, '$1 $2');
  if (STOCK.test(words)) return 'last';
  if (LEVEL.test(words)) return 'average';
  if (COUNTED.test(words)) return 'sum';
  if (values.length < MONTHS_NEEDED) return 'sum';
  const middle = medianOf(values);
  return middle !== 0 && values.every((value) => Math.abs(value - middle) <= STEADY * Math.abs(middle)) ? 'average' : 'sum';
}
