import { describe, expect, it } from 'vitest';

import { MATCH, matchNames } from './match-names.ts';

const names = [
  ['Freight in', '5200'],
  ['Freight', '6500'],
  ['Outbound freight'],
  ['Airfreight'],
  ['Café Löwe'],
  ['Income statement', 'P&L'],
];
const found = (text: string, most = 10) =>
  matchNames(text.toLowerCase().split(' ').filter(Boolean), names, most).map(({ at, score }) => [names[at]![0], score]);

describe('names', () => {
  it('are the very text, begin with it, have a word that does, or hold it, in this order', () =>
    expect(found('freight')).toEqual([
      ['Freight', MATCH.exact],
      ['Freight in', MATCH.beginning],
      ['Outbound freight', MATCH.words],
      ['Airfreight', MATCH.within],
    ]));
  it('answer to words in any order', () => expect(found('in fre')).toEqual([['Freight in', MATCH.words]]));
  it('answer to their synonyms, such as an account number', () => {
    expect(found('p&l')).toEqual([['Income statement', MATCH.exact]]);
    expect(found('65')).toEqual([['Freight', MATCH.beginning]]);
  });
  it('may have any letters', () => expect(found('löwe')).toEqual([['Café Löwe', MATCH.words]]));
  it('are no more than asked for, and none for no words', () => {
    expect(found('freight', 1)).toEqual([['Freight', MATCH.exact]]);
    expect(found('')).toEqual([]);
  });
});
