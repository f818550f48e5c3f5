import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BankFileAnswerDto, BankMappingDto, PostAdjustment, ReconciliationDto } from '@wise-margin/contract';

import { getJson, queryText, sendDelete, sendForm, sendJson } from '../api/client.ts';

/** A cash account as of a day; left out, the first one with statements, as of their last day. */
export type ReconciliationChoices = { readonly account: string | null; readonly day: string | null };

export const useReconciliation = (company: number, { account, day }: ReconciliationChoices) =>
  useQuery({
    queryKey: ['reconciliation', company, account, day],
    queryFn: ({ signal }) =>
      getJson<ReconciliationDto>(
        `/companies/${company}/reconciliation${queryText({ account: account ?? undefined, asOf: day ?? undefined })}`,
        signal,
      ),
    placeholderData: keepPreviousData,
  });

/** What can be done with a reconciliation. */
export type ReconciliationAct =
  | { readonly kind: 'clear'; readonly clearings: readonly { readonly bank: readonly number[]; readonly ledger: readonly number[] }[] }
  | { readonly kind: 'unclear'; readonly clearing: number }
  | ({ readonly kind: 'post' } & Omit<PostAdjustment, 'account'>)
  | { readonly kind: 'force'; readonly bank: readonly number[]; readonly ledger: readonly number[]; readonly reason: string }
  | { readonly kind: 'explain'; readonly clearing: number; readonly explanation: string }
  | { readonly kind: 'mark'; readonly line: number; readonly isOutstanding: boolean }
  | { readonly kind: 'removeStatement'; readonly statement: number };

/** Where an act is sent. */
function targetOf(path: string, act: Exclude<ReconciliationAct, { kind: 'unclear' | 'removeStatement' }>): ['POST' | 'PUT', string] {
  switch (act.kind) {
    case 'clear':
      return ['POST', `${path}/clearings`];
    case 'post':
      return ['POST', `${path}/adjustments`];
    case 'force':
      return ['POST', `${path}/differences`];
    case 'explain':
      return ['PUT', `${path}/differences/${act.clearing}`];
    case 'mark':
      return ['PUT', `${path}/outstanding`];
  }
}

/** Acts on a cash account; everything that shows it is asked for again. */
export function useReconciliationActs(company: number, account: string) {
  const client = useQueryClient();
  const path = `/companies/${company}/reconciliation`;
  return useMutation({
    mutationFn: async (act: ReconciliationAct): Promise<void> => {
      if (act.kind === 'unclear') return sendDelete(`${path}/clearings/${act.clearing}`);
      if (act.kind === 'removeStatement') return sendDelete(`${path}/statements/${act.statement}`);
      await sendJson(...targetOf(path, act), { ...act, account });
    },
    // another window may have been first: what is shown is asked for again in any case
    onSettled: () => client.invalidateQueries(),
  });
}

/** What a bank's file does not say itself. */
export type Stated = { readonly mapping?: BankMappingDto; readonly from?: string; readonly to?: string; readonly opening?: string };

/** A bank's file as it would be imported, and its import. */
export function useStatementFile({
  company,
  account,
  file,
  stated,
}: {
  readonly company: number;
  readonly account: string;
  readonly file: File;
  readonly stated: Stated;
}) {
  const client = useQueryClient();
  const send = (fingerprint?: string) => {
    const form = new FormData();
    form.set('account', account);
    const { mapping, ...texts } = stated;
    if (mapping) form.set('mapping', JSON.stringify(mapping));
    for (const [name, text] of Object.entries({ ...texts, fingerprint })) if (text !== undefined && text !== '') form.set(name, text);
    form.set('statement', file);
    return sendForm<BankFileAnswerDto>(`/companies/${company}/reconciliation/statements`, form);
  };
  const preview = useQuery({
    queryKey: ['bank-file', company, account, file.name, file.size, file.lastModified, stated],
    queryFn: async () => {
      const answer = await send();
      return answer.kind === 'preview' ? answer.preview : null;
    },
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const add = useMutation({ mutationFn: send, onSuccess: () => client.invalidateQueries() });
  return { preview, add };
}
