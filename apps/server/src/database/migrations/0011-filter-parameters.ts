import type { Migration } from './migration.ts';

/** Filters have one form in every address: `filter.department=Tours`; the last choices of each person are such an address. */
export const filterParameters: Migration = {
  name: '0011-filter-parameters',
  statements: [`UPDATE view_choices SET choices = replace(replace(choices, '"only.', '"filter.'), '&only.', '&filter.')`],
};
