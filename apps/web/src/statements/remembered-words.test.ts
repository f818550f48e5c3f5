import { describe, expect, it } from 'vitest';

import { rememberedWords } from './remembered-words.ts';

const words = (address: string) => rememberedWords(address, [{ id: 3, name: 'Annual plan' }]);

describe('what was chosen the last time', () => {
  it.each([
    ['filter.department=Tours&show=charts', 'with Tours, in charts'],
    ['filter.department=Tours&filter.department=Store&filter.department=(none)', 'with Tours, Store and no department'],
    ['filter.department=(all)&unit=thousands', 'with every department, in thousands'],
    ['budget=3&accounts=4000-4999&drafts=yes', 'with accounts 4000-4999, Annual plan, draft entries'],
    ['budget=8', 'with another budget'],
    ['negatives=minus', 'with your display settings'],
    ['unit=thousands', 'in thousands'],
    ['', ''],
    ['drafts=no', ''],
  ])('%s reads “%s”', (address, expected) => expect(words(address)).toBe(expected));
});
