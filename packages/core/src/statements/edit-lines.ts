import { freeKey } from './edit-columns.ts';
import type { Line, LineSet } from './line-set.ts';
import { renameInExpression } from './rename-in-expression.ts';

/** Where a line goes: before or after another, or to the end of a section. */
export type LinePlace = { readonly at: 'before' | 'after' | 'inside'; readonly key: string } | { readonly at: 'end' };

/** Every line of a set with the sections around it, in the order they stand. */
export function walkLines(
  lines: readonly Line[],
  visit: (line: Line, sections: readonly Line[]) => void,
  around: readonly Line[] = [],
): void {
  for (const line of lines) {
    visit(line, around);
    if (line.kind === 'section') walkLines(line.lines, visit, [...around, line]);
  }
}

export function findLine(set: LineSet, key: string): Line | null {
  let found: Line | null = null;
  walkLines(set.lines, (line) => {
    if (line.key === key) found = line;
  });
  return found;
}

function keysOf(lines: readonly Line[]): string[] {
  const keys: string[] = [];
  walkLines(lines, ({ key }) => keys.push(key));
  return keys;
}

/** Each line replaced by what `replace` gives: one, several or none; sections are gone into first. */
function rebuilt(lines: readonly Line[], replace: (line: Line) => readonly Line[]): Line[] {
  return lines.flatMap((line) => replace(line.kind === 'section' ? { ...line, lines: rebuilt(line.lines, replace) } : line));
}

function placed(lines: readonly Line[], line: Line, place: LinePlace): Line[] {
  if (place.at === 'end') return [...lines, line];
  return rebuilt(lines, (each) => {
    if (each.key !== place.key) return [each];
    if (place.at === 'before') return [line, each];
    if (place.at === 'after' || each.kind !== 'section') return [each, line];
    return [{ ...each, lines: [...each.lines, line] }];
  });
}

/** A line with keys, its own and those within it, that are free in the set; its inner references follow. */
function withFreeKeys(line: Line, taken: readonly string[]): Line {
  const used = [...taken];
  const renames: (readonly [string, string])[] = [];
  for (const key of keysOf([line])) {
    const free = freeKey(used, key);
    used.push(free);
    renames.push([key, free]);
  }
  return rebuilt([line], (each) => {
    const key = renames.find(([from]) => from === each.key)![1];
    return [{ ...renames.reduce((own, [from, to]) => referring(own, from, to), each), key }];
  })[0]!;
}

/** Puts a new line in; its keys are made free. @returns the set and the line's key */
export function insertLine(set: LineSet, line: Line, place: LinePlace): { readonly set: LineSet; readonly key: string } {
  const own = withFreeKeys(line, keysOf(set.lines));
  return { set: { ...set, lines: placed(set.lines, own, place) }, key: own.key };
}

/** A line again, after itself, with all that stands in it. */
export function duplicateLine(set: LineSet, key: string): { readonly set: LineSet; readonly key: string } {
  const line = findLine(set, key);
  return line ? insertLine(set, line, { at: 'after', key }) : { set, key };
}

/** What refers to the line refers to nothing then, which is an issue. */
export function removeLine(set: LineSet, key: string): LineSet {
  return { ...set, lines: rebuilt(set.lines, (line) => (line.key === key ? [] : [line])) };
}

/** Moves a line with all that stands in it; a section does not go into itself. */
export function moveLine(set: LineSet, key: string, place: LinePlace): LineSet {
  const line = findLine(set, key);
  if (!line || (place.at !== 'end' && keysOf([line]).includes(place.key))) return set;
  return { ...set, lines: placed(removeLine(set, key).lines, line, place) };
}

/** Moves a line one place up or down among those beside it; past the first or last of a section it leaves the section. */
export function stepLine(set: LineSet, key: string, step: -1 | 1): LineSet {
  const at = step < 0 ? 'before' : 'after';
  const beside = besidesOf(set, key);
  const next = beside[beside.findIndex((line) => line.key === key) + step];
  if (next) return moveLine(set, key, { at, key: next.key });
  const section = sectionOf(set, key);
  return section === null ? set : moveLine(set, key, { at, key: section });
}

/** The lines of the section a line is in, itself among them. */
function besidesOf(set: LineSet, key: string): readonly Line[] {
  const section = sectionOf(set, key);
  const line = section === null ? null : findLine(set, section);
  return line?.kind === 'section' ? line.lines : set.lines;
}

/** The section a line is in; null at the top. */
export function sectionOf(set: LineSet, key: string): string | null {
  let section: string | null = null;
  walkLines(set.lines, (line, sections) => {
    if (line.key === key) section = sections.at(-1)?.key ?? null;
  });
  return section;
}

/** Moves a line to the end of the section beside it, the one above before the one below; without one the set stays as it is. */
export function indentLine(set: LineSet, key: string): LineSet {
  const beside = besidesOf(set, key);
  const position = beside.findIndex((line) => line.key === key);
  const [above, below] = [beside[position - 1], beside[position + 1]];
  if (above?.kind === 'section') return moveLine(set, key, { at: 'inside', key: above.key });
  if (below?.kind !== 'section') return set;
  const [first] = below.lines;
  return moveLine(set, key, first ? { at: 'before', key: first.key } : { at: 'inside', key: below.key });
}

/** Moves a line out of its section, to just after it; at the top the set stays as it is. */
export function outdentLine(set: LineSet, key: string): LineSet {
  const section = sectionOf(set, key);
  return section === null ? set : moveLine(set, key, { at: 'after', key: section });
}

/** Moves a line to the end of a section; null moves it to the end of the top. A section does not go into itself. */
export function moveToSection(set: LineSet, key: string, section: string | null): LineSet {
  return moveLine(set, key, section === null ? { at: 'end' } : { at: 'inside', key: section });
}

/** Replaces a line; its key stays, so that what refers to it still does. */
export function changeLine(set: LineSet, key: string, change: (line: Line) => Line): LineSet {
  return { ...set, lines: rebuilt(set.lines, (line) => (line.key === key ? [{ ...change(line), key }] : [line])) };
}

/** Gives a line another key, and so everywhere it is referred to. A key in use is refused by returning the set as it is. */
export function renameLine(set: LineSet, key: string, to: string): LineSet {
  if (keysOf(set.lines).includes(to)) return set;
  const lines = rebuilt(set.lines, (line) => {
    const followed = referring(line, key, to);
    return [line.key === key ? { ...followed, key: to } : followed];
  });
  return { ...set, ...(set.percentBase === key ? { percentBase: to } : {}), lines };
}

function referring(line: Line, from: string, to: string): Line {
  const own = line.percentOf === from ? { ...line, percentOf: to } : line;
  if (own.kind === 'formula') return { ...own, expression: renameInExpression(own.expression, from, to) };
  return own.kind === 'total' && own.of === from ? { ...own, of: to } : own;
}
