import { dayNumber } from '../calendar/day-number.ts';
import { groupBy } from '../collections/group-by.ts';
import type { BankLine, CashLine } from './bank-line.ts';
import { areTransposed, type BankTexts, bankTexts, hasSameParty, hasSameReference, hasSameWords } from './line-likeness.ts';
import { smallestGroup } from './smallest-group.ts';

/** Why lines are taken for the same money. */
export type MatchBasis = 'reference' | 'party' | 'words' | 'amount' | 'together';
/** Lines that are the same money: one of each, one of the bank for several of the ledger, or the other way round. */
export type MatchProposal = {
  readonly bank: readonly number[];
  readonly ledger: readonly number[];
  readonly basis: MatchBasis;
  /** days from the ledger to the bank, of the lines farthest apart; negative where the bank was first */
  readonly days: number;
  /** a reference, a customer or vendor, or words prove it; else a person should look */
  readonly isSure: boolean;
};
/** Lines that are likely the same money, and differ by an amount. `difference` is the bank's less the ledger's. */
export type NearMatch = {
  readonly bank: number;
  readonly ledger: number;
  readonly kind: 'transposed' | 'sameReference';
  readonly difference: number;
};
export type MatchProposals = { readonly matches: readonly MatchProposal[]; readonly near: readonly NearMatch[] };

/** Checks clear late; the bank is seldom before the ledger. */
const LATEST = 75;
const EARLIEST = -5;
/** Without any sign but the amount, only near days count. */
const LATEST_BY_AMOUNT = 10;
const LATEST_TOGETHER = 7;
const EARLIEST_TOGETHER = -3;
const LATEST_NEAR = 10;
const MOST_OF_AMOUNT = 200;
const SCORES: Readonly<Record<Exclude<MatchBasis, 'together'>, number>> = { reference: 100, party: 60, words: 40, amount: 0 };

type Dated<Line> = { readonly line: Line; readonly day: number };
type DatedBank = Dated<BankLine> & { readonly texts: BankTexts };
type Pair = { readonly bank: DatedBank; readonly ledger: Dated<CashLine>; readonly basis: MatchProposal['basis']; readonly score: number };

/**
 * Proposes which lines of a bank statement and of the ledger are the same money. First pairs of one amount, the best
 * proven first; then one bank line for several of the ledger, such as a deposit of several checks, and several for one.
 * What is left is compared for exchanged figures. Every line is in one proposal at most, and each proposal adds up.
 * @param of.bank not cleared yet
 * @param of.ledger not cleared yet, on the cash account
 */
export function proposeMatches({
  bank,
  ledger,
}: {
  readonly bank: readonly BankLine[];
  readonly ledger: readonly CashLine[];
}): MatchProposals {
  const banks = byDay(bank.map((line) => ({ line, day: dayNumber(line.date), texts: bankTexts(line) })));
  const cash = byDay(ledger.map((line) => ({ line, day: dayNumber(line.date) })));
  const taken = { bank: new Set<number>(), ledger: new Set<number>() };
  const isFree = {
    bank: ({ line }: DatedBank) => !taken.bank.has(line.id),
    ledger: ({ line }: Dated<CashLine>) => !taken.ledger.has(line.id),
  };
  const matches: MatchProposal[] = [];
  const take = (proposal: MatchProposal): void => {
    for (const id of proposal.bank) taken.bank.add(id);
    for (const id of proposal.ledger) taken.ledger.add(id);
    matches.push(proposal);
  };

  for (const { bank: of, ledger: to, basis } of pairsOf(banks, cash)) {
    if (!isFree.bank(of) || !isFree.ledger(to)) continue;
    take({ bank: [of.line.id], ledger: [to.line.id], basis, days: of.day - to.day, isSure: basis !== 'amount' });
  }
  for (const of of banks.filter(isFree.bank)) {
    const group = smallestGroup(of.line.amount, between(cash, of.day - LATEST_TOGETHER, of.day - EARLIEST_TOGETHER).filter(isFree.ledger));
    if (group)
      take({
        bank: [of.line.id],
        ledger: group.map(({ line }) => line.id),
        basis: 'together',
        days: farthest(group.map(({ day }) => of.day - day)),
        isSure: group.every(({ line }) => hasSameReference(of.texts, line) || hasSameParty(of.texts, line)),
      });
  }
  for (const to of cash.filter(isFree.ledger)) {
    const group = smallestGroup(to.line.amount, between(banks, to.day + EARLIEST_TOGETHER, to.day + LATEST_TOGETHER).filter(isFree.bank));
    if (group)
      take({
        bank: group.map(({ line }) => line.id),
        ledger: [to.line.id],
        basis: 'together',
        days: farthest(group.map(({ day }) => day - to.day)),
        isSure: group.every(({ texts }) => hasSameReference(texts, to.line) || hasSameParty(texts, to.line)),
      });
  }
  return { matches, near: nearMatches(banks.filter(isFree.bank), cash.filter(isFree.ledger)) };
}

