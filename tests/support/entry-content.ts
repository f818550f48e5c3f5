import type { EntryDto } from '@wise-margin/contract';

/** An entry as it is sent back to be corrected. */
export const contentOf = ({ date, source, kind, state, lines }: EntryDto) => ({
  date,
  source,
  kind,
  state,
  lines: lines.map(({ account, debit, credit, memo, party, document, due, dimensions }) => ({
    account,
    amount: (debit ?? 0) - (credit ?? 0),
    dimensions,
    memo,
    party,
    document,
    due,
  })),
});
export type EntryAsContent = ReturnType<typeof contentOf>;
