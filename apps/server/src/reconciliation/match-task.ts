import { type BankLine, type CashLine, type MatchProposals, proposeMatches } from '@wise-margin/core';

import type { Task } from '../work/task.ts';
import type { WorkPool } from '../work/work-pool.ts';

export type OpenLines = { readonly bank: readonly BankLine[]; readonly ledger: readonly CashLine[] };

/** Compares the open lines of a cash account with those of its statements. */
export const MATCHES: Task<OpenLines, MatchProposals> = {
  name: 'matches',
  run: ({ bank, ledger }) => Promise.resolve(proposeMatches({ bank, ledger })),
};
/** What this feature runs apart from the thread that answers requests. */
export const RECONCILIATION_TASKS = [MATCHES];

/** Fewer pairs take milliseconds, less than handing them to a worker thread. */
const PAIRS_AT_ONCE = 200_000;
const LONGEST = 60_000;

/** Proposals for a cash account: those of a month where asked, those of years of open lines in a worker thread. */
export function matchesOf(work: WorkPool, open: OpenLines): Promise<MatchProposals> {
  if (open.bank.length * open.ledger.length < PAIRS_AT_ONCE) return MATCHES.run(open);
  return work.run(MATCHES, open, { what: 'The search for matches', milliseconds: LONGEST });
}