/** Every pair of one amount within the days that its basis allows, the best first. */
function pairsOf(banks: readonly DatedBank[], cash: readonly Dated<CashLine>[]): Pair[] {
  const byAmount = groupBy(cash, ({ line }) => line.amount);
  const pairs = banks.flatMap((bank) =>
    nearestOf(byAmount.get(bank.line.amount) ?? [], bank.day).flatMap((ledger): Pair[] => {
      const days = bank.day - ledger.day;
      const basis = basisOf(bank.texts, ledger.line);
      if (basis === 'amount' && days > LATEST_BY_AMOUNT) return [];
      return [{ bank, ledger, basis, score: SCORES[basis] - Math.abs(days) / 2 }];
    }),
  );
  return pairs.sort((a, b) => b.score - a.score || a.bank.line.id - b.bank.line.id || a.ledger.line.id - b.ledger.line.id);
}

/** Of very many lines of one amount, the nearest in days: the others would be taken by nobody. */
function nearestOf(lines: readonly Dated<CashLine>[], day: number): readonly Dated<CashLine>[] {
  const within = between(lines, day - LATEST, day - EARLIEST);
  if (within.length <= MOST_OF_AMOUNT) return within;
  return [...within].sort((a, b) => Math.abs(a.day - day) - Math.abs(b.day - day)).slice(0, MOST_OF_AMOUNT);
}

function basisOf(texts: BankTexts, line: CashLine): Exclude<MatchBasis, 'together'> {
  if (hasSameReference(texts, line)) return 'reference';
  if (hasSameParty(texts, line)) return 'party';
  return hasSameWords(texts, line) ? 'words' : 'amount';
}

const byDay = <Line extends { readonly day: number }>(lines: readonly Line[]): Line[] => [...lines].sort((a, b) => a.day - b.day);
/** Lines of some days, both ends included, of lines in order of their days. */
function between<Line extends { readonly day: number }>(lines: readonly Line[], from: number, to: number): Line[] {
  return lines.slice(firstOn(lines, from), firstOn(lines, to + 1));
}
/** The place of the first line on a day or after it. */
function firstOn(lines: readonly { readonly day: number }[], day: number): number {
  let [low, high] = [0, lines.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (lines[middle]!.day < day) low = middle + 1;
    else high = middle;
  }
  return low;
}
const farthest = (days: readonly number[]): number => days.reduce((most, each) => (Math.abs(each) > Math.abs(most) ? each : most), 0);

function nearMatches(banks: readonly DatedBank[], cash: readonly Dated<CashLine>[]): NearMatch[] {
  const found: NearMatch[] = [];
  const taken = new Set<number>();
  for (const { line, day, texts } of banks) {
    const near = between(cash, day - LATEST_NEAR, day + LATEST_NEAR).flatMap((to): NearMatch[] => {
      if (taken.has(to.line.id) || line.amount > 0 !== to.line.amount > 0) return [];
      const kind = areTransposed(line.amount, to.line.amount) ? 'transposed' : hasSameReference(texts, to.line) ? 'sameReference' : null;
      return kind === null ? [] : [{ bank: line.id, ledger: to.line.id, kind, difference: line.amount - to.line.amount }];
    });
    const best = near.find(({ kind }) => kind === 'sameReference') ?? near[0];
    if (!best) continue;
    taken.add(best.ledger);
    found.push(best);
  }
  return found;
}
