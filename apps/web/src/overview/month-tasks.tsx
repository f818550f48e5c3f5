import { useQuery } from '@tanstack/react-query';
import type { ImportDto } from '@wise-margin/contract';
import { Link } from 'react-router';

import { getJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { usePacks } from '../data/use-packs.ts';
import { useBudgets } from '../data/use-statement.ts';
import { useTieOuts } from '../data/use-tie-outs.ts';
import { Failure } from '../ui/states.tsx';
import { MonthBridge } from './month-bridge.tsx';
import { packTasks, type Task } from './pack-tasks.ts';

const counted = (count: number, one: string, many: string): string => `${count.toLocaleString('en-US')} ${count === 1 ? one : many}`;

/** What is left to do: rejected imports, tie-outs that fail, drafts, budgets in review, packs begun or due. */
export function MonthTasks({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const at = `/companies/${company.id}`;
  const tieOuts = useTieOuts(company.id, asOf);
  const imports = useQuery({ queryKey: ['imports', company.id], queryFn: ({ signal }) => getJson<ImportDto[]>(`${at}/imports`, signal) });
  const budgets = useBudgets(company.id);
  const packs = usePacks(company.id, asOf);
  const error = tieOuts.error ?? imports.error ?? budgets.error ?? packs.error;
  const rejected = imports.data?.filter(({ state }) => state === 'refused').length ?? 0;
  const inReview = budgets.data?.filter(({ state }) => state === 'inReview').length ?? 0;
  const failing = tieOuts.data?.failing ?? 0;
  const isPending = tieOuts.isPending || imports.isPending || budgets.isPending || packs.isPending;
  const tasks: Task[] = [
    ...(rejected > 0 ? [{ key: 'imports', words: `${counted(rejected, 'import', 'imports')} rejected`, to: 'ledger/imports' }] : []),
    ...(failing > 0
      ? [{ key: 'tie-outs', words: `${counted(failing, 'tie-out', 'tie-outs')} failing`, to: `findings/tie-outs?asOf=${asOf}` }]
      : []),
    ...(company.draftCount > 0
      ? [{ key: 'drafts', words: `${counted(company.draftCount, 'draft entry', 'draft entries')} not posted`, to: 'ledger/drafts' }]
      : []),
    ...(inReview > 0 ? [{ key: 'budgets', words: `${counted(inReview, 'budget', 'budgets')} in review`, to: 'budgets' }] : []),
    ...(company.actuals.unclear ? [{ key: 'actuals', words: 'Confirm the last month of actuals', to: 'ledger/periods' }] : []),
    ...packTasks(packs.data ?? [], asOf),
  ];
  return (
    <section className="border border-hairline bg-sheet p-4" aria-label="Open tasks">
      <h2 className="border-b border-ink-soft pb-1 font-serif text-lg font-semibold">Open tasks</h2>
      {error ? <Failure error={error} /> : null}
      {!error && tasks.length === 0 ? (
        <p className="py-1 text-[14px] text-ink-soft">{isPending ? '…' : 'Nothing is left to do, and every tie-out agrees.'}</p>
      ) : null}
      <ul>
        {tasks.map(({ key, words, to }) => (
          <li key={key} className="border-b border-hairline py-1 text-[14px]">
            <Link className="link" to={`/c/${company.id}/${to}`}>
              {words}
            </Link>
          </li>
        ))}
      </ul>
      <MonthBridge asOf={asOf} />
    </section>
  );
}
