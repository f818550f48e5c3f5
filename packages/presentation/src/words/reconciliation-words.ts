import { formatAmount, type MatchProposal, minor, type NearMatch } from '@wise-margin/core';

const BASES: Readonly<Record<MatchProposal['basis'], string>> = {
  reference: 'Same reference',
  party: 'Same customer or vendor',
  words: 'Same words',
  amount: 'Same amount',
  together: 'Adds up',
};

/** Why lines are taken for the same money: `Same reference, 3 days later`. */
export function matchWords({ basis, days, bank, ledger }: Pick<MatchProposal, 'basis' | 'days' | 'bank' | 'ledger'>): string {
  const lines = Math.max(bank.length, ledger.length);
  const group = lines === 1 ? '' : `, ${lines} lines ${ledger.length > 1 ? 'of the ledger' : 'of the statement'}`;
  return `${BASES[basis]}${group}, ${dayCount(days)}`;
}

function dayCount(days: number): string {
  const count = Math.abs(days);
  if (count === 0) return 'same day';
  return `${count} ${count === 1 ? 'day' : 'days'} ${days > 0 ? 'later' : 'earlier'}`;
}

/** What nearly agrees: `Transposed digits: 5,436.00 on the statement, 5,346.00 in the ledger`. */
export function nearMatchWords(
  near: NearMatch,
  { bank, ledger, exponent }: { readonly bank: number; readonly ledger: number; readonly exponent: number },
): string {
  const money = (amount: number) => formatAmount(minor(Math.abs(amount)), { exponent, unit: 'cents' });
  const amounts = `${money(bank)} on the statement, ${money(ledger)} in the ledger`;
  return near.kind === 'transposed' ? `Transposed digits: ${amounts}` : `Same reference, another amount: ${amounts}`;
}

export const BANK_FORMAT_NAMES = { csv: 'CSV', ofx: 'OFX', camt053: 'camt.053' } as const;
