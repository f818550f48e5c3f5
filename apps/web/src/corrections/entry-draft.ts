import type { EntryDto, EntryTemplateDto } from '@wise-margin/contract';
import { type EntryContent, formatAmount, type LineContent, type Minor, minor, parseTypedAmount, toDecimalText } from '@wise-margin/core';

/** A line as it is typed. */
export type LineDraft = {
  /** stays with the line while others are added and removed */
  readonly key: number;
  readonly account: string;
  readonly debit: string;
  readonly credit: string;
  readonly dimensions: Readonly<Record<string, string>>;
  readonly memo: string;
  readonly party: string;
  readonly document: string;
  readonly due: string | null;
};
/** An entry as it is corrected. */
export type EntryDraft = { readonly date: string; readonly lines: readonly LineDraft[] };

const amountText = (amount: number | null, exponent: number): string => (amount === null ? '' : toDecimalText(amount as Minor, exponent));

export const draftOf = ({ date, lines }: Pick<EntryDto, 'date' | 'lines'>, exponent: number): EntryDraft => ({
  date,
  lines: lines.map((line, key) => ({
    key,
    account: `${line.account} ${line.accountName}`,
    debit: amountText(line.debit, exponent),
    credit: amountText(line.credit, exponent),
    dimensions: line.dimensions,
    memo: line.memo,
    party: line.party,
    document: line.document,
    due: line.due,
  })),
});

export const emptyLine = (key: number): LineDraft => ({
  key,
  account: '',
  debit: '',
  credit: '',
  dimensions: {},
  memo: '',
  party: '',
  document: '',
  due: null,
});

const amountOf = (text: string, exponent: number): Minor | null | undefined => {
  if (text.trim() === '') return undefined;
  const parsed = parseTypedAmount(text, exponent);
  return parsed.ok ? parsed.value : null;
};

/** What both sides of a draft add up to; what cannot be read counts as nothing. */
export function draftSides({ lines }: EntryDraft, exponent: number): { readonly debits: number; readonly credits: number } {
  const sum = (side: 'debit' | 'credit') => lines.reduce((total, line) => total + (amountOf(line[side], exponent) ?? 0), 0);
  return { debits: sum('debit'), credits: sum('credit') };
}

/** The content a draft stands for, or why there is none. An account may be typed with its name: its number comes first. */
export function contentOfDraft(
  draft: EntryDraft,
  { source, kind, state, exponent }: Pick<EntryDto, 'source' | 'kind' | 'state'> & { readonly exponent: number },
): { readonly content: EntryContent } | { readonly fault: string } {
  const lines: LineContent[] = [];
  for (const [place, line] of draft.lines.entries()) {
    const [debit, credit] = [amountOf(line.debit, exponent), amountOf(line.credit, exponent)];
    const wrong = debit === null ? line.debit : credit === null ? line.credit : null;
    if (wrong !== null) return { fault: `Line ${place + 1}: “${wrong}” is not an amount. Enter one such as 1250.00.` };
    if (debit && credit) return { fault: `Line ${place + 1} has a debit and a credit. Keep one of them.` };
    const { dimensions, memo, party, document, due } = line;
    const account = line.account.trim().split(/\s/)[0]!;
    lines.push({ account, amount: minor((debit ?? 0) - (credit ?? 0)), dimensions, memo, party, document, due });
  }
  const difference = lines.reduce((sum, { amount }) => sum + amount, 0);
  if (difference !== 0) {
    const words = formatAmount(Math.abs(difference) as Minor, { exponent, unit: 'cents' });
    return {
      fault: `Debits and credits differ by ${words}: ${difference > 0 ? 'credits' : 'debits'} are short. Correct an amount or add a line.`,
    };
  }
  return { content: { date: draft.date, source, kind: kind as EntryContent['kind'], state: state as EntryContent['state'], lines } };
}

/** A content as it is typed; accounts by their number. */
export const draftOfContent = ({ date, lines }: EntryTemplateDto['content'], exponent: number): EntryDraft => ({
  date,
  lines: lines.map(({ amount, ...line }, key) => ({
    ...line,
    key,
    debit: amountText(amount > 0 ? amount : null, exponent),
    credit: amountText(amount < 0 ? -amount : null, exponent),
  })),
});
