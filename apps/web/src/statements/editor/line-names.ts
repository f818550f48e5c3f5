import { type Line, type LineSet, walkLines } from '@wise-margin/core';

import { LINE_KINDS } from './line-kinds.ts';
import { textAsName } from './tokens.ts';

/** The name a line is shown by in lists; one without a name is called by its type. */
export const lineName = (line: Line): string =>
  line.name === '' ? LINE_KINDS.find(([kind]) => kind === line.kind)![1] : textAsName(line.name);

/** Every line with figures by key and name, for a choice among them; equal names are distinguished by their sections. */
export function lineChoices(set: LineSet): readonly (readonly [key: string, name: string])[] {
  const found: { readonly key: string; readonly name: string; readonly section: string }[] = [];
  walkLines(set.lines, (line, sections) => {
    const section = sections.at(-1);
    if (line.kind !== 'section' && line.kind !== 'spacer')
      found.push({ key: line.key, name: lineName(line), section: section ? lineName(section) : '' });
  });
  const counts = new Map<string, number>();
  for (const { name } of found) counts.set(name, (counts.get(name) ?? 0) + 1);
  return found.map(({ key, name, section }) => [key, counts.get(name)! > 1 && section !== '' ? `${name} (${section})` : name] as const);
}

/** The sections by key and name, in order. */
export function sectionChoices(set: LineSet): readonly (readonly [key: string, name: string])[] {
  const found: (readonly [string, string])[] = [];
  walkLines(set.lines, (line) => {
    if (line.kind === 'section') found.push([line.key, lineName(line)]);
  });
  return found;
}

/** What a line is, in a word or two; what its name says already is left out. */
export function lineHint(line: Line, set: LineSet): string {
  if (line.kind === 'total') {
    const section = sectionChoices(set).find(([key]) => key === line.of);
    return section ? `total of ${section[1]}` : 'total of a section that was removed';
  }
  if (line.kind === 'accounts' || line.kind === 'spacer') return '';
  return LINE_KINDS.find(([kind]) => kind === line.kind)![1].toLowerCase();
}
