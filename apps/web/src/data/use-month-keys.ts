import { useKeys } from '../ui/use-keys.ts';
import { useAsOf, useCompany } from './company.ts';

/** `,` and `.` step the as-of month back and forward, within the company's fiscal years. */
export function useMonthKeys(): void {
  const company = useCompany();
  const [asOf, setAsOf] = useAsOf();
  const step = (by: number) => {
    const next = company.periods[company.periods.findIndex(({ key }) => key === asOf) + by];
    if (asOf !== null && next) setAsOf(next.key);
  };
  useKeys({ ',': () => step(-1), '.': () => step(1) });
}
