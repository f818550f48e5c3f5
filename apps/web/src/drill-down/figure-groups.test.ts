import { expect, it } from 'vitest';

import { sideNames } from './figure-groups.tsx';

it('the sides of a difference are named by what differs between them', () => {
  expect(sideNames({ compared: 'Actual, Oct 2026', base: 'Budget, Oct 2026' })).toEqual(['Actual', 'Budget']);
  expect(sideNames({ compared: 'Actual, Oct 2026', base: 'Actual, Oct 2025' })).toEqual(['Oct 2026', 'Oct 2025']);
});
