import { minor } from '@wise-margin/core';
import { expect, it } from 'vitest';

import { overrideWords } from './override-words.ts';

const line = (held: number) => ({ months: Array.from({ length: 12 }, (_, month) => ({ amount: minor(0), held: month < held })) });

it('counts the manual overrides of a line, and says nothing without any', () => {
  expect([0, 1, 12].map((held) => overrideWords(line(held)))).toEqual(['', '; 1 manual override', '; 12 manual overrides']);
});
