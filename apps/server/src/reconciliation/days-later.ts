import type { IsoDate } from '@wise-margin/core';

const MILLISECONDS_A_DAY = 86_400_000;

/** The day some days later; before it for a negative count. */
export const daysLater = (day: IsoDate, count: number): IsoDate =>
  new Date(Date.parse(`${day}T00:00:00Z`) + count * MILLISECONDS_A_DAY).toISOString().slice(0, 10) as IsoDate;
