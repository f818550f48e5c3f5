import type { CompanyMaterialityDto, LimitDto, MaterialityDto, Scope } from '@wise-margin/contract';
import { type Comparison, COMPARISONS, type FindingSpan } from '@wise-margin/core';
import { comparisonWords } from '@wise-margin/presentation';
import { X } from 'lucide-react';
import { useId, useState } from 'react';

import { useAsOf, useCompany } from '../data/company.ts';
import { useMateriality, useMaterialityPreview, useRemoveMateriality, useSetMateriality } from '../data/use-findings.ts';
import { useViews } from '../data/use-views.ts';
import { Choice } from '../ui/choice.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';

const SPANS: readonly (readonly [FindingSpan, string])[] = [
  ['month', 'A month'],
  ['yearToDate', 'The year to date'],
];
const SOURCE_WORDS: Readonly<Record<CompanyMaterialityDto['source'], string>> = {
  suggested: 'They are suggested from the revenue of the last twelve months until you save your own.',
  all: 'They are the limits for all companies.',
  company: 'They are this company’s own.',
};
/** A limit as it is typed. */
type Typed = { readonly amount: string; readonly percent: string; readonly passes: 'both' | 'either'; readonly least: string };
type TypedSpans = Readonly<Record<FindingSpan, Typed>>;
type TypedOverride = TypedSpans & { readonly of: 'class' | 'line' | 'view'; readonly key: string };

/** The same text for the same limits, in whatever order their fields arrive. */
function fingerprint({
  month,
  yearToDate,
  overrides,
}: Omit<MaterialityDto, 'overrides'> & { readonly overrides: readonly MaterialityDto['overrides'][number][] }): string {
  const values = ({ amount, percent, passes, least }: LimitDto) => [amount, percent, passes, least];
  return JSON.stringify([
    values(month),
    values(yearToDate),
    overrides.map((each) => [each.of, each.key, values(each.month), values(each.yearToDate)]),
  ]);
}

/** The limits past which a variance is a finding, and how many findings they give. */
export default function LimitsPage() {
  const company = useCompany();
  const [asOf] = useAsOf();
  const limits = useMateriality(company.id);
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Ledger page first.</Empty>;
  if (limits.isError) return <Failure error={limits.error} retry={() => void limits.refetch()} />;
  if (!limits.data) return <Loading what="the limits" />;
  return <Limits asOf={asOf} limits={limits.data} key={JSON.stringify(limits.data.materiality)} />;
}

