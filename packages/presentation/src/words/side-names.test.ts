import { expect, it } from 'vitest';

import { sideNames } from './side-names.ts';

it('the sides of a difference are named by what differs between them', () => {
  expect(sideNames({ compared: 'Actual, Oct 2026', base: 'Budget, Oct 2026' })).toEqual({ compared: 'Actual', base: 'Budget' });
  expect(sideNames({ compared: 'Actual, Oct 2026', base: 'Actual, Oct 2025' })).toEqual({ compared: 'Oct 2026', base: 'Oct 2025' });
});
