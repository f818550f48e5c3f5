import type { FilterDto, GridDto } from '@wise-margin/contract';
import { BASIS_KINDS, type Basis, type BasisKind } from '@wise-margin/core';
import { useEffect, useState } from 'react';
import { useCompany } from '../../shell/company.ts';
import { Amount } from '../../ui/figure.tsx';
import { basisOf, draftOf } from './basis-draft.ts';
import { BasisFields } from './basis-fields.tsx';
import { CheckField, SelectField, TextField } from '../../ui/labeled-field.tsx';
import type { BasisTry, Previewed } from '../desk/desk-messages.ts';
import { targetsOf } from './basis-targets.ts';

const KIND_WORDS: Readonly<Record<BasisKind, string>> = {
  sameMonths: 'Same months of a year',
  yearTotal: 'A year’s total, spread',
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
  budgetYear,
  account,
  grid,
  picked,
  filter,
  basis,
  months,
  years,
  show,
  tryBasis,
  set,
  close,
}: {
  readonly budgetYear: number;
  readonly account: string;
  /** the lines it can be set on as well */
  readonly grid: GridDto;
  readonly filter: FilterDto;
  /** the one that holds now */
  readonly basis: Basis;
  readonly months: readonly string[];
  /** accounts of the rows selected in the grid, where there are several */
  readonly picked: readonly string[];
  /** years with history */
  readonly years: readonly number[];
  /** hands what the basis would give to the chart; null takes it back */
  readonly show: (months: readonly number[] | null) => void;
  readonly tryBasis: (asked: BasisTry) => Promise<Previewed>;
  readonly set: (basis: Basis, accounts: readonly string[]) => void;
  readonly close: () => void;
}) {
  const { exponent, currencyWords } = useCompany();
  const [draft, setDraft] = useState(() => draftOf(basis, { exponent, budgetYear }));
  const change = (part: Partial<typeof draft>) => setDraft((before) => ({ ...before, ...part }));
  const made = basisOf(draft, { exponent, budgetYear });
  const targets = targetsOf(grid, { account, picked }, draft.kind);
  const [target, setTarget] = useState('line');
  const [previewed, setPreviewed] = useState<Previewed | null>(null);
  const asked = made.ok ? JSON.stringify({ account, filter, basis: made.basis }) : null;
  useEffect(() => {
    if (asked === null) return;
    let isLatest = true;
    void tryBasis(JSON.parse(asked) as BasisTry).then((answer) => {
      if (isLatest) setPreviewed(answer);
    });
    return () => {
      isLatest = false;
    };
  }, [asked, tryBasis]);
  const fault = made.ok ? (previewed && !previewed.ok ? previewed.message : null) : made.fault;
  const preview = previewed?.ok && fault === null ? previewed.preview : null;
  const given = preview?.months ?? null;
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
        if (made.ok && fault === null) set(made.basis, targets.find(({ key }) => key === target)?.accounts ?? [account]);
      }}
    >
      <SelectField
        label="How the year is derived"
        value={draft.kind}
        options={BASIS_KINDS.map((kind) => [kind, KIND_WORDS[kind]] as const)}
        set={(kind) => change({ kind: kind as BasisKind })}
      />
      <BasisFields draft={draft} months={months} years={years} set={change} />
      {draft.kind === 'typed' || draft.kind === 'typedTotal' ? null : (
        <details className="mt-2">
          <summary className="cursor-pointer text-ink-soft">From a month on, rounding, limits, one-offs</summary>
          <div className="mt-1 grid grid-cols-2 items-end gap-x-2 gap-y-1">
            <SelectField
              label="From"
              value={String(draft.fromMonth)}
              options={months.map((month, index) => [String(index), month] as const)}
              set={(from) => change({ fromMonth: Number(from) })}
            />
            <SelectField
              label="Rounded to"
              value={draft.roundTo}
              options={[...new Set([...ROUNDINGS, draft.roundTo])].map((step) => [step, step === '0' ? 'Not rounded' : step] as const)}
              set={(roundTo) => change({ roundTo })}
            />
            <TextField label="At least a month" value={draft.least} set={(least) => change({ least })} />
            <TextField label="At most a month" value={draft.most} set={(most) => change({ most })} />
            <div className="col-span-2">
              <CheckField
                label="Months to come of a year as budgeted"
                checked={draft.projected}
                set={(projected) => change({ projected })}
              />
            </div>
            <div className="col-span-2">
              <CheckField label="Keep one-offs in" checked={draft.withOneOffs} set={(withOneOffs) => change({ withOneOffs })} />
            </div>
          </div>
        </details>
      )}
      {fault ? (
        <p role="alert" className="mt-2 text-brick">
          {fault}
        </p>
      ) : null}
      {preview ? (
        <section aria-label="What it gives" className="mt-2 border-t border-hairline pt-1">
          <p>{preview.sentence}.</p>
          {preview.lacks.map((words) => (
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
                      <Amount value={preview.months[from + step]!} exponent={exponent} unit="dollars" />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="flex justify-between">
            <span>The year, {currencyWords}</span>
            <Amount value={preview.total} exponent={exponent} unit="dollars" />
          </p>
        </section>
      ) : null}
      {targets.length > 1 ? (
        <div className="mt-2">
          <SelectField label="Set it on" value={target} options={targets.map(({ key, words }) => [key, words] as const)} set={setTarget} />
        </div>
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
