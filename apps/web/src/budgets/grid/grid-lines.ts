import type { GridDto } from '@wise-margin/contract';

type Line = GridDto['lines'][number];
export type BudgetLineShown = {
  readonly line: Line;
  /** of its cells in the grid */
  readonly index: number;
  readonly inGroup: boolean;
  /**
   * accounts a figure typed here is for: its own, or those beneath it; none when nothing can be typed, as where a
   * part of an account is shown
   */
  readonly accounts: readonly string[];
};

/** Lines of the budget in statement order: headings, groups with their accounts, totals, formulas. */
export function budgetLines(
  lines: readonly Line[],
  { showAll, always = null }: { readonly showAll: boolean; /** an account shown without figures too */ readonly always?: string | null },
): BudgetLineShown[] {
  const parentOf = new Map(lines.map(({ key, parent }) => [key, parent]));
  const members = new Map<string, number>();
  for (const line of lines) if (line.kind === 'account' && line.parent) members.set(line.parent, (members.get(line.parent) ?? 0) + 1);
  // accounts beneath each line, gathered in one pass: a line's own key and those of all it stands in
  const accountsBeneath = new Map<string, string[]>();
  const abovePart = new Set<string>();
  for (const line of lines) {
    if (line.kind !== 'account' || !line.account) continue;
    for (let at = line.parent; at !== null; at = parentOf.get(at) ?? null) {
      const held = accountsBeneath.get(at);
      if (held) held.push(line.account);
      else accountsBeneath.set(at, [line.account]);
      if (line.isPart) abovePart.add(at);
    }
  }
  const beneath = (above: string | null): string[] => (above === null || abovePart.has(above) ? [] : (accountsBeneath.get(above) ?? []));
  return lines.flatMap((line, index) => {
    if (line.kind === 'accounts' && (members.get(line.key) ?? 0) < 2) return [];
    const isLeftOut = line.isZero && !showAll && (always === null || line.account !== always);
    if (isLeftOut && (line.kind === 'account' || line.kind === 'accounts')) return [];
    const accounts =
      line.account !== null
        ? line.isPart
          ? []
          : [line.account]
        : line.kind === 'accounts'
          ? beneath(line.key)
          : line.kind === 'total'
            ? beneath(line.parent)
            : [];
    return [{ line, index, inGroup: line.kind === 'account' && (members.get(line.parent ?? '') ?? 0) > 1, accounts }];
  });
}
