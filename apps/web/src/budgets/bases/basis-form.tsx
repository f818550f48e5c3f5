import type { BasisPreviewDto, FilterDto, GridDto } from '@wise-margin/contract';
import { type Basis, formatAmount, minor } from '@wise-margin/core';
import { useEffect, useState } from 'react';

import { useCompany } from '../../data/company.ts';
import { SelectField } from '../../ui/labeled-field.tsx';
import { useStableCallback } from '../../ui/use-stable-callback.ts';
import type { BasisTry, Previewed } from '../worksheet/worksheet-messages.ts';
import { type BasisDraft, basisOf, draftOf } from './basis-draft.ts';
import { BasisSentence } from './basis-sentence.tsx';
import { targetsOf } from './basis-targets.ts';

/** Sentences that were begun and not set yet, by line and slice, so that looking at another line loses none. */
export type BasisDrafts = Map<string, BasisDraft>;

/**
 * How a line's year is derived: a sentence that is its own form. As soon as it says something new, what that
 * would give is handed on, and it can be set or left.
 */
export function BasisForm({
  budgetYear,
  account,
  place,
  grid,
  picked,
  filter,
  basis,
  months,
  years,
  drafts,
  excluded,
  isForSeveral,
  left,
  show,
  tryBasis,
  set,
}: {
  readonly budgetYear: number;
  readonly account: string;
  /** the line and slice, under which its draft is held */
  readonly place: string;
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
  readonly drafts: BasisDrafts;
  /** nonrecurring items the current basis excludes, in minor units */
  readonly excluded: number;
  /** the slices of the row are derived in several ways: whatever the sentence says would be new for some */
  readonly isForSeveral: boolean;
  /** called when the basis stays as it was */
  readonly left: () => void;
  /** hands on what the sentence would give; null while it says what holds */
  readonly show: (preview: BasisPreviewDto | null) => void;
  readonly tryBasis: (asked: BasisTry) => Promise<Previewed>;
  readonly set: (basis: Basis, accounts: readonly string[]) => void;
}) {
  const { exponent } = useCompany();
  const amount = (value: number) => formatAmount(minor(value), { exponent, unit: 'dollars' });
  const change = (value: number) => (value === 0 ? 'unchanged' : `${amount(Math.abs(value))} ${value > 0 ? 'more' : 'less'} than now`);
  const at = { exponent, budgetYear };
  const [draft, setDraft] = useState(() => drafts.get(place) ?? draftOf(basis, at));
  const write = (next: BasisDraft): void => {
    drafts.set(place, next);
    setDraft(next);
  };
  const leave = (): void => {
    drafts.delete(place);
    setDraft(draftOf(basis, at));
    left();
  };
  const made = basisOf(draft, at);
  const standing = basisOf(draftOf(basis, at), at);
  const isNew = isForSeveral || !made.ok || !standing.ok || JSON.stringify(made.basis) !== JSON.stringify(standing.basis);
  const targets = targetsOf(grid, { account, picked }, draft.kind);
  const [target, setTarget] = useState('line');
  const [previewed, setPreviewed] = useState<Previewed | null>(null);
  const asked = made.ok && isNew ? JSON.stringify({ account, filter, basis: made.basis }) : null;
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
  const preview = isNew && previewed?.ok && fault === null ? previewed.preview : null;
  const handOn = useStableCallback(show);
  useEffect(() => {
    handOn(preview);
    return () => handOn(null);
  }, [preview, handOn]);
  return (
    <form
      aria-label="Basis"
      className={`mt-2 ${isNew ? 'border-l-2 border-copper pl-2' : ''}`}
      onSubmit={(event) => {
        event.preventDefault();
        if (!isNew || !made.ok || fault !== null) return;
        drafts.delete(place);
        set(made.basis, targets.find(({ key }) => key === target)?.accounts ?? [account]);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && isNew) leave();
      }}
    >
      <BasisSentence
        draft={draft}
        months={months}
        years={years}
        excluded={isNew ? (preview?.excluded ?? 0) : excluded}
        set={(part) => write({ ...draft, ...part })}
      />
      {isNew && fault ? (
        <p role="alert" className="text-[13px] text-brick">
          {fault}
        </p>
      ) : null}
      {isNew ? (
        <div className="mt-1 text-[13px]">
          {preview?.warnings.map((words) => (
            <p key={words} className="text-brick">
              {words}
            </p>
          ))}
          {preview ? (
            <p role="status">
              Result: {preview.total === 0 ? 'zero' : amount(preview.total)} for the year, {change(preview.change)}.
            </p>
          ) : null}
          {preview?.wholeAccount ? <p className="font-semibold">{preview.wholeAccount}</p> : null}
          {targets.length > 1 ? (
            <SelectField label="Apply to" value={target} options={targets.map(({ key, words }) => [key, words] as const)} set={setTarget} />
          ) : null}
          <div className="mt-2 flex items-center gap-3">
            <button type="submit" className="button button-primary" disabled={!made.ok || fault !== null}>
              Apply
            </button>
            <button type="button" className="link" onClick={leave}>
              Discard
            </button>
          </div>
        </div>
      ) : null}
    </form>
  );
}
