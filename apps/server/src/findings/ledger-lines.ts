import type { LedgerLines } from '@wise-margin/core';

import { type Books, type BooksCache, PARTY, SOURCE } from '../companies/index.ts';

/** The lines of a ledger with what their numbers stand for. */
export async function ledgerLines(booksCache: BooksCache, books: Books): Promise<LedgerLines> {
  const table = await booksCache.lines(books);
  return {
    table,
    combinations: books.combinations,
    further: { party: PARTY, source: SOURCE, parties: books.parties, sources: books.sourceJournals },
  };
}
