import { expect, it } from 'vitest';

import { inRow } from './in-row.ts';

it.each([
  [[], ''],
  [['A'], 'A'],
  [['A', 'B'], 'A and B'],
  [['A', 'B', 'C'], 'A, B and C'],
  [['A', 'B', 'C', 'D', 'E'], 'A, B and 3 more'],
])('names %j are %j in a row', (names, words) => expect(inRow(names)).toBe(words));
