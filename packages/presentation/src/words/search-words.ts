import type { SearchHitDto } from '@wise-margin/contract';

const KINDS: Readonly<Record<SearchHitDto['kind'], string>> = {
  month: 'Month',
  view: 'Statement',
  account: 'Account',
  budget: 'Budget',
  pack: 'Pack',
  finding: 'Finding',
  party: 'Customer or vendor',
  entry: 'Entry',
  page: 'Page',
  command: 'Command',
};
/** What kind of thing a search found. */
export const searchKindWords = (kind: SearchHitDto['kind']): string => KINDS[kind];
