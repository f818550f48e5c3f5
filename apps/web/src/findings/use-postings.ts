import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AnswerPosting, PostingCheckDto } from '@wise-margin/contract';

import { getJson, queryText, sendJson } from '../api/client.ts';

export type PostingChoices = { readonly show: 'open' | 'answered'; readonly from: string; readonly to: string };

export const usePostingCheck = (company: number, choices: PostingChoices) =>
  useQuery({
    queryKey: ['posting-check', company, choices],
    queryFn: ({ signal }) => getJson<PostingCheckDto>(`/companies/${company}/posting-checks${queryText(choices)}`, signal),
    placeholderData: (before) => before,
  });

export function useAnswerPosting(company: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (answer: AnswerPosting) => sendJson<null>('POST', `/companies/${company}/posting-checks/answers`, answer),
    onSuccess: () => client.invalidateQueries({ queryKey: ['posting-check', company] }),
  });
}
