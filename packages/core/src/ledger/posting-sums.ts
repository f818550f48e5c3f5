import { type Minor, minor } from '../money/minor.ts';
import type { BalanceLayer } from './balance-cube.ts';
import type { EntryKind, EntryState } from './entry.ts';

/** Debits and credits of amounts, both positive. */
export type Sides = { readonly debits: Minor; readonly credits: Minor };

/**
 * What debit-positive amounts add up to on either side; zero on both without amounts.
 * @example sidesOf([500, -300, -200]) // { debits: 500, credits: 500 }
 */
export function sidesOf(amounts: Iterable<number>): Sides {
  let debits = 0;
  let credits = 0;
  for (const amount of amounts) {
    if (amount > 0) debits += amount;
    else credits -= amount;
  }
  return { debits: minor(debits), credits: minor(credits) };
}

/** The layer of the cube an entry's amounts belong to; drafts stand in none and are kept beside it. */
export function layerOf(entry: { readonly kind: EntryKind; readonly state: EntryState }): BalanceLayer | 'draft' {
  if (entry.state === 'draft') return 'draft';
  return entry.kind === 'closing' ? 'closing' : 'ordinary';
}

/** What postings add to one balance: debits and credits of an account in a period, dimension combination and layer. */
export type PostedBalance = {
  readonly account: number;
  readonly period: number;
  readonly combination: number;
  readonly layer: BalanceLayer | 'draft';
  debits: number;
  credits: number;
};

// room for 8 million combinations beside a thousand million accounts, all exact in a double
const COMBINATIONS = 2 ** 23;

/** Adds up lines as they are posted: in all, and for each balance they touch. Accounts, periods and combinations are the caller's own numbers. */
export class PostingSums {
  // by period and layer first: keys made of texts would cost more than all the adding
  readonly #balances = new Map<string, Map<number, PostedBalance>>();
  #own: { readonly period: number; readonly layer: PostedBalance['layer']; readonly balances: Map<number, PostedBalance> } | null = null;
  #debits = 0;
  #credits = 0;

  /** @param amount debit positive minor units */
  add(place: Omit<PostedBalance, 'debits' | 'credits'>, amount: number): void {
    const balances = this.#balancesOf(place.period, place.layer);
    const key = place.account * COMBINATIONS + place.combination;
    let balance = balances.get(key);
    if (!balance) balances.set(key, (balance = { ...place, debits: 0, credits: 0 }));
    if (amount > 0) {
      balance.debits += amount;
      this.#debits += amount;
    } else {
      balance.credits -= amount;
      this.#credits -= amount;
    }
  }

  /** @throws AmountOverflowError when the totals leave the exact range */
  get sides(): Sides {
    return { debits: minor(this.#debits), credits: minor(this.#credits) };
  }

  /** Every balance touched. @throws AmountOverflowError */
  balances(): readonly PostedBalance[] {
    const all = [...this.#balances.values()].flatMap((own) => [...own.values()]);
    for (const { debits, credits } of all) {
      minor(debits);
      minor(credits);
    }
    return all;
  }

  /** The balances of a period and layer; the lines of an entry ask for the same ones in a row. */
  #balancesOf(period: number, layer: PostedBalance['layer']): Map<number, PostedBalance> {
    if (this.#own?.period === period && this.#own.layer === layer) return this.#own.balances;
    const key = `${period}|${layer}`;
    const balances = this.#balances.get(key) ?? new Map<number, PostedBalance>();
    this.#balances.set(key, balances);
    this.#own = { period, layer, balances };
    return balances;
  }
}
