import { describe, expect, it } from 'vitest';

import { addressesOf } from './mail-dialog.tsx';

describe('addresses as they are typed', () => {
  it.each([
    ['a@b.com', ['a@b.com']],
    [' a@b.com, c@d.com;e@f.com\nc@d.com ', ['a@b.com', 'c@d.com', 'e@f.com', 'c@d.com']],
    ['', []],
    [' ,; \n', []],
  ])('%j', (typed, expected) => {
    expect(addressesOf(typed)).toEqual(expected);
  });
});
