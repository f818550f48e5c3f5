import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type BudgetDto, type BudgetStateDto } from '@wise-margin/contract';
import { budgetLockWords } from '@wise-margin/presentation';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';

import { ApiProblem, sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { SelectField, TextField } from '../ui/labeled-field.tsx';

const STEPS: Readonly<Record<BudgetStateDto, readonly (readonly [to: BudgetStateDto, words: string])[]>> = {
  draft: [['inReview', 'Submit for review']],
  inReview: [
    ['approved', 'Approve'],
    ['draft', 'Return to draft'],
  ],
  approved: [],
  superseded: [],
};

/** What is done with a budget as a whole: its states, versions of it, deriving its lines again. */
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
  const at = `/companies/${company.id}/budgets/${budget.id}`;
  const change = useMutation({
    mutationFn: (to: { readonly state: BudgetStateDto; readonly anyway?: boolean }) => sendJson<BudgetDto>('POST', `${at}/state`, to),
    onSuccess: (made) => {
      changed(made.state);
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'worksheet' });
    },
  });
  const [isSubmitting, setSubmitting] = useState(false);
  const asks = change.error instanceof ApiProblem && change.error.problem.title === 'Open findings';
  const locked = budgetLockWords(state) !== null;
  return (
    <>
      {change.isError ? (
        <span role="alert" className="max-w-96 text-[13px] text-brick">
          {change.error.message}{' '}
          {asks ? (
            <button type="button" className="link" onClick={() => change.mutate({ state: 'approved', anyway: true })}>
              Approve anyway
            </button>
          ) : null}
        </span>
      ) : null}
      <Link className="button" to={`/c/${company.id}/budgets/${budget.id}/balance-plan`}>
        Cash
      </Link>
      <FloatingPanel label="Versions" atRight>
        <Link className="link" to={`/c/${company.id}/budgets/${budget.id}/comparison`}>
          Compare with another version or actuals
        </Link>
        <NewVersion budget={budget} />
        {locked ? null : (
          <>
            <button type="button" className="link mt-3" onClick={rederive}>
              Recalculate all lines
            </button>
            <p className="text-ink-soft">Uses corrected history and new drivers. Manual entries stay. You can undo this.</p>
          </>
        )}
      </FloatingPanel>
      {isSubmitting && state === 'draft' ? (
        <span
          role="alertdialog"
          aria-label="Submit for review"
          className="flex flex-wrap items-center gap-2 border border-copper bg-sheet px-2 py-1 text-[13px]"
        >
          Submitting locks the budget until it is approved or returned to draft.
          <button
            type="button"
            className="button button-primary"
            autoFocus
            disabled={change.isPending}
            onClick={() => change.mutate({ state: 'inReview' }, { onSettled: () => setSubmitting(false) })}
          >
            Submit and lock
          </button>
          <button type="button" className="link" onClick={() => setSubmitting(false)}>
            Cancel
          </button>
        </span>
      ) : null}
      {STEPS[state].map(([to, words], index) => (
        <button
          key={to}
          type="button"
          className={index === 0 ? 'button button-primary' : 'button'}
          disabled={change.isPending}
          // submitting locks the budget: it asks first
          onClick={() => (to === 'inReview' ? setSubmitting(true) : change.mutate({ state: to }))}
        >
          {words}
        </button>
      ))}
    </>
  );
}

const KINDS = [
  ['copy', 'Copy'],
  ['budget', 'Reforecast: actuals, then budget'],
  ['runRate', 'Reforecast: actuals, then run rate'],
  ['trend', 'Reforecast: actuals, then trend'],
] as const;

/** A new version: a copy, or a reforecast whose posted months are actuals. */
function NewVersion({ budget }: { readonly budget: BudgetDto }) {
  const company = useCompany();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [kind, setKind] = useState<(typeof KINDS)[number][0]>('copy');
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const at = `/companies/${company.id}/budgets/${budget.id}`;
  const posted = company.periods.filter(
    ({ year, key }) => year === budget.year && company.lastActual !== null && key <= company.lastActual,
  );
  const [through, setThrough] = useState(posted.at(-1)?.key ?? '');
  const make = useMutation({
    mutationFn: () =>
      kind === 'copy'
        ? sendJson<BudgetDto>('POST', `${at}/copies`, { name, note })
        : sendJson<BudgetDto>('POST', `${at}/reforecasts`, { name, note, rest: kind, through }),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ['budgets'] });
      void navigate(`/c/${company.id}/budgets/${made.id}`);
    },
  });
  return (
    <form
      aria-label="New version"
      className="mt-3 border-t border-hairline pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <SelectField label="Type" value={kind} options={posted.length > 0 ? KINDS : KINDS.slice(0, 1)} set={setKind} />
      {kind === 'copy' ? null : (
        <SelectField
          label="Actuals through"
          value={through}
          options={[...posted].reverse().map(({ key, name: month }) => [key, month] as const)}
          set={setThrough}
        />
      )}
      <TextField label="Name" value={name} set={setName} />
      <TextField label="Description" value={note} set={setNote} />
      {make.isError ? (
        <p role="alert" className="mt-1 text-brick">
          {make.error.message}
        </p>
      ) : null}
      <button type="submit" className="button mt-2" disabled={make.isPending || name.trim() === ''}>
        Create version
      </button>
    </form>
  );
}
