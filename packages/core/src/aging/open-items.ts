import type { IsoDate } from '../calendar/iso-date.ts';
import { groupBy } from '../collections/group-by.ts';
import { type Minor, minor } from '../money/minor.ts';

/** A line of a receivables or payables account. */
export type ControlLine = {
  readonly line: number;
  readonly entry: number;
  readonly date: IsoDate;
  /** '' for none */
  readonly party: string;
  readonly document: string;
  readonly due: IsoDate | null;
  /** what it adds to the amount owed: above zero for invoices and bills, below for payments and credits */
  readonly amount: Minor;
};
/** A document that is not paid in full. */
export type OpenItem = {
  readonly document: string;
  readonly entry: number;
  readonly date: IsoDate;
  readonly due: IsoDate | null;
  readonly original: Minor;
  /** payments and credits matched to it; above zero */
  readonly applied: Minor;
  readonly open: Minor;
  /** another document of the party has the same number and another date */
  readonly isRepeated: boolean;
};
/** A payment or credit, or what is left of it, that no document takes up. */
export type UnappliedCredit = {
  readonly document: string;
  readonly entry: number;
  readonly date: IsoDate;
  /** above zero */ readonly amount: Minor;
};
export type PartyItems = {
  readonly party: string;
  /** oldest first */
  readonly items: readonly OpenItem[];
  readonly unapplied: readonly UnappliedCredit[];
};

/**
 * What each customer owes, or each vendor is owed. Payments and credits are matched by document number, to the oldest of a
 * number used twice first; what is left of them, and those without a document of their party, stay unapplied. Lines of the
 * same document and date are one item. Items and unapplied credits of a party add up to its lines.
 * @param lines of parties, up to the date asked for, in order of date
 * @returns parties with anything open, in order of name
 */
export function openItems(lines: readonly ControlLine[]): PartyItems[] {
  const parties = groupBy(lines, ({ party }) => party);
  return [...parties]
    .sort(([a], [b]) => a.localeCompare(b, 'en'))
    .flatMap(([party, own]) => {
      const matched = [...groupBy(own, documentKey).values()].map(matchDocument);
      const items = matched.flatMap((each) => each.items).sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
      const unapplied = matched.flatMap((each) => each.unapplied);
      return items.length === 0 && unapplied.length === 0 ? [] : [{ party, items, unapplied }];
    });
}

/** Lines without a document number are matched to nothing. */
const documentKey = ({ document, line }: ControlLine): string => (document === '' ? `\n${line}` : document);

function matchDocument(lines: readonly ControlLine[]): Pick<PartyItems, 'items' | 'unapplied'> {
  const invoiced = [
    ...groupBy(
      lines.filter(({ amount }) => amount > 0),
      ({ date, due }) => `${date} ${due ?? ''}`,
    ).values(),
  ].sort((a, b) => (a[0]!.date < b[0]!.date ? -1 : 1));
  const credits = lines.filter(({ amount }) => amount < 0);
  let left = credits.reduce((sum, { amount }) => sum - amount, 0);
  const items = invoiced.flatMap((own): OpenItem[] => {
    const { document, entry, date, due } = own[0]!;
    const original = own.reduce((sum, { amount }) => sum + amount, 0);
    const applied = Math.min(original, left);
    left -= applied;
    if (applied === original) return [];
    const open = minor(original - applied);
    return [{ document, entry, date, due, original: minor(original), applied: minor(applied), open, isRepeated: invoiced.length > 1 }];
  });
  // the latest credits are those that nothing was left to take up
  const unapplied: UnappliedCredit[] = [];
  for (const { document, entry, date, amount } of credits.reverse()) {
    if (left <= 0) break;
    const part = Math.min(left, -amount);
    left -= part;
    unapplied.unshift({ document, entry, date, amount: minor(part) });
  }
  return { items, unapplied };
}
