import { groupBy } from '../collections/group-by.ts';
import { hasDigitsSwapped } from '../postings/unusual-amounts.ts';
import type { BankLine, CashLine } from './bank-line.ts';

const SHORTEST_REFERENCE = 4;
const SHORTEST_WORD = 4;

/** A bank line with its texts prepared for being compared with many lines of the ledger. */
export type BankTexts = { readonly reference: string; readonly all: string; readonly words: ReadonlySet<string> };

const lettersAndFigures = (text: string): string => text.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '');
const wordsOf = (text: string): string[] =>
  text
    .toUpperCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

export function bankTexts({ text, reference, party }: BankLine): BankTexts {
  const all = `${reference} ${text} ${party}`;
  return { reference: lettersAndFigures(reference), all: lettersAndFigures(all), words: new Set(wordsOf(all)) };
}

/**
 * Whether the bank names the document or the entry: `HF-26090` is found in `ACH HF26090 HARBOR`, however it is written.
 * References shorter than four letters and figures, or without a figure, prove nothing.
 */
export function hasSameReference(bank: BankTexts, line: Pick<CashLine, 'document' | 'entry'>): boolean {
  return referencesOf(line).some((reference) => bank.all.includes(reference));
}
const referencesOf = ({ document, entry }: Pick<CashLine, 'document' | 'entry'>): string[] =>
  [document, entry].map(lettersAndFigures).filter((bare) => bare.length >= SHORTEST_REFERENCE && /\d/.test(bare));

/**
 * For lines of the ledger, what finds those with which a line of the bank has a reference in common, without comparing
 * each with each.
 * @returns places of the lines, in their order
 */
export function linesByReference(lines: readonly Pick<CashLine, 'document' | 'entry'>[]): (bank: BankTexts) => number[] {
  const named = lines.flatMap((line, at) => referencesOf(line).map((reference) => ({ reference, at })));
  const places = groupBy(named, ({ reference }) => reference);
  const lengths = [...new Set([...places.keys()].map((reference) => reference.length))];
  return ({ all }) => {
    const found = new Set<number>();
    for (const length of lengths)
      for (let at = 0; at + length <= all.length; at += 1)
        for (const line of places.get(all.slice(at, at + length)) ?? []) found.add(line.at);
    return [...found].sort((a, b) => a - b);
  };
}

/** Whether the bank names the customer or vendor: half of the longer words of the name at least, one of one or two. */
export function hasSameParty(bank: BankTexts, { party }: Pick<CashLine, 'party'>): boolean {
  const words = wordsOf(party).filter((word) => word.length >= SHORTEST_WORD);
  const found = words.filter((word) => bank.words.has(word)).length;
  return found > 0 && found * 2 >= words.length;
}

/** Whether the bank uses words of the memo, such as `PAYROLL` for "Funding of payroll". */
export function hasSameWords(bank: BankTexts, { memo }: Pick<CashLine, 'memo'>): boolean {
  return wordsOf(memo).some((word) => word.length > SHORTEST_WORD && bank.words.has(word));
}

/** Whether one amount is the other with two neighboring figures exchanged: 5,436.00 and 5,346.00. */
export const areTransposed = (a: number, b: number): boolean => a > 0 === b > 0 && hasDigitsSwapped(Math.abs(a), Math.abs(b));
