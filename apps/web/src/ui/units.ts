import type { DisplayUnit } from '@wise-margin/core';

/** The units amounts are shown in, by their words. */
export const UNITS: readonly (readonly [DisplayUnit, string])[] = [
  ['cents', 'Dollars and cents'],
  ['dollars', 'Dollars'],
  ['thousands', 'Thousands'],
  ['millions', 'Millions'],
];
