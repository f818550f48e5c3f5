import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { CompanyDto, LedgerPeriodsDto } from '@wise-margin/contract';
import { useId } from 'react';

import { sendJson } from '../api/client.ts';
import { useCompany } from '../data/company.ts';

const BASES: Readonly<Record<CompanyDto['actuals']['basis'], string>> = {
  chosen: 'chosen by hand',
  closed: 'latest closed month',
  usualAccounts: 'latest month with postings in most of its usual accounts',
};
const PROPOSED = '';

/** The month that actuals end with, how it was decided, and its change; a month that is not clear is asked about. */
export function LastActual() {
  const company = useCompany();
  const { periods, firstPosted, lastPosted, lastActual, actuals } = company;
  const client = useQueryClient();
  const id = useId();
  const change = useMutation({
    mutationFn: (month: string | null) => sendJson<LedgerPeriodsDto>('PUT', `/companies/${company.id}/periods/last-actual`, { month }),
    onSuccess: () => client.invalidateQueries(),
  });
  if (lastActual === null || firstPosted === null || lastPosted === null) return null;
  const offered = periods.filter(({ key }) => key >= firstPosted && key <= lastPosted).reverse();
  const nameOf = (month: string | null) => periods.find(({ key }) => key === month)?.name ?? '';
  const { unclear } = actuals;
  // "No" about the month itself leaves the one before it; about a later one, the proposed month
  const ifNot = unclear && (unclear.month === actuals.proposed ? offered.find(({ key }) => key < unclear.month)?.key : actuals.proposed);
  return (
    <section aria-label="Last month of actuals" className="mb-2 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        <label htmlFor={id} className="font-semibold">
          Last month of actuals
        </label>
        <select
          id={id}
          className="field py-0.5"
          value={actuals.basis === 'chosen' ? lastActual : PROPOSED}
          disabled={change.isPending}
          onChange={(event) => change.mutate(event.target.value === PROPOSED ? null : event.target.value)}
        >
          <option value={PROPOSED}>Automatic: {nameOf(actuals.proposed)}</option>
          {offered.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        <span className="text-ink-soft">
          {BASES[actuals.basis]}. Projections, new budgets, findings and packs take later months from the budget.
        </span>
      </div>
      {unclear ? (
        <div role="status" className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 border border-copper bg-sheet px-3 py-1.5">
          <span>
            <strong>Is {nameOf(unclear.month)} complete?</strong> {unclear.posted} of its {unclear.usual} usual accounts have postings.
          </span>
          <button type="button" className="button" disabled={change.isPending} onClick={() => change.mutate(unclear.month)}>
            Use {nameOf(unclear.month)}
          </button>
          {ifNot ? (
            <button type="button" className="button" disabled={change.isPending} onClick={() => change.mutate(ifNot)}>
              Use {nameOf(ifNot)}
            </button>
          ) : null}
        </div>
      ) : null}
      {change.isError ? (
        <p role="alert" className="text-brick">
          {change.error.message}
        </p>
      ) : null}
    </section>
  );
}
