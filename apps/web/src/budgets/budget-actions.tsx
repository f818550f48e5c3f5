import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BudgetDto, BudgetStateDto } from '@wise-margin/contract';
import { sendJson } from '../api/client.ts';
import { useCompany } from '../shell/company.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';

const STEPS: Readonly<Record<BudgetStateDto, readonly (readonly [to: BudgetStateDto, words: string])[]>> = {
  working: [['inReview', 'Send to review']],
  inReview: [
    ['approved', 'Approve'],
    ['working', 'Send back to work'],
  ],
  approved: [],
  superseded: [],
};

/** What is done with a budget as a whole: its states, and deriving its lines anew. */
export function BudgetActions({
  budget,
  state,
  changed,
  rederive,
}: {
  readonly budget: BudgetDto;
  readonly state: BudgetStateDto;
  readonly changed: (state: BudgetStateDto) => void;
  readonly rederive: () => void;
}) {
  const company = useCompany();
  const client = useQueryClient();
  const change = useMutation({
    mutationFn: (to: BudgetStateDto) => sendJson<BudgetDto>('POST', `/companies/${company.id}/budgets/${budget.id}/state`, { state: to }),
    onSuccess: (made) => {
      changed(made.state);
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'desk' });
    },
  });
  const locked = state === 'approved' || state === 'superseded';
  return (
    <>
      {change.isError ? (
        <span role="alert" className="text-brick">
          {change.error.message}
        </span>
      ) : null}
      {locked ? null : (
        <FloatingPanel label="More" atRight>
          <button type="button" className="link" onClick={rederive}>
            Derive every line anew
          </button>
          <p className="mt-1 text-ink-soft">Corrected history and changed drivers flow through; held months stay. It can be undone.</p>
        </FloatingPanel>
      )}
      {STEPS[state].map(([to, words], index) => (
        <button
          key={to}
          type="button"
          className={index === 0 ? 'button button-primary' : 'button'}
          disabled={change.isPending}
          onClick={() => change.mutate(to)}
        >
          {words}
        </button>
      ))}
    </>
  );
}
