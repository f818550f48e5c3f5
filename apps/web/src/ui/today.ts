/** A day where the person sits, as `2026-11-09`. */
export const localDay = (date: Date): string =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

/** Today where the person sits, as `2026-11-09`. */
export const today = (): string => localDay(new Date());

/** The calendar year where the person sits. */
export const thisYear = (): number => new Date().getFullYear();
