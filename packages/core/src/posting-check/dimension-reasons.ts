import type { CheckedLedger, FoundReason } from './checked-ledger.ts';

/** Lines an account must have, and the part of them with a dimension, for its absence to be strange. */
const [FEWEST, NEARLY_ALL] = [20, 0.95];
/** Lines an account must have, and the part of them with a value, for the value to be strange. */
const [MANY, HARDLY_ANY] = [60, 0.01];

/** Lines of income accounts without a dimension that nearly all of their account's lines have, or with a value hardly any of them has. */
export function dimensionReasons({ table, accounts, combinations, dimensions }: CheckedLedger, posted: Int32Array): FoundReason[] {
  const found: FoundReason[] = [];
  for (const dimension of dimensions) {
    // values as numbers, 0 for none, so that counting is one pass over numbers
    const values = [''];
    const valueOf = new Int32Array(Math.max(0, ...combinations.keys()) + 1);
    const placeOf = new Map([['', 0]]);
    for (const [id, combination] of combinations) {
      const value = combination[dimension] ?? '';
      const place = placeOf.get(value) ?? values.push(value) - 1;
      placeOf.set(value, place);
      valueOf[id] = place;
    }
    const counts = new Float64Array(accounts.length * values.length);
    const lines = new Float64Array(accounts.length);
    const place = (position: number): number => table.account[position]! * values.length + (valueOf[table.combination[position]!] ?? 0);
    for (const position of posted) {
      counts[place(position)]! += 1;
      lines[table.account[position]!]! += 1;
    }
    for (const position of posted) {
      const account = table.account[position]!;
      const value = valueOf[table.combination[position]!] ?? 0;
      if (!accounts[account]!.isIncome) continue;
      const [own, all] = [counts[place(position)]!, lines[account]!];
      if (value === 0 && all >= FEWEST && 1 - own / all >= NEARLY_ALL)
        found.push({
          line: position,
          amount: table.amount[position]!,
          reason: { kind: 'missingDimension', dimension, usually: 1 - own / all },
        });
      else if (value !== 0 && all >= MANY && own / all <= HARDLY_ANY && own <= 2)
        found.push({
          line: position,
          amount: table.amount[position]!,
          reason: { kind: 'unusualDimension', dimension, value: values[value]!, times: own, of: all },
        });
    }
  }
  return found;
}
