// npm run bench:matches: the search for matches of very many open lines, spread over ten months and all in one. Nothing here asserts.
import { type BankLine, type CashLine, isoDate, minor, proposeMatches } from '@wise-margin/core';

const [BANK, LEDGER] = [3000, 20_000];
const PARTIES = ['Harrow Bay Paddlesports', 'Granite Ledge Club', 'North Inlet Supply', 'Ferry Point Marina', 'Old Mill Outfitters'];

/** A third of the bank's lines are in the ledger by amount and document; the others belong to nothing. */
function openLines(months: number): { readonly bank: BankLine[]; readonly ledger: CashLine[] } {
  let state = 7;
  const next = (): number => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  const date = () => isoDate(2026, 10 - Math.floor(next() * months), 1 + Math.floor(next() * 28));
  const amount = (most: number) => minor(Math.round((next() - 0.5) * most) || 1);
  const ledger = Array.from({ length: LEDGER }, (_, id): CashLine => {
    const party = PARTIES[id % PARTIES.length]!;
    return {
      id,
      date: date(),
      amount: amount(2e6),
      entry: `E-${10_000 + id}`,
      document: `D-${40_000 + id}`,
      memo: 'Payment of invoice',
      party,
    };
  });
  const bank = Array.from({ length: BANK }, (_, id): BankLine => {
    const line = ledger[id * 6]!;
    return id % 3 === 0
      ? { id, date: line.date, amount: line.amount, text: `ACH ${line.document}`, reference: '', party: '' }
      : { id, date: date(), amount: amount(4e6), text: `DEPOSIT ${id} MAIN BRANCH`, reference: `${90_000 + id}`, party: '' };
  });
  return { bank, ledger };
}

for (const months of [10, 1]) {
  const open = openLines(months);
  const from = performance.now();
  const { matches, near } = proposeMatches(open);
  const seconds = (performance.now() - from) / 1000;
  process.stdout.write(
    `${BANK} bank lines against ${LEDGER} of the ledger, over ${months} ${months === 1 ? 'month' : 'months'}: ` +
      `${seconds.toFixed(1)} s, ${matches.length} proposals, ${near.length} near\n`,
  );
}
