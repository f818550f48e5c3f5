import { expect, it } from 'vitest';

import { priceVolumeWords } from './finding-words.ts';
import { matchWords, nearMatchWords } from './reconciliation-words.ts';

it.each([
  [{ basis: 'reference', days: 3, bank: [1], ledger: [1] }, 'Same reference, 3 days later'],
  [{ basis: 'party', days: 1, bank: [1], ledger: [1] }, 'Same customer or vendor, 1 day later'],
  [{ basis: 'words', days: 0, bank: [1], ledger: [1] }, 'Same words, same day'],
  [{ basis: 'amount', days: -2, bank: [1], ledger: [1] }, 'Same amount, 2 days earlier'],
  [{ basis: 'together', days: 1, bank: [1], ledger: [1, 2, 3] }, 'Adds up, 3 lines of the ledger, 1 day later'],
  [{ basis: 'together', days: 1, bank: [1, 2], ledger: [1] }, 'Adds up, 2 lines of the statement, 1 day later'],
] as const)('%o reads %s', (match, words) => expect(matchWords(match)).toBe(words));

it('amounts that nearly agree are both said, without their signs', () => {
  const amounts = { bank: -358_575, ledger: -385_575, exponent: 2 };
  expect(nearMatchWords({ bank: 1, ledger: 1, kind: 'transposed', difference: 27_000 }, amounts)).toBe(
    'Transposed digits: 3,585.75 on the statement, 3,855.75 in the ledger',
  );
  expect(nearMatchWords({ bank: 1, ledger: 1, kind: 'sameReference', difference: 27_000 }, amounts)).toBe(
    'Same reference, another amount: 3,585.75 on the statement, 3,855.75 in the ledger',
  );
});

it('parts by volume have names an analyst uses', () =>
  expect((['quantity', 'mix', 'efficiency', 'price', 'unmatched'] as const).map(priceVolumeWords)).toEqual([
    'Volume',
    'Mix',
    'Efficiency',
    'Price or rate',
    'Without a volume to compare',
  ]));
