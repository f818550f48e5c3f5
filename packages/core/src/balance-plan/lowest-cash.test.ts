import { expect, it } from 'vitest';

import { lowestCash } from './lowest-cash.ts';

it.each([
  ['a month end', 100, [90, 20, 50], 1],
  ['the opening balance, before every month', 10, [90, 20, 50], -1],
  ['the earliest of equals', 20, [20, 20], -1],
  ['below zero', 5, [-1, -7, -7], 1],
  ['without months', 5, [], -1],
] as const)('cash is lowest at %s', (_, opening, months, at) => expect(lowestCash(opening, months)).toBe(at));
