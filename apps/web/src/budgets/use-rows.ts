import { useQuery } from '@tanstack/react-query';
import type { ViewDto } from '@wise-margin/contract';
import type { LineSet } from '@wise-margin/core';

import { getJson } from '../api/client.ts';
import { useViews } from '../data/use-views.ts';

/** The rows a budget can be seen by: the income statement's, and those of the views people built. */
export type Rows = {
  /** '' for the income statement */
  readonly key: string;
  /** null while they are those of the income statement */
  readonly lineSet: LineSet | null;
  readonly options: readonly (readonly [key: string, name: string])[];
  /** why the rows asked for cannot be shown, with what to do; null when they can */
  readonly fault: string | null;
};

/** @param asked the key of a view; null for the income statement */
export function useRows(company: number, asked: string | null): Rows {
  const list = useViews(company);
  const view = useQuery({
    queryKey: ['view', company, asked],
    enabled: asked !== null,
    queryFn: ({ signal }) => getJson<ViewDto>(`/companies/${company}/views/${asked}`, signal),
  });
  const own = (list.data ?? []).flatMap(({ key, name, isShipped }) => (isShipped ? [] : [[key, name] as const]));
  const fault = view.isError ? `These rows cannot be shown: ${view.error.message} Choose others above.` : null;
  return {
    key: asked ?? '',
    lineSet: asked === null ? null : (view.data?.lineSet ?? null),
    options: [['', 'Income statement'], ...own, ...(view.isError ? [[asked!, 'Not there'] as const] : [])],
    fault,
  };
}
