import type { Slot } from '../calendar/fiscal-calendar.ts';
import { type Minor, minor } from '../money/minor.ts';
import { type DimensionCombination, type DimensionFilter, filterKey, passes } from './dimension.ts';

// A slab of 500 accounts over five years is about 250 kB; the oldest filter goes first.
const MOST_SLABS = 200;

/** Ordinary postings, and the year-end entries that close income accounts into retained earnings. */
export type BalanceLayer = 'ordinary' | 'closing';

/** An amount added to the cube: debit positive, at an account (chart position), slot and dimension combination. */
export type BalanceFact = {
  readonly account: number;
  readonly slot: Slot;
  readonly combination: DimensionCombination;
  readonly layer: BalanceLayer;
  readonly amount: Minor;
};

/**
 * Cumulative balances of every account at every slot under one filter, so that any span is two
 * look-ups. Income accounts leave closing entries out; their sum is kept apart for roll-forward.
 */
export class Slab {
  /** account-major: row `account` holds its running balance at each slot */
  readonly #running: Float64Array;
  readonly #closedIncome: Float64Array;
  readonly #slots: number;

  constructor(accounts: number, slots: number) {
    this.#slots = slots;
    this.#running = new Float64Array(accounts * slots);
    this.#closedIncome = new Float64Array(slots);
  }

