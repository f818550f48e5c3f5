import type { LedgerFiles } from './sql-engine.ts';

const ACCOUNTS = `account,name,class,active
1000,Cash,Cash,yes
1100,Customers,Receivables,yes
1190,Allowance,Receivables,yes
2000,Vendors,Payables,yes
3000,Capital,Capital,yes
4000,Sales,Revenue,yes
4900,Discounts,Revenue deductions,yes
6000,Supplies,Operating expenses,yes
6100,Bad debts,Operating expenses,yes
`;
const PARTIES = ['Alder & Sons', 'Birch Supply', 'Cedar Works', 'Dogwood Inn', 'Elm Street Market'];

/** Numbers from 0 up to 1, the same for one seed. */
function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_664_525 + 1_013_904_223) % 4_294_967_296;
    return state / 4_294_967_296;
  };
}

/**
 * A ledger of two years whose invoices and bills are paid whole, in parts, too much or not at all, with credits, payments
 * without a document, and documents without a due date; the same for one seed.
 */
export function paidInParts(seed: number): LedgerFiles {
  const next = random(seed);
  const pick = <Value>(values: readonly Value[]): Value => values[Math.floor(next() * values.length)]!;
  const dayAfter = (date: string, days: number) => new Date(Date.parse(date) + days * 86_400_000).toISOString().slice(0, 10);
  const entries: { readonly date: string; readonly lines: readonly string[] }[] = [];
  const add = (
    date: string,
    source: string,
    lines: readonly (readonly [account: string, cents: number, party?: string, document?: string, due?: string])[],
  ) =>
    entries.push({
      date,
      lines: lines.map(([account, cents, party = '', document = '', due = '']) => {
        const amount = (Math.abs(cents) / 100).toFixed(2);
        return `${date},${account},${cents > 0 ? amount : ''},${cents < 0 ? amount : ''},,${party},${document},${due},${source},,`;
      }),
    });
  add('2024-07-01', 'general', [
    ['1000', 5_000_000],
    ['3000', -5_000_000],
  ]);
  for (let number = 1; number <= 260; number += 1) {
    const date = dayAfter('2024-07-02', Math.floor(next() * 720));
    const party = pick(PARTIES);
    const document = `${pick(['A', 'B'])}-${number}`;
    const due = next() < 0.15 ? '' : dayAfter(date, pick([10, 30, 45]));
    const cents = 1000 + Math.floor(next() * 90_000);
    const [control, other, sign, source] =
      next() < 0.6 ? (['1100', '4000', 1, 'sales'] as const) : (['2000', '6000', -1, 'purchases'] as const);
    add(date, source, [
      [control, sign * cents, party, document, due],
      [other, -sign * cents, party, document],
    ]);
    const shares = pick([[1], [0.5, 0.5], [0.3, 0.3], [1.1], [], [0.25], [0.6, 0.7]]);
    for (const share of shares) {
      const paid = Math.round(cents * share);
      const of = next() < 0.1 ? '' : document;
      add(dayAfter(date, 5 + Math.floor(next() * 120)), 'bank', [
        [control, -sign * paid, party, of],
        ['1000', sign * paid],
      ]);
    }
    if (next() < 0.08 && control === '1100')
      add(dayAfter(date, 3), 'sales', [
        ['1100', -500, party, document],
        ['4900', 500, party, document],
      ]);
  }
  add('2025-06-30', 'general', [
    ['1190', -12_345],
    ['6100', 12_345],
  ]);
  add('2025-09-15', 'general', [
    ['1100', 777],
    ['1000', -777],
  ]);
  const ordered = [...entries].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  const rows = ordered.flatMap(({ lines }, at) => lines.map((line) => `E-${String(at + 1).padStart(5, '0')},${line}`));
  return { accounts: ACCOUNTS, ledger: `entry,date,account,debit,credit,memo,party,document,due,source,kind,state\n${rows.join('\n')}\n` };
}
