import type { BalanceRule } from '@wise-margin/core';

import type { RuleChange } from '../../budget-store/index.ts';

const isSame = (a: BalanceRule | null, b: BalanceRule | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Rule changes undone, or applied again, where the rule still is what the change left; the others are notUndone and counted. */
export function applicableRuleChanges(
  rules: ReadonlyMap<string, BalanceRule>,
  changes: readonly RuleChange[],
  isUndo: boolean,
): { readonly rules: readonly RuleChange[]; readonly notUndone: number } {
  const steps = changes.map(({ account, before, after }) =>
    isUndo ? { account, before: after, after: before } : { account, before, after },
  );
  const stepped = steps.filter(({ account, before }) => isSame(rules.get(account) ?? null, before));
  return { rules: stepped, notUndone: steps.length - stepped.length };
}
