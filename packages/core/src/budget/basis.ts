import { multiplyByDecimal, parseDecimal } from '../money/decimal.ts';
import { minor, type Minor } from '../money/minor.ts';
import { roundToStep } from '../money/round.ts';
import { spreadTotal, SPREADS, type SpreadContext, type SpreadKind } from './spread.ts';

/** How a line's year is derived. Percentages are decimal texts, so that they are taken exactly. */
export type Basis =
  | { readonly kind: 'sameMonths'; readonly year: number; readonly changePercent: string; readonly roundTo: Minor }
  | { readonly kind: 'typedTotal'; readonly total: Minor; readonly spread: SpreadKind }
  | { readonly kind: 'typed' };

/**
 * Applies a percent change and rounds to a step, half away from zero, exactly.
 * @param changePercent decimal text: '3' raises by 3 %
 * @param roundTo minor units; 0 leaves the amount unrounded
 * @throws RangeError when the percentage is no decimal number
 * @example changed(minor(10000), '3', minor(0)) // 10300
 */
export function changed(amount: Minor, changePercent: string, roundTo: Minor): Minor {
  const change = parseDecimal(changePercent);
  const factor = { digits: 100n * 10n ** BigInt(change.scale) + change.digits, scale: change.scale + 2 };
  return minor(roundToStep(multiplyByDecimal(amount, factor), roundTo));
}

/**
 * The twelve months a basis gives, debit positive. A total typed is shared over the months that are
 * not held, after what the held ones take.
 * @param held amounts of held months by position, which stay as they are
 * @returns twelve amounts; at a held position, the held amount
 */
export function deriveMonths(basis: Basis, context: SpreadContext, held: ReadonlyMap<number, Minor>): Minor[] {
  const all = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11];
  const free = all.filter((month) => !held.has(month));
  let given: Minor[];
  switch (basis.kind) {
    case 'sameMonths':
      given = free.map((month) => changed(minor(context.history[month] ?? 0), basis.changePercent, basis.roundTo));
      break;
    case 'typedTotal': {
      const taken = [...held.values()].reduce<number>((sum, amount) => sum + amount, 0);
      given = free.length === 0 ? [] : spreadTotal(minor(basis.total - taken), basis.spread, { months: free, context });
      break;
    }
    case 'typed':
      given = free.map(() => minor(0));
  }
  return all.map((month) => held.get(month) ?? given[free.indexOf(month)]!);
}

/** A basis as the sentence that is shown: `Same months of FY2026, plus 3 %, rounded to 100`. */
export function basisWords(basis: Basis, format: (amount: Minor) => string): string {
  switch (basis.kind) {
    case 'sameMonths': {
      const percent = basis.changePercent.replace(/^[+-]/, '');
      const change = /^[0.]*$/.test(percent) ? 'unchanged' : `${basis.changePercent.startsWith('-') ? 'minus' : 'plus'} ${percent} %`;
      return `Same months of FY${basis.year}, ${change}${basis.roundTo > 1 ? `, rounded to ${format(basis.roundTo)}` : ''}`;
    }
    case 'typedTotal':
      return `A year total of ${format(basis.total)}, spread ${SPREADS[basis.spread].words}`;
    case 'typed':
      return 'Typed by hand';
  }
}
