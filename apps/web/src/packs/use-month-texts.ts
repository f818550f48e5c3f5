import type { PackMonthChange, PackMonthDto } from '@wise-margin/contract';
import type { RichText } from '@wise-margin/core';
import { useEffect, useRef, useState } from 'react';

import type { usePackMonth } from '../data/use-packs.ts';
import { useStableCallback } from '../ui/use-stable-callback.ts';

const SAVE_AFTER = 700;
type Texts = Readonly<Record<string, RichText>>;
type Change = Omit<PackMonthChange, 'version'>;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Whether a month that was read again has other words where somebody here is writing: a save would overwrite them. */
export function isOvertaken({
  base,
  now,
  typed,
}: {
  readonly base: PackMonthDto;
  readonly now: PackMonthDto;
  readonly typed: Texts;
}): boolean {
  return Object.keys(typed).some((id) => !same(now.texts[id], base.texts[id]) && !same(now.texts[id], typed[id]));
}

/**
 * What is written and decided for a month. Texts save themselves a moment after the last key; changes are sent one after
 * the other, each from the version the one before it left. What somebody else wrote meanwhile is never overwritten: the
 * save is refused, and what was typed stays.
 */
export function useMonthTexts({ data, change }: Pick<ReturnType<typeof usePackMonth>, 'data' | 'change'>) {
  const [typed, setTyped] = useState<Texts>({});
  const base = useRef<PackMonthDto | null>(null);
  const pending = useRef<Change>({});
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const sending = useRef<Promise<void> | null>(null);
  useEffect(() => {
    if (data && (base.current === null || !isOvertaken({ base: base.current, now: data, typed }))) base.current = data;
  }, [data, typed]);

  /** Sends what is pending, after what is being sent. */
  const send = useStableCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    await sending.current;
    const from = base.current;
    const changed = pending.current;
    if (from === null || Object.keys(changed).length === 0) return;
    pending.current = {};
    sending.current = change
      .mutateAsync({ version: from.version, ...changed })
      .then((saved) => {
        base.current = saved;
      })
      .catch(() => {
        // the page says why; what was refused goes along with the next change
        pending.current = merged(changed, pending.current);
      })
      .finally(() => {
        sending.current = null;
      });
    await sending.current;
  });
  useEffect(() => () => void send(), [send]);

  return {
    texts: { ...data?.texts, ...typed },
    /** A text that was typed: saved once it rests. */
    setText: (section: string, text: RichText): void => {
      setTyped((before) => ({ ...before, [section]: text }));
      pending.current = merged(pending.current, { texts: { [section]: text } });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void send(), SAVE_AFTER);
    },
    /** State or meeting day: saved at once, with what was typed. */
    changeNow: (changed: Change): void => {
      pending.current = merged(pending.current, changed);
      void send();
    },
    /** Settles when everything typed so far is saved, or was refused. */
    flush: send,
  };
}

const merged = (first: Change, second: Change): Change => {
  const texts = { ...first.texts, ...second.texts };
  return { ...first, ...second, ...(Object.keys(texts).length === 0 ? {} : { texts }) };
};
