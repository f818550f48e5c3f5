import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { BasisPreviewDto, FilterDto } from '@wise-margin/contract';
import { BASIS_KINDS, type Basis, type BasisKind } from '@wise-margin/core';
import { useEffect, useState } from 'react';
import { sendJson } from '../../api/client.ts';
import { useCompany } from '../../shell/company.ts';
import { Amount } from '../../ui/figure.tsx';
import { basisOf, draftOf } from './basis-draft.ts';
import { BasisFields, Pick, Text } from './basis-fields.tsx';

const KIND_WORDS: Readonly<Record<BasisKind, string>> = {
  sameMonths: 'Same months of a year',
  averageYears: 'Average of several years',
  latestMonths: 'Latest months, brought to a year',
  trend: 'Straight line through history',
  percentOf: 'Percentage of other lines',
  driverRate: 'Driver times rate',
  fixedMonths: 'Fixed amount a month, with steps',
  payroll: 'Pay of people',
  typedTotal: 'A year total, spread',
  typed: 'Typed by hand',
};
const ROUNDINGS = ['0', '1', '10', '100', '1000'] as const;

/** How a line's year is derived, as a form; what it would give stands beneath before it is set. */
export function BasisForm({
  budget,
  budgetYear,
  account,
  filter,
  basis,
  months,
  years,
  show,
  set,
  close,
}: {
  readonly budget: number;
  readonly budgetYear: number;
  readonly account: string;
  readonly filter: FilterDto;
  /** the one that holds now */
  readonly basis: Basis;
  readonly months: readonly string[];
  /** years with history */
  readonly years: readonly number[];
  /** hands what the basis would give to the chart; null takes it back */
  readonly show: (months: readonly number[] | null) => void;
  readonly set: (basis: Basis) => void;
  readonly close: () => void;
}) {
  const { id, exponent, currencyWords } = useCompany();
  const [draft, setDraft] = useState(() => draftOf(basis, { exponent, budgetYear }));
  const change = (part: Partial<typeof draft>) => setDraft((before) => ({ ...before, ...part }));
  const made = basisOf(draft, { exponent, budgetYear });
  const preview = useQuery({
    queryKey: ['basis-preview', id, budget, account, filter, made],
    enabled: made.ok,
    queryFn: () =>
      sendJson<BasisPreviewDto>('POST', `/companies/${id}/budgets/${budget}/basis-preview`, {
        account,
        filter,
        basis: made.ok ? made.basis : null,
      }),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const fault = made.ok ? (preview.error?.message ?? null) : made.fault;
  const given = fault === null ? (preview.data?.months ?? null) : null;
  useEffect(() => {
    show(given);
    return () => show(null);
  }, [given, show]);
  return (
    <form
      aria-label="Basis"
      className="mt-2 border-l-2 border-copper pl-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (made.ok && fault === null) set(made.basis);
      }}
    >
      <Pick
        label="How the year is derived"
        value={draft.kind}
        options={BASIS_KINDS.map((kind) => [kind, KIND_WORDS[kind]] as const)}
        set={(kind) => change({ kind: kind as BasisKind })}
      />
      <BasisFields draft={draft} months={months} years={years} set={change} />
      {draft.kind === 'typed' || draft.kind === 'typedTotal' ? null : (
        <details className="mt-2">
          <summary className="cursor-pointer text-ink-soft">From a month on, rounding, limits</summary>
          <div className="mt-1 grid grid-cols-2 items-end gap-x-2 gap-y-1">
            <Pick
              label="From"
              value={String(draft.fromMonth)}
              options={months.map((month, index) => [String(index), month] as const)}
              set={(from) => change({ fromMonth: Number(from) })}
            />
            <Pick
              label="Rounded to"
              value={draft.roundTo}
              options={[...new Set([...ROUNDINGS, draft.roundTo])].map((step) => [step, step === '0' ? 'Not rounded' : step] as const)}
              set={(roundTo) => change({ roundTo })}
            />
            <Text label="At least a month" value={draft.least} set={(least) => change({ least })} />
            <Text label="At most a month" value={draft.most} set={(most) => change({ most })} />
          </div>
        </details>
      )}
      {fault ? (
        <p role="alert" className="mt-2 text-brick">
          {fault}
        </p>
      ) : null}
      {preview.data && fault === null ? (
        <section aria-label="What it gives" className="mt-2 border-t border-hairline pt-1">
          <p>{preview.data.sentence}.</p>
          {preview.data.lacks.map((words) => (
            <p key={words} className="text-brick">
              {words}
            </p>
          ))}
          <table className="ledger-table mt-1 w-full">
            <tbody>
              {[0, 3, 6, 9].map((from) => (
                <tr key={from}>
                  {[0, 1, 2].map((step) => (
                    <td key={step} className="figure">
                      <span className="mr-1 text-[11px] text-ink-soft">{months[from + step]}</span>
                      <Amount value={preview.data.months[from + step]!} exponent={exponent} unit="dollars" />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="flex justify-between">
            <span>The year, {currencyWords}</span>
            <Amount value={preview.data.total} exponent={exponent} unit="dollars" />
          </p>
        </section>
      ) : null}
      <div className="mt-2 flex items-center gap-3">
        <button type="submit" className="button button-primary" disabled={!made.ok || fault !== null}>
          Set this basis
        </button>
        <button type="button" className="link" onClick={close}>
          Keep the old one
        </button>
      </div>
    </form>
  );
}
