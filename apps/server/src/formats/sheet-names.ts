import { withoutControls } from '@wise-margin/core';

const LONGEST = 31;

/** A name a spreadsheet takes for a sheet: 31 characters at most, none of those it keeps to itself, and not its own word History. */
export function sheetName(name: string, fallback: string): string {
  const plain = withoutControls(name)
    .replaceAll(/[\\/*?:[\]']/g, ' ')
    .trim()
    .slice(0, LONGEST)
    .trim();
  return plain === '' || plain.toLowerCase() === 'history' ? fallback : plain;
}

/** Names for sheets of one file: legal, and unique whatever their case; one that is taken gets a number. */
export function sheetNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name, at) => {
    const first = sheetName(name, `Sheet ${at + 1}`);
    let unique = first;
    for (let number = 2; taken.has(unique.toLowerCase()); number += 1) {
      const end = ` (${number})`;
      unique = `${first.slice(0, LONGEST - end.length).trim()}${end}`;
    }
    taken.add(unique.toLowerCase());
    return unique;
  });
}
