import type { PackDto, PackPreviewRequest, PackScope } from '@wise-margin/contract';
import type { RichText, Section } from '@wise-margin/core';
import { useEffect, useMemo, useRef, useState } from 'react';

import { type PackPlace, usePackChanges, usePackMonth, usePackPreview } from '../data/use-packs.ts';
import { useStableCallback } from '../ui/use-stable-callback.ts';

const SAVE_AFTER = 700;
const PREVIEW_AFTER = 80;
type Texts = Readonly<Record<string, RichText>>;

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
  const { mutate: changeMonth } = monthData.change;
  // texts typed since the month was read
  const [typed, setTyped] = useState<Texts>({});
  const unsaved = useRef<Texts>({});
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const { save } = usePackChanges(place.company);

  const flush = useStableCallback(() => {
    clearTimeout(timer.current);
    const texts = unsaved.current;
    if (Object.keys(texts).length === 0 || !monthData.data) return;
    unsaved.current = {};
    changeMonth(
      { version: monthData.data.version, texts },
      // what was refused is sent again with the next change
      { onError: () => (unsaved.current = { ...texts, ...unsaved.current }) },
    );
  });
  useEffect(() => flush, [flush]);

  const set = (section: Section): void =>
    setDesign((before) => ({ ...before, sections: before.sections.map((each) => (each.id === section.id ? section : each)) }));
  const setText = (section: Section & { readonly kind: 'text' }, text: RichText): void => {
    if (section.written === 'once') return set({ ...section, text });
    setTyped((before) => ({ ...before, [section.id]: text }));
    unsaved.current = { ...unsaved.current, [section.id]: text };
    clearTimeout(timer.current);
    timer.current = setTimeout(flush, SAVE_AFTER);
  };
  const texts: Texts = useMemo(() => ({ ...monthData.data?.texts, ...typed }), [monthData.data?.texts, typed]);
  const state = monthData.data?.state ?? 'draft';
  const meeting = monthData.data?.meeting ?? null;
  const request = useMemo<PackPreviewRequest | null>(
    () =>
      monthData.data ? { ...partsOf(design), month, meeting, texts: { ...texts }, state, ...(slice === undefined ? {} : { slice }) } : null,
    [monthData.data, design, month, meeting, texts, state, slice],
  );
  const preview = usePackPreview(place.company, useRested(request, PREVIEW_AFTER));
  return {
    design,
    setDesign,
    set,
    isChanged,
    texts,
    setText,
    flush,
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
