import { useQueryClient } from '@tanstack/react-query';
import { unpackBudgetGrid, type BudgetEditDto, type FilterDto, type PackedBudgetGrid } from '@wise-margin/contract';
import { useEffect, useRef, useState } from 'react';
import { ApiProblem, sendJson } from '../api/client.ts';
import { budgetKey } from './use-budget.ts';

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'saving' }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'unsaved'; readonly message: string };
const RETRY_MS = 3000;

/**
 * Sends edits in their order, one request at a time, and puts the grid of each answer in view. Without
 * a connection they wait and are sent when it is back; a refused edit is told and the others stand.
 */
export function useEdits(company: number, budget: number, filter: FilterDto) {
  const client = useQueryClient();
  const queue = useRef<{ edits: BudgetEditDto[]; filter: FilterDto }[]>([]);
  const busy = useRef(false);
  const [state, setState] = useState<SaveState>({ kind: 'saved' });
  const [pending, setPending] = useState<ReadonlyMap<string, string>>(new Map());

  const drain = async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    let refusal: string | null = null;
    while (queue.current.length > 0) {
      const next = queue.current[0]!;
      setState({ kind: 'saving' });
      try {
        const grid = await sendJson<PackedBudgetGrid>('POST', `/companies/${company}/budgets/${budget}/edits`, next);
        client.setQueryData(budgetKey(company, budget, next.filter), unpackBudgetGrid(grid));
        queue.current.shift();
      } catch (error) {
        if (error instanceof ApiProblem && error.isConnection) {
          setState({
            kind: 'unsaved',
            message: `${queue.current.length === 1 ? 'One change is' : `${queue.current.length} changes are`} not saved: the connection is lost. They are sent when it is back.`,
          });
          busy.current = false;
          setTimeout(() => void drain(), RETRY_MS);
          return;
        }
        refusal = error instanceof Error ? error.message : String(error);
        queue.current.shift();
      }
    }
    busy.current = false;
    setPending(new Map());
    setState(refusal === null ? { kind: 'saved' } : { kind: 'refused', message: refusal });
    void client.invalidateQueries({
      predicate: ({ queryKey }) => ['statement', 'strip', 'trail', 'budgets'].includes(String(queryKey[0])),
    });
  };

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (queue.current.length > 0) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, []);

  const apply = (edits: BudgetEditDto[], shown: ReadonlyMap<string, string>): void => {
    queue.current.push({ edits, filter });
    setPending((before) => new Map([...before, ...shown]));
    void drain();
  };
  return { state, pending, apply };
}
