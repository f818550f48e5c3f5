import type { GridDto } from '@wise-margin/contract';
import { describe, expect, it } from 'vitest';

import { targetsOf } from './basis-targets.ts';

const line = (key: string, parent: string | null, account: string | null = null, isZero = false) => ({
  key,
  parent,
  account,
  isZero,
  name: key,
});
const grid = {
  lines: [
    line('Costs', null),
    line('Materials', 'Costs'),
    line('resin', 'Materials', '5010'),
    line('cloth', 'Materials', '5020'),
    line('old', 'Materials', '5030', true),
    line('Labor', 'Costs'),
    line('wages', 'Labor', '5110'),
    line('rent', null, '6110'),
  ],
} as unknown as GridDto;
const targets = (account: string, kind: Parameters<typeof targetsOf>[2], picked: readonly string[] = []) =>
  targetsOf(grid, { account, picked }, kind).map(({ words, accounts }) => [words, accounts]);

describe('the lines a basis can be set on at once', () => {
  it('go from the line to its group, its section and all, without accounts that hold nothing', () =>
    expect(targets('5010', 'sameMonths')).toEqual([
      ['this line', ['5010']],
      ['all 2 lines of Materials', ['5010', '5020']],
      ['all 3 lines of Costs', ['5010', '5020', '5110']],
      ['all 4 lines of the budget', ['5010', '5020', '5110', '6110']],
    ]));
  it('are the selected lines too, where the line is among them', () => {
    expect(targets('5010', 'sameMonths', ['5010', '6110'])[1]).toEqual(['the 2 selected lines', ['5010', '6110']]);
    expect(targets('5020', 'sameMonths', ['5010', '6110']).some(([words]) => String(words).includes('selected'))).toBe(false);
  });
  it('leave out a group that is the line alone', () =>
    expect(targets('5110', 'trend').map(([words]) => words)).toEqual(['this line', 'all 3 lines of Costs', 'all 4 lines of the budget']));
  it.each(['driverRate', 'fixedMonths', 'payroll', 'typedTotal'] as const)(
    'are the line alone for %s, which has amounts of its own',
    (kind) => expect(targets('5010', kind)).toEqual([['this line', ['5010']]]),
  );
  it('are the line alone for an account the grid does not show', () => expect(targets('9999', 'typed')).toEqual([['this line', ['9999']]]));
});
