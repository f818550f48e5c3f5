import type { GridDto } from '@wise-margin/contract';
import type { BasisKind } from '@wise-margin/core';

/** Lines a basis can be set on at once. */
export type BasisTarget = { readonly key: string; readonly words: string; readonly accounts: readonly string[] };

const OF_ONE_LINE: readonly BasisKind[] = ['driverRate', 'fixedMonths', 'payroll', 'typedTotal'];

/** The line itself, the lines selected with it, the group it stands in, its section, and every line; a basis with amounts of its own is for one line. */
export function targetsOf(
  grid: GridDto,
  { account, picked }: { readonly account: string; readonly picked: readonly string[] },
  kind: BasisKind,
): BasisTarget[] {
  const own: BasisTarget = { key: 'line', words: 'this line', accounts: [account] };
  const line = grid.lines.find((each) => each.account === account);
  if (!line || OF_ONE_LINE.includes(kind)) return [own];
  const byKey = new Map(grid.lines.map((each) => [each.key, each]));
  const within = (above: string): string[] =>
    grid.lines.flatMap((each) => {
      if (each.account === null || each.isZero) return [];
      for (let at = each.parent; at !== null; at = byKey.get(at)?.parent ?? null) if (at === above) return [each.account];
      return [];
    });
  const targets: BasisTarget[] = [own];
  const selection: BasisTarget[] =
    picked.length > 1 && picked.includes(account)
      ? [{ key: 'selection', words: `the ${picked.length} selected lines`, accounts: picked }]
      : [];
  for (let at = line.parent; at !== null; at = byKey.get(at)?.parent ?? null) {
    const accounts = within(at);
    if (accounts.length > (targets.at(-1)?.accounts.length ?? 0))
      targets.push({ key: at, words: `all ${accounts.length} lines of ${byKey.get(at)!.name}`, accounts });
  }
  const every = grid.lines.flatMap((each) => (each.account !== null && !each.isZero ? [each.account] : []));
  if (every.length > (targets.at(-1)?.accounts.length ?? 0))
    targets.push({ key: 'every', words: `all ${every.length} lines of the budget`, accounts: every });
  return [own, ...selection, ...targets.slice(1)];
}
