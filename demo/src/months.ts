/** A calendar month of the demo's history. */
export type DemoMonth = {
  readonly year: number;
  /** 1 to 12 */
  readonly month: number;
  readonly days: number;
  /** fiscal years since the first one, 0 for the first */
  readonly age: number;
  /** position in the fiscal year, 0 to 11 */
  readonly position: number;
};

/** The months of a run of fiscal years. @param startMonth first month of the fiscal year */
export function demoMonths(options: { readonly firstYear: number; readonly years: number; readonly startMonth: number }): DemoMonth[] {
  const { firstYear, years, startMonth } = options;
  return Array.from({ length: years * 12 }, (_, index) => {
    const age = Math.floor(index / 12);
    const position = index % 12;
    const month = ((startMonth - 1 + position) % 12) + 1;
    const year = firstYear + age - (startMonth > 1 && month >= startMonth ? 1 : 0);
    return { year, month, age, position, days: new Date(Date.UTC(year, month, 0)).getUTCDate() };
  });
}

/** `2026-10-05`; a day past the month's end is its last day. */
export function dateIn({ year, month, days }: DemoMonth, day: number): string {
  return `${year}-${String(month).padStart(2, '0')}-${String(Math.min(day, days)).padStart(2, '0')}`;
}

/** The date a number of days later. */
export function daysLater(date: string, days: number): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

/** Year and month as document numbers carry them: `2610`. */
export const monthNumber = (month: DemoMonth): string => `${month.year % 100}${String(month.month).padStart(2, '0')}`;
