import type { BankLineDto, CashLineDto } from '@wise-margin/contract';

/** A line of a statement, with its reference and party where its text does not have them. */
export const bankWords = ({ text, reference, party }: BankLineDto): string =>
  [
    text,
    reference === '' || text.includes(reference) ? '' : reference,
    party === '' || text.toUpperCase().includes(party.toUpperCase()) ? '' : party,
  ]
    .filter(Boolean)
    .join(' ');
/** A line of the ledger: who, what for, and the document where the memo does not name it. */
export const cashWords = ({ party, memo, document }: Pick<CashLineDto, 'party' | 'memo' | 'document'>): string =>
  [party, memo, memo.includes(document) ? '' : document].filter(Boolean).join(', ');
