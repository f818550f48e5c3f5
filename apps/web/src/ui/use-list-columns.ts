import { useMemo, useState } from 'react';

/** Which columns of a list are shown, as a person last chose them on this computer. */
export type ListColumns = {
  readonly isShown: (key: string) => boolean;
  readonly toggle: (key: string) => void;
  /** columns that differ from those shown at first */
  readonly changed: number;
};

/**
 * @param list the list's name, which its choice is remembered under
 * @param extra columns that are shown only when chosen
 */
export function useListColumns(list: string, extra: readonly string[]): ListColumns {
  const place = `wise-margin.columns.${list}`;
  const [toggled, setToggled] = useState<readonly string[]>(() => read(place));
  return useMemo(
    () => ({
      isShown: (key) => extra.includes(key) === toggled.includes(key),
      toggle: (key) => {
        const next = toggled.includes(key) ? toggled.filter((each) => each !== key) : [...toggled, key];
        setToggled(next);
        localStorage.setItem(place, JSON.stringify(next));
      },
      changed: toggled.length,
    }),
    [place, extra, toggled],
  );
}

function read(place: string): readonly string[] {
  try {
    const held: unknown = JSON.parse(localStorage.getItem(place) ?? '[]');
    return Array.isArray(held) ? held.filter((each): each is string => typeof each === 'string') : [];
  } catch {
    // what was remembered is not readable: the list as it is at first
    return [];
  }
}
