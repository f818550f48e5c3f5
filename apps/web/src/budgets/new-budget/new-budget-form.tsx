import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { asNonrecurringItems, type BudgetDto } from '@wise-margin/contract';
import type { FirstBasis } from '@wise-margin/core';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { z } from 'zod';

import { ApiProblem, sendJson } from '../../api/client.ts';
import { useCompany } from '../../data/company.ts';
import { useBudgets } from '../../data/use-statement.ts';
import { candidateKey, Candidates, Methods, useProposal } from './budget-proposal.tsx';
import { ClassTable } from './class-table.tsx';
import { CLASSES, type NewBudgetFields, newBudgetFieldsSchema, newBudgetRequest } from './new-budget-fields.ts';
import { useNewBudgetPreview } from './use-new-budget-preview.ts';

/** Creates a budget: a year, the year it starts from, one change for all and one for each class that differs. */
export function NewBudgetForm({ onCreated, cancel }: { readonly onCreated: (made: BudgetDto) => void; readonly cancel?: () => void }) {
  const company = useCompany();
  const client = useQueryClient();
  const [failure, setFailure] = useState('');
  const yearOf = (key: string | null) => company.periods.find((period) => period.key === key)?.year;
  const firstHeld = yearOf(company.firstPosted) ?? company.years[0]!;
  const lastHeld = yearOf(company.lastActual) ?? company.years.at(-1)!;
  const held = company.years.filter((year) => year >= firstHeld && year <= lastHeld);
  const budgets = useBudgets(company.id);
  const { firstPosted, lastActual } = company;
  const monthsOf = (year: number) => company.periods.filter((period) => period.year === year);
  const postedOf = (year: number) =>
    monthsOf(year).filter(({ key }) => firstPosted !== null && lastActual !== null && key >= firstPosted && key <= lastActual);
  /** months to come that its approved budget has */
  const isProjectable = (year: number) =>
    monthsOf(year).some(({ key }) => lastActual === null || key > lastActual) &&
    (budgets.data ?? []).some((budget) => budget.year === year && budget.state === 'approved');
  const hasDepartment = company.dimensions.some(({ name }) => name === 'department');
  const years = [...new Set([...company.years, company.years.at(-1)! + 1, lastHeld + 1])].filter((year) => year > held[0]!);
  const { register, handleSubmit, setError, setValue, control, formState } = useForm<
    NewBudgetFields,
    unknown,
    z.output<typeof newBudgetFieldsSchema>
  >({
    resolver: zodResolver(newBudgetFieldsSchema),
    defaultValues: {
      name: 'First draft',
      year: String(lastHeld + 1),
      from: String(lastHeld),
      change: '3',
      roundTo: '100',
      byClass: Object.fromEntries(CLASSES.map((key) => [key, ''])),
      basis: Object.fromEntries(CLASSES.map((key) => [key, 'ownHistory' satisfies FirstBasis])),
      projected: true,
      dimensions: Object.fromEntries(
        company.dimensions.map(({ name }, index) => [name, name === 'department' || (index === 0 && !hasDepartment)]),
      ),
      note: '',
    },
  });
  const fields = useWatch({ control }) as NewBudgetFields;
  const { projected, basis: bases } = fields;
  const from = Number(fields.from);
  const proposal = useProposal(from, projected && isProjectable(from));
  const candidates = proposal.data?.candidates ?? [];
  // what a person ticked or unticked; the rest is as proposed
  const [ticked, setTicked] = useState<ReadonlyMap<string, boolean>>(new Map());
  const excluded = new Set(
    candidates.filter((each) => ticked.get(candidateKey(each)) ?? each.isProposed).map((each) => candidateKey(each)),
  );
  const requestOf = (values: NewBudgetFields) =>
    newBudgetRequest(values, {
      exponent: company.exponent,
      dimensions: company.dimensions,
      isProjectable: isProjectable(Number(values.from)),
      exclude: asNonrecurringItems(candidates.filter((each) => excluded.has(candidateKey(each)))),
    });
  const isReadable = newBudgetFieldsSchema.omit({ name: true }).safeParse(fields).success;
  const preview = useNewBudgetPreview(company.id, isReadable && proposal.data ? requestOf(fields) : null);
  const create = useMutation({
    mutationFn: (values: NewBudgetFields) => sendJson<BudgetDto>('POST', `/companies/${company.id}/budgets`, requestOf(values)),
    onSuccess: async (made) => {
      await client.invalidateQueries();
      onCreated(made);
    },
    onError: (error) => {
      const at = error instanceof ApiProblem ? error.problem.errors?.[0] : undefined;
      if (at && ['name', 'year', 'from', 'change'].includes(at.path)) setError(at.path as 'name', { message: at.message });
      else setFailure(error.message);
    },
  });
  const { errors } = formState;
  const posted = postedOf(from);
  const isAnnualized = CLASSES.every((key) => bases[key] === 'annualized' || bases[key] === 'typed');
  return (
    <form
      noValidate
      aria-label="New budget"
      className="max-w-6xl border border-hairline bg-sheet p-5"
      onSubmit={(event) => void handleSubmit((values) => create.mutate(values))(event)}
    >
      <p className="leading-10">
        Budget for{' '}
        <select aria-label="Fiscal year of the budget" className="field" {...register('year')}>
          {years.map((year) => (
            <option key={year} value={year}>
              FY{year}
            </option>
          ))}
        </select>{' '}
        named <input aria-label="Name of the budget" className="field w-48" {...register('name')} />, from{' '}
        <select aria-label="Year it starts from" className="field" {...register('from')}>
          {held.map((year) => (
            <option key={year} value={year}>
              FY{year}
            </option>
          ))}
        </select>
        , changed by <input aria-label="Percent change" className="field w-16 text-right" {...register('change')} /> %, rounded to{' '}
        <select aria-label="Rounded to" className="field" {...register('roundTo')}>
          {['0', '1', '10', '100', '1000'].map((step) => (
            <option key={step} value={step}>
              {step === '0' ? 'the cent' : step}
            </option>
          ))}
        </select>
        .
      </p>
      {posted.length < 12 ? (
        <div className="text-[14px]">
          <p>
            FY{from} has actuals for {posted.length} of 12 months, {posted[0]?.name} to {posted.at(-1)?.name}.
            {isProjectable(from) ? (
              <label className="ml-2 inline-flex items-center gap-1.5">
                <input type="checkbox" className="accent-copper" {...register('projected')} /> Fill remaining months from the approved
                budget
              </label>
            ) : null}
          </p>
          {isAnnualized ? (
            <p className="text-ink-soft">Every class starts with the average of these months in each month.</p>
          ) : isProjectable(from) && projected && posted[0]?.number === 1 ? null : (
            <p className="text-brick">
              Months without an amount start at zero.{' '}
              <button
                type="button"
                className="link"
                onClick={() => {
                  for (const key of CLASSES) setValue(`basis.${key}`, 'annualized');
                }}
              >
                Annualize these months
              </button>
            </p>
          )}
        </div>
      ) : null}
      {[errors.name, errors.year, errors.from, errors.change]
        .flatMap((error) => (error?.message ? [error.message] : []))
        .map((message) => (
          <p key={message} role="alert" className="text-brick">
            {message}
          </p>
        ))}
      {company.dimensions.length > 0 ? (
        <fieldset className="mt-3 flex flex-wrap items-center gap-x-4 text-[14px]">
          <legend className="float-left mr-4 text-[13px] font-semibold">Budget by account and</legend>
          {company.dimensions.map(({ name }) => (
            <label key={name} className="flex items-center gap-1.5">
              <input type="checkbox" className="accent-copper" {...register(`dimensions.${name}`)} /> {name}
            </label>
          ))}
        </fieldset>
      ) : null}
      <fieldset className="mt-3">
        <legend className="text-[13px] font-semibold">By account class (blank: the change above)</legend>
        <ClassTable register={register} errors={errors} preview={preview.data} isCurrent={isReadable && !preview.isFetching} />
        {errors.byClass ? (
          <p role="alert" className="text-brick">
            Enter each change as a percentage such as 3 or -1.5.
          </p>
        ) : null}
        {preview.isError ? (
          <p role="alert" className="text-brick">
            {preview.error.message}
          </p>
        ) : null}
        <p className="mt-1 text-[13px] text-ink-soft">
          {preview.data
            ? `Base: ${preview.data.baseWords}. The budget has ${preview.data.lines.toLocaleString('en-US')} lines.`
            : preview.isError
              ? 'No totals.'
              : 'Calculating totals…'}
        </p>
      </fieldset>
      <Methods methods={proposal.data?.methods ?? []} bases={bases} />
      <Candidates candidates={candidates} excluded={excluded} toggle={(key) => setTicked(new Map(ticked).set(key, !excluded.has(key)))} />
      {proposal.isError ? (
        <p role="alert" className="mt-2 text-brick">
          {proposal.error.message}
        </p>
      ) : null}
      <label className="mt-3 block text-[13px]">
        <span className="text-ink-soft">Description</span>
        <input className="field w-full py-0.5" {...register('note')} />
      </label>
      {failure ? (
        <p role="alert" className="mt-2 text-brick">
          {failure}
        </p>
      ) : null}
      <div className="mt-4 flex gap-2">
        <button type="submit" className="button button-primary" disabled={create.isPending || proposal.isLoading}>
          {create.isPending ? 'Creating…' : proposal.isLoading ? 'Loading history…' : 'Create budget'}
        </button>
        {cancel ? (
          <button type="button" className="button" onClick={cancel}>
            Cancel
          </button>
        ) : null}
      </div>
    </form>
  );
}
