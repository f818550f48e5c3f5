/** How well a name answers a search: the lower the better. */
export const MATCH = { exact: 0, beginning: 1, words: 2, within: 3 } as const;
export type NameMatch = { readonly at: number; readonly score: number };

/**
 * Names that answer a search, the best first, and of equally good ones the first. A name is the very text, begins with it,
 * has a word that begins with each word searched for, or holds each of them somewhere; its synonyms are names too.
 * @param names each with its synonyms
 * @returns positions of names; none for no words
 */
export function matchNames(words: readonly string[], names: readonly (readonly string[])[], most: number): NameMatch[] {
  if (words.length === 0) return [];
  const text = words.join(' ');
  const found: NameMatch[] = [];
  names.forEach((of, at) => {
    let best: number | null = null;
    for (const name of of) {
      const score = scoreOf(text, words, name.toLowerCase());
      if (score !== null && (best === null || score < best)) best = score;
    }
    if (best !== null) found.push({ at, score: best });
  });
  return found.sort((a, b) => a.score - b.score || a.at - b.at).slice(0, most);
}

function scoreOf(text: string, words: readonly string[], name: string): number | null {
  if (name === text) return MATCH.exact;
  if (name.startsWith(text)) return MATCH.beginning;
  if (!words.every((word) => name.includes(word))) return null;
  return words.every((word) => beginsWord(name, word)) ? MATCH.words : MATCH.within;
}

/** Whether a word of the name begins with it: one that follows anything but a letter or a figure. */
function beginsWord(name: string, word: string): boolean {
  for (let at = name.indexOf(word); at >= 0; at = name.indexOf(word, at + 1))
    if (at === 0 || !/[\p{L}\p{N}]/u.test(name[at - 1]!)) return true;
  return false;
}