function Limits({ asOf, limits }: { readonly asOf: string; readonly limits: CompanyMaterialityDto }) {
  const company = useCompany();
  const { exponent } = company;
  const typed = (limit: LimitDto): Typed => ({
    amount: limit.amount === null ? '' : (limit.amount / 10 ** exponent).toLocaleString('en-US'),
    percent: limit.percent === null ? '' : (limit.percent * 100).toLocaleString('en-US'),
    passes: limit.passes,
    least: (limit.least / 10 ** exponent).toLocaleString('en-US'),
  });
  const [spans, setSpans] = useState<TypedSpans>({
    month: typed(limits.materiality.month),
    yearToDate: typed(limits.materiality.yearToDate),
  });
  const [overrides, setOverrides] = useState<readonly TypedOverride[]>(
    limits.materiality.overrides.map(({ of, key, month, yearToDate }) => ({ of, key, month: typed(month), yearToDate: typed(yearToDate) })),
  );
  const [comparison, setComparison] = useState<Comparison>('budget');
  const views = useViews(company.id);
  const places = [
    ...limits.lines.map(({ key, name }) => [`line ${key}`, name] as const),
    ...limits.classes.map(({ key, name }) => [`class ${key}`, `All of ${name.toLowerCase()}`] as const),
    ...(views.data ?? []).map(({ key, name }) => [`view ${key}`, `The statement ${name}`] as const),
  ];
  const nameOf = ({ of, key }: TypedOverride): string => places.find(([place]) => place === `${of} ${key}`)?.[1] ?? key;
  const read = readLimits({ spans, overrides, nameOf }, exponent);
  const preview = useMaterialityPreview(company.id, { asOf, comparison, materiality: read.ok ? read.materiality : null });
  const save = useSetMateriality(company.id);
  const remove = useRemoveMateriality(company.id);
  const [scope, setScope] = useState<Scope>(limits.source === 'all' ? 'all' : 'company');
  const others = limits.changedBy.filter((name) => name !== company.name);
  const isOtherScope = limits.source !== 'suggested' && scope !== limits.source;
  const isChanged = read.ok && fingerprint(read.materiality) !== fingerprint(limits.materiality);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pb-4" tabIndex={0} role="region" aria-label="Materiality limits">
      <p className="max-w-5xl text-[14px] text-ink-soft">
        A variance is a finding when it exceeds these thresholds. {SOURCE_WORDS[limits.source]}
        {others.length === 0
          ? ''
          : ` ${others.join(', ')} ${others.length === 1 ? 'has its own thresholds' : 'have their own thresholds'}.`}
      </p>
      <div className="mt-2 grid max-w-5xl grid-cols-2 gap-4 narrow:grid-cols-1">
        {SPANS.map(([span, name]) => (
          <LimitFields key={span} name={name} limit={spans[span]} set={(limit) => setSpans({ ...spans, [span]: limit })} />
        ))}
      </div>
      <h2 className="mt-4 font-serif text-lg font-semibold">Line-specific thresholds</h2>
      {overrides.map((override, at) => (
        <fieldset key={`${override.of} ${override.key}`} className="mt-2 max-w-5xl border border-hairline bg-sheet p-3">
          <legend className="flex items-center gap-2 px-1 font-semibold">
            {nameOf(override)}
            <button
              type="button"
              className="p-1 text-ink-soft hover:text-ink"
              aria-label={`Remove the limits of ${nameOf(override)}`}
              onClick={() => setOverrides(overrides.filter((_, other) => other !== at))}
            >
              <X size={14} />
            </button>
          </legend>
          <div className="grid grid-cols-2 gap-4 narrow:grid-cols-1">
            {SPANS.map(([span, name]) => (
              <LimitFields
                key={span}
                name={name}
                limit={override[span]}
                set={(limit) => setOverrides(overrides.map((each, other) => (other === at ? { ...each, [span]: limit } : each)))}
              />
            ))}
          </div>
        </fieldset>
      ))}
      <div className="mt-2 text-[14px]">
        <Choice
          label="Add limits for"
          value=""
          options={[
            ['', 'a line, class or statement…'],
            ...places.filter(([place]) => !overrides.some(({ of, key }) => `${of} ${key}` === place)),
          ]}
          choose={(place) => {
            const [of, key] = [place.slice(0, place.indexOf(' ')) as TypedOverride['of'], place.slice(place.indexOf(' ') + 1)];
            if (place !== '') setOverrides([...overrides, { of, key, ...spans }]);
          }}
        />
      </div>
      {views.isError ? <Failure error={views.error} retry={() => void views.refetch()} /> : null}
      {read.ok ? null : (
        <p role="alert" className="mt-3 font-semibold text-brick">
          {read.message}
        </p>
      )}
      {remove.isError ? <Failure error={remove.error} /> : null}
      {save.isError ? (
        <p role="alert" className="mt-3 font-semibold text-brick">
          {save.error.message}
        </p>
      ) : null}
      <div className="mt-3 flex items-center gap-4">
        <button
          type="button"
          className="button button-primary"
          disabled={!isChanged && !isOtherScope && limits.source !== 'suggested' ? true : !read.ok || save.isPending}
          onClick={() => (read.ok ? save.mutate({ ...read.materiality, scope }) : undefined)}
        >
          Save limits
        </button>
        <Choice
          label="for"
          value={scope}
          options={[
            ['company', company.name],
            ['all', 'All companies'],
          ]}
          choose={(value) => setScope(value as Scope)}
        />
        {limits.source === 'company' ? (
          <button type="button" className="link text-[13px]" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Remove own limits
          </button>
        ) : null}
        <span role="status" className="text-[13px] text-ink-soft">
          {limits.source === 'suggested' ? '' : isChanged ? 'Changed, not saved yet.' : 'Saved.'}
        </span>
      </div>
      <h2 className="mt-4 flex items-center gap-4 font-serif text-lg font-semibold">
        Findings with these limits
        <span className="font-sans text-[13px] font-normal">
          <Choice
            label="Compare with"
            value={comparison}
            options={COMPARISONS.map((key) => [key, comparisonWords(key)])}
            choose={(key) => setComparison(key as Comparison)}
          />
        </span>
      </h2>
      {preview.isError ? <Failure error={preview.error} retry={() => void preview.refetch()} /> : null}
      {preview.data ? (
        <table className="ledger-table mt-1" aria-label="Findings by month">
          <thead>
            <tr>
              <th scope="col">Month</th>
              {preview.data.months.map(({ month, name }) => (
                <th key={month} scope="col" className="px-2! text-right!">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Findings</th>
              {preview.data.months.map(({ month, findings }) => (
                <td key={month} className="figure px-2!">
                  {findings.toLocaleString('en-US')}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      ) : null}
    </div>
  );
}

function LimitFields({ name, limit, set }: { readonly name: string; readonly limit: Typed; readonly set: (limit: Typed) => void }) {
  const { currencyWords } = useCompany();
  const id = useId();
  const field = (label: string, key: 'amount' | 'percent' | 'least', words: string) => (
    <div className="flex items-center gap-2">
      <label htmlFor={`${id}-${key}`} className="w-40 text-ink-soft">
        {label}
      </label>
      <input
        id={`${id}-${key}`}
        className="field w-28 text-right"
        inputMode="decimal"
        value={limit[key]}
        onChange={(event) => set({ ...limit, [key]: event.target.value })}
      />
      <span className="text-[13px] text-ink-soft">{words}</span>
    </div>
  );
  return (
    <fieldset className="border border-hairline bg-sheet p-3">
      <legend className="px-1 font-semibold">{name}</legend>
      <div className="flex flex-col gap-1.5">
        {field('Amount', 'amount', currencyWords)}
        <div className="flex items-center gap-2">
          <label htmlFor={`${id}-passes`} className="w-40 text-ink-soft">
            Past
          </label>
          <select
            id={`${id}-passes`}
            className="field"
            value={limit.passes}
            onChange={(event) => set({ ...limit, passes: event.target.value === 'both' ? 'both' : 'either' })}
          >
            <option value="either">the amount or the percent</option>
            <option value="both">the amount and the percent</option>
          </select>
        </div>
        {field('Percent', 'percent', '% of what it is compared with')}
        {field('Minimum variance', 'least', `${currencyWords}, whatever the percent`)}
      </div>
    </fieldset>
  );
}

type Read = { readonly ok: true; readonly materiality: MaterialityDto } | { readonly ok: false; readonly message: string };

/** Typed limits as they are stored; the first that cannot be read says what to do. */
function readLimits(
  {
    spans,
    overrides,
    nameOf,
  }: {
    readonly spans: TypedSpans;
    readonly overrides: readonly TypedOverride[];
    readonly nameOf: (override: TypedOverride) => string;
  },
  exponent: number,
): Read {
  const number = (text: string): number | null => {
    const plain = text.replaceAll(',', '').replace(/[$%\s]/g, '');
    return plain === '' ? null : Number(plain);
  };
  const faults: string[] = [];
  const limit = ({ amount, percent, passes, least }: Typed, name: string): LimitDto => {
    const [money, part, from] = [number(amount), number(percent), number(least)];
    const check = (value: number | null, words: string, isZeroFine: boolean) => {
      if (value !== null && !(value > 0 || (isZeroFine && value === 0)))
        faults.push(`${name}: enter ${words} as a number${isZeroFine ? '' : ' above zero'}.`);
    };
    check(money, 'the amount', false);
    check(part, 'the percent', false);
    check(from, 'the smallest variance', true);
    if (money === null && part === null) faults.push(`${name}: enter an amount, a percent, or both.`);
    return {
      amount: money === null ? null : Math.round(money * 10 ** exponent),
      percent: part === null ? null : part / 100,
      passes,
      least: Math.round((from ?? 0) * 10 ** exponent),
    };
  };
  const pair = (of: TypedSpans, name: string) => ({
    month: limit(of.month, `${name}month`),
    yearToDate: limit(of.yearToDate, `${name}year to date`),
  });
  const materiality: MaterialityDto = {
    ...pair(spans, ''),
    overrides: overrides.map((each) => ({ of: each.of, key: each.key, ...pair(each, `${nameOf(each)}, `) })),
  };
  const [fault] = faults;
  return fault === undefined ? { ok: true, materiality } : { ok: false, message: `${fault.charAt(0).toUpperCase()}${fault.slice(1)}` };
}
