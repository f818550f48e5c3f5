import type { PackDto, PackPreviewRequest, PackScope } from '@wise-margin/contract';
import type { RichText, Section } from '@wise-margin/core';
import { useEffect, useMemo, useState } from 'react';

import { type PackPlace, usePackChanges, usePackMonth, usePackPreview } from '../data/use-packs.ts';
import { useMonthTexts } from './use-month-texts.ts';

const PREVIEW_AFTER = 80;

/** A value that follows another once it has rested a while. */
function useRested<Value>(value: Value, milliseconds: number): Value {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return rested;
}

/**
 * A pack as it is edited in a month. The design is kept until it is saved; texts of the month save themselves, and a
 * save that is refused leaves what was typed where it is.
 */
export function usePackEditor(
  place: PackPlace,
  { saved, month, slice }: { readonly saved: PackDto; readonly month: string; readonly slice: string | undefined },
) {
  const [design, setDesign] = useState<PackDto>(saved);
  const isChanged = JSON.stringify(partsOf(design)) !== JSON.stringify(partsOf(saved));
  const monthData = usePackMonth(place, month);
  const { texts, setText: setMonthText, changeNow, flush } = useMonthTexts(monthData);
  const { save } = usePackChanges(place.company);

  const set = (section: Section): void =>
    setDesign((before) => ({ ...before, sections: before.sections.map((each) => (each.id === section.id ? section : each)) }));
  const setText = (section: Section & { readonly kind: 'text' }, text: RichText): void => {
    if (section.written === 'once') set({ ...section, text });
    else setMonthText(section.id, text);
  };
  const state = monthData.data?.state ?? 'draft';
  const meeting = monthData.data?.meeting ?? null;
  const request: PackPreviewRequest | null = monthData.data
    ? { ...partsOf(design), month, meeting, texts: { ...texts }, state, ...(slice === undefined ? {} : { slice }) }
    : null;
  // by its content: the same request is the same preview
  const rested = useRested(JSON.stringify(request), PREVIEW_AFTER);
  const preview = usePackPreview(
    place.company,
    useMemo(() => JSON.parse(rested) as PackPreviewRequest | null, [rested]),
  );
  return {
    design,
    setDesign,
    set,
    isChanged,
    texts,
    setText,
    flush,
    changeNow,
    monthData,
    preview,
    save: (scope: PackScope) => save.mutate({ pack: place.pack, change: { ...partsOf(design), scope, version: saved.version } }),
    saving: save,
  };
}
export type PackEditor = ReturnType<typeof usePackEditor>;

const partsOf = ({ name, note, splitBy, sections }: Pick<PackDto, 'name' | 'note' | 'splitBy' | 'sections'>) => ({
  name,
  note,
  splitBy,
  sections,
});
