import type { DemoMonth } from '../months.ts';
import type { Random } from '../random.ts';
import { DEPARTMENTS } from './setting.ts';
import { REVENUE_GROWTH, SEASONS } from './shape.ts';

const HEADS: Readonly<Record<string, number>> = { Workshop: 14, Store: 8, Tours: 4, Office: 5 };

/** Headcount, kayaks, guests, rental days and web visits by month as a statistics file. */
export function ternIslandStatisticsCsv(months: readonly DemoMonth[], random: Random): string {
  const rows = ['series,period,value,department,location'];
  for (const month of months) {
    const period = `${2024 + month.age}-${String(month.position + 1).padStart(2, '0')}`;
    const growth = REVENUE_GROWTH ** month.age;
    const seasonal = (season: keyof typeof SEASONS, yearly: number) =>
      Math.round(yearly * growth * SEASONS[season][month.position]! * random.around(0.04));
    for (const department of DEPARTMENTS) {
      const guides = department === 'Tours' ? Math.round(16 * SEASONS.tours[month.position]! * 3.5) : 0;
      rows.push(
        `headcount,${period},${HEADS[department]! + guides + (month.age >= 2 && department === 'Workshop' ? 1 : 0)},${department},`,
      );
    }
    rows.push(
      `kayaks_built,${period},${Math.round(980 * growth * (0.5 / 12 + 0.5 * SEASONS.dealers[(month.position + 2) % 12]!))},Workshop,`,
    );
    rows.push(
      `kayaks_sold_dealers,${period},${seasonal('dealers', 820)},Workshop,`,
      `kayaks_sold_store,${period},${seasonal('store', 190)},Store,`,
    );
    rows.push(
      `tour_guests,${period},${seasonal('tours', 9400)},Tours,`,
      `rental_days,${period},${seasonal('rentals', 7600)},Tours,`,
      `web_visits,${period},${seasonal('online', 260_000)},Store,Online`,
    );
  }
  return `${rows.join('\n')}\n`;
}
