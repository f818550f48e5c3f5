import { useMutation, type UseMutationResult, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import { type BalancePlanDto, type BudgetEditDto, type PackedBalancePlan, type WorksheetAnswerDto } from '@wise-margin/contract';
import type { BalanceRule } from '@wise-margin/core';
import { unpackGrid } from '@wise-margin/presentation';

import { getJson, queryText, sendJson } from '../../api/client.ts';
import { newKey } from '../../api/new-key.ts';
import { ownSession } from '../worksheet/unsaved.ts';

const unpacked = ({ cashFlow, balanceSheet, ...rest }: PackedBalancePlan): BalancePlanDto => ({
  ...rest,
  cashFlow: unpackGrid(cashFlow),
  balanceSheet: unpackGrid(balanceSheet),
});

export type BalancePlanChange =
  | { readonly kind: 'rule'; readonly account: string; readonly rule: BalanceRule | null; readonly base: number }
  | { readonly kind: 'undo' | 'redo' }
  | { readonly kind: 'edits'; readonly edits: readonly BudgetEditDto[] };

/** A budget carried into balance sheet and cash, and what changes it. */
export function useBalancePlan(
  company: number,
  budget: number,
): { readonly plan: UseQueryResult<BalancePlanDto>; readonly change: UseMutationResult<BalancePlanDto, Error, BalancePlanChange> } {
  const client = useQueryClient();
  const session = ownSession();
  const at = `/companies/${company}/budgets/${budget}`;
  const queryKey = ['balance-plan', company, budget];
  const read = async (signal?: AbortSignal): Promise<BalancePlanDto> =>
    unpacked(await getJson<PackedBalancePlan>(`${at}/balance-plan${queryText({ session })}`, signal));
  const plan = useQuery({ queryKey, queryFn: ({ signal }) => read(signal) });
  const change = useMutation({
    mutationFn: async (made: BalancePlanChange): Promise<BalancePlanDto> => {
      if (made.kind === 'rule') {
        const { account, rule, base } = made;
        return unpacked(
          await sendJson<PackedBalancePlan>('PUT', `${at}/balance-plan/rule`, { account, rule, base, session, key: newKey() }),
        );
      }
      if (made.kind === 'edits')
        await sendJson<WorksheetAnswerDto>('POST', `${at}/edits`, { edits: made.edits, filter: {}, session, key: newKey() });
      else await sendJson<WorksheetAnswerDto>('POST', `${at}/${made.kind}`, { session });
      return read();
    },
    // what was refused because another changed it is shown as it stands now
    onError: () => void client.invalidateQueries({ queryKey }),
    onSuccess: (fresh) => {
      client.setQueryData(queryKey, fresh);
      // figures of the budget stand in statements, lists and histories too
      void client.invalidateQueries({ predicate: ({ queryKey: [of] }) => of !== 'balance-plan' && of !== 'company' });
    },
  });
  return { plan, change };
}
