import { groupBy } from '../collections/group-by.ts';
import type { BankLine, CashLine } from './bank-line.ts';
import { type DatedLines, datedLines, placesBetween } from './dated-lines.ts';
import {
  areTransposed,
  type BankTexts,
  bankTexts,
  hasSameParty,
  hasSameReference,
  hasSameWords,
  linesByReference,
} from './line-likeness.ts';
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

type Bank = DatedLines<BankLine> & { readonly texts: readonly BankTexts[] };
type Cash = DatedLines<CashLine>;
/** Places of a line of the bank and of one of the ledger. */
type Pair = { readonly of: number; readonly to: number; readonly basis: Exclude<MatchBasis, 'together'>; readonly score: number };

/**
 * Proposes which lines of a bank statement and of the ledger are the same money. First pairs of one amount, the best
 * proven first; then one bank line for several of the ledger, such as a deposit of several checks, and several for one.
 * What is left is compared for exchanged figures. Every line is in one proposal at most, and each proposal adds up.
 * @param open.bank not cleared yet
 * @param open.ledger not cleared yet, on the cash account
 */
export function proposeMatches(open: { readonly bank: readonly BankLine[]; readonly ledger: readonly CashLine[] }): MatchProposals {
  const dated = datedLines(open.bank);
  const bank: Bank = { ...dated, texts: dated.lines.map(bankTexts) };
  const cash: Cash = datedLines(open.ledger);
  const matches: MatchProposal[] = [];
  const take = (places: { readonly of: readonly number[]; readonly to: readonly number[] }, basis: MatchBasis, isSure: boolean): void => {
    for (const of of places.of) bank.isTaken[of] = 1;
    for (const to of places.to) cash.isTaken[to] = 1;
    matches.push({
      bank: places.of.map((of) => bank.lines[of]!.id),
      ledger: places.to.map((to) => cash.lines[to]!.id),
      basis,
      days: farthest(places.of.flatMap((of) => places.to.map((to) => bank.day[of]! - cash.day[to]!))),
      isSure,
    });
  };
  const isProven = (of: number, to: number): boolean =>
    hasSameReference(bank.texts[of]!, cash.lines[to]!) || hasSameParty(bank.texts[of]!, cash.lines[to]!);

  for (const { of, to, basis } of pairsOf(bank, cash))
    if (!bank.isTaken[of] && !cash.isTaken[to]) take({ of: [of], to: [to] }, basis, basis !== 'amount');
  for (const of of freeOf(bank)) {
    const day = bank.day[of]!;
    const group = smallestGroup(bank.amount[of]!, cash, placesBetween(cash, day - LATEST_TOGETHER, day - EARLIEST_TOGETHER));
    if (group)
      take(
        { of: [of], to: group },
        'together',
        group.every((to) => isProven(of, to)),
      );
  }
  for (const to of freeOf(cash)) {
    const day = cash.day[to]!;
    const group = smallestGroup(cash.amount[to]!, bank, placesBetween(bank, day + EARLIEST_TOGETHER, day + LATEST_TOGETHER));
    if (group)
      take(
        { of: group, to: [to] },
        'together',
        group.every((of) => isProven(of, to)),
      );
  }
  return { matches, near: nearMatches(bank, cash) };
}

/** Places of the lines in no proposal yet, each looked at when its turn comes. */
function* freeOf({ isTaken }: DatedLines<unknown>): Generator<number> {
  for (let at = 0; at < isTaken.length; at += 1) if (!isTaken[at]) yield at;
}

/** Every pair of one amount within the days that its basis allows, the best first. */
function pairsOf(bank: Bank, cash: Cash): Pair[] {
  const byAmount = groupBy([...cash.lines.keys()], (to) => cash.amount[to]!);
  const pairs = bank.lines.flatMap((line, of) =>
    nearestOf(byAmount.get(line.amount) ?? [], cash, bank.day[of]!).flatMap((to): Pair[] => {
      const days = bank.day[of]! - cash.day[to]!;
      const basis = basisOf(bank.texts[of]!, cash.lines[to]!);
      if (basis === 'amount' && days > LATEST_BY_AMOUNT) return [];
      return [{ of, to, basis, score: SCORES[basis] - Math.abs(days) / 2 }];
    }),
  );
  const idsOf = ({ of, to }: Pair): readonly [number, number] => [bank.lines[of]!.id, cash.lines[to]!.id];
  return pairs.sort((a, b) => b.score - a.score || idsOf(a)[0] - idsOf(b)[0] || idsOf(a)[1] - idsOf(b)[1]);
}

/** Of very many lines of one amount, the nearest in days: the others would be taken by nobody. */
function nearestOf(places: readonly number[], cash: Cash, day: number): readonly number[] {
  const within = places.filter((to) => cash.day[to]! >= day - LATEST && cash.day[to]! <= day - EARLIEST);
  if (within.length <= MOST_OF_AMOUNT) return within;
  return within.sort((a, b) => Math.abs(cash.day[a]! - day) - Math.abs(cash.day[b]! - day)).slice(0, MOST_OF_AMOUNT);
}

function basisOf(texts: BankTexts, line: CashLine): Exclude<MatchBasis, 'together'> {
  if (hasSameReference(texts, line)) return 'reference';
  if (hasSameParty(texts, line)) return 'party';
  return hasSameWords(texts, line) ? 'words' : 'amount';
}

const farthest = (days: readonly number[]): number => days.reduce((most, each) => (Math.abs(each) > Math.abs(most) ? each : most), 0);

/** Lines left over that are likely the same money: a reference in common first, else figures exchanged; each is named once. */
function nearMatches(bank: Bank, cash: Cash): NearMatch[] {
  const withReference = linesByReference(cash.lines);
  const named = new Uint8Array(cash.lines.length);
  return [...freeOf(bank)].flatMap((of): NearMatch[] => {
    const [from, end] = placesBetween(cash, bank.day[of]! - LATEST_NEAR, bank.day[of]! + LATEST_NEAR);
    const amount = bank.amount[of]!;
    const isUsable = (to: number): boolean =>
      to >= from && to < end && !cash.isTaken[to] && !named[to] && amount > 0 === cash.amount[to]! > 0;
    const to =
      withReference(bank.texts[of]!).find(isUsable) ??
      firstPlace(from, end, (at) => isUsable(at) && areTransposed(amount, cash.amount[at]!));
    if (to === undefined) return [];
    named[to] = 1;
    const kind = areTransposed(amount, cash.amount[to]!) ? 'transposed' : 'sameReference';
    return [{ bank: bank.lines[of]!.id, ledger: cash.lines[to]!.id, kind, difference: amount - cash.amount[to]! }];
  });
}

function firstPlace(from: number, end: number, isIt: (at: number) => boolean): number | undefined {
  for (let at = from; at < end; at += 1) if (isIt(at)) return at;
  return undefined;
}