  /** Running balance at the end of a slot; debit positive; 0 before the first slot. */
  closing(account: number, slot: number): Minor {
    return (slot < 0 ? 0 : this.#running[account * this.#slots + slot]!) as Minor;
  }

  /** Net change over slots from..to, both included; debit positive. */
  change(account: number, from: number, to: number): Minor {
    const base = account * this.#slots;
    const before = from > 0 ? this.#running[base + from - 1]! : 0;
    return (this.#running[base + to]! - before) as Minor;
  }

  /** What closing entries moved out of income accounts up to the end of a slot; debit positive. */
  closedIncome(slot: number): Minor {
    return (slot < 0 ? 0 : this.#closedIncome[slot]!) as Minor;
  }

  /** Adds an amount from its slot on. */
  add(fact: BalanceFact, isIncome: boolean): void {
    const target = isIncome && fact.layer === 'closing' ? this.#closedIncome : this.#running;
    const base = target === this.#running ? fact.account * this.#slots : 0;
    for (let slot = fact.slot as number; slot < this.#slots; slot += 1) target[base + slot] = minor(target[base + slot]! + fact.amount);
  }

  /** Loads single amounts first, then `accumulate` turns them into running sums in one pass. */
  loadUnaccumulated(fact: BalanceFact, isIncome: boolean): void {
    if (isIncome && fact.layer === 'closing') this.#closedIncome[fact.slot]! += fact.amount;
    else this.#running[fact.account * this.#slots + fact.slot]! += fact.amount;
  }

  accumulate(): void {
    for (const values of [this.#running, this.#closedIncome]) {
      for (let index = 0; index < values.length; index += 1) {
        if (index % this.#slots !== 0) values[index]! += values[index - 1]!;
        minor(values[index]!);
      }
    }
  }
}

/** Selected accounts together, by the values of a dimension: rows of both slabs are values, not accounts. */
export type Slices = {
  /** row of each value that was posted to; '' stands for none */
  readonly positions: ReadonlyMap<string, number>;
  /** income accounts among those selected */
  readonly income: Slab;
  /** balance-sheet accounts among those selected */
  readonly balance: Slab;
};

/**
 * The balances of a company (or of a budget) in memory: facts by account, slot and dimension
 * combination, summed into a slab for each filter asked for and kept. A posting updates the slabs it
 * touches; nothing is rebuilt for one entry.
 */
export class BalanceCube {
  readonly #isIncome: readonly boolean[];
  readonly #slots: number;
  readonly #facts: BalanceFact[] = [];
  readonly #slabs = new Map<string, { readonly filter: DimensionFilter; readonly slab: Slab }>();
  readonly #slices = new Map<string, Slices>();
  #version = 0;

  /** @param isIncome for each account of the chart, whether it is an income account; gives the row count */
  constructor(options: { readonly isIncome: readonly boolean[]; readonly slots: number }) {
    this.#isIncome = options.isIncome;
    this.#slots = options.slots;
  }

  /** Goes up with each posting. */
  get version(): number {
    return this.#version;
  }

  /** Every amount added so far. */
  get facts(): readonly BalanceFact[] {
    return this.#facts;
  }

  /** Adds facts, and brings every slab held up to date. */
  post(facts: Iterable<BalanceFact>): void {
    for (const fact of facts) {
      if (fact.account >= this.#isIncome.length || fact.slot < 0 || fact.slot >= this.#slots) {
        throw new RangeError(`account ${fact.account} at slot ${fact.slot} is outside the cube`);
      }
      this.#facts.push(fact);
      for (const { filter, slab } of this.#slabs.values()) {
        if (passes(filter, fact.combination)) slab.add(fact, this.#isIncome[fact.account]!);
      }
    }
    this.#slices.clear();
    this.#version += 1;
  }

  /** The slab under a filter; made on first use and kept up to date after. */
  slab(filter: DimensionFilter): Slab {
    const key = filterKey(filter);
    const held = this.#slabs.get(key);
    if (held) return held.slab;
    const slab = new Slab(this.#isIncome.length, this.#slots);
    const passing = new Map<DimensionCombination, boolean>();
    for (const fact of this.#facts) {
      let pass = passing.get(fact.combination);
      if (pass === undefined) passing.set(fact.combination, (pass = passes(filter, fact.combination)));
      if (pass) slab.loadUnaccumulated(fact, this.#isIncome[fact.account]!);
    }
    slab.accumulate();
    const [oldest] = this.#slabs.keys();
    if (this.#slabs.size >= MOST_SLABS && oldest !== undefined) this.#slabs.delete(oldest);
    this.#slabs.set(key, { filter, slab });
    return slab;
  }

  /**
   * Accounts taken together, apart by the values of a dimension; kept until the next posting.
   * @param accounts chart positions
   */
  slices(filter: DimensionFilter, accounts: readonly number[], dimension: string): Slices {
    const key = `${filterKey(filter)} ${dimension} ${accounts.join(' ')}`;
    const held = this.#slices.get(key);
    if (held) return held;
    const wanted = new Set(accounts);
    const positions = new Map<string, number>();
    const taken: { readonly fact: BalanceFact; readonly position: number }[] = [];
    const passing = new Map<DimensionCombination, number>();
    for (const fact of this.#facts) {
      if (!wanted.has(fact.account)) continue;
      let position = passing.get(fact.combination);
      if (position === undefined) {
        const value = fact.combination[dimension] ?? '';
        position = !passes(filter, fact.combination) ? -1 : (positions.get(value) ?? positions.set(value, positions.size).size - 1);
        passing.set(fact.combination, position);
      }
      if (position >= 0) taken.push({ fact, position });
    }
    const income = new Slab(positions.size, this.#slots);
    const balance = new Slab(positions.size, this.#slots);
    for (const { fact, position } of taken) {
      const isIncome = this.#isIncome[fact.account]!;
      (isIncome ? income : balance).loadUnaccumulated({ ...fact, account: position }, isIncome);
    }
    income.accumulate();
    balance.accumulate();
    const slices = { positions, income, balance };
    const [oldest] = this.#slices.keys();
    if (this.#slices.size >= MOST_SLABS && oldest !== undefined) this.#slices.delete(oldest);
    this.#slices.set(key, slices);
    return slices;
  }
}

/**
 * A slab that follows one slab through a slot and another after it: actuals to date, then the budget.
 * @param lastSlot the last slot taken from `before`; -1 takes all from `after`
 */
export function joinSlabs(
  before: Slab,
  after: Slab,
  size: { readonly accounts: number; readonly slots: number; readonly lastSlot: number },
): Slab {
  const joined = new Slab(size.accounts, size.slots);
  for (let account = 0; account < size.accounts; account += 1) {
    for (let slot = 0; slot < size.slots; slot += 1) {
      const amount = (slot <= size.lastSlot ? before : after).change(account, slot, slot);
      joined.loadUnaccumulated({ account, slot: slot as Slot, combination: {}, layer: 'ordinary', amount }, false);
    }
  }
  joined.accumulate();
  return joined;
}

/** Slices that follow one scenario through a slot and another after it; a value posted to in either has a row. */
export function joinSlices(before: Slices, after: Slices, size: { readonly slots: number; readonly lastSlot: number }): Slices {
  const values = [...new Set([...before.positions.keys(), ...after.positions.keys()])];
  const join = (part: 'income' | 'balance'): Slab => {
    const joined = new Slab(values.length, size.slots);
    values.forEach((value, row) => {
      for (let slot = 0; slot < size.slots; slot += 1) {
        const from = slot <= size.lastSlot ? before : after;
        const position = from.positions.get(value);
        const amount = (position === undefined ? 0 : from[part].change(position, slot, slot)) as Minor;
        joined.loadUnaccumulated({ account: row, slot: slot as Slot, combination: {}, layer: 'ordinary', amount }, false);
      }
    });
    joined.accumulate();
    return joined;
  };
  return { positions: new Map(values.map((value, row) => [value, row])), income: join('income'), balance: join('balance') };
}
