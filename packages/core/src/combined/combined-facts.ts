import type { FiscalCalendar, Slot } from '../calendar/fiscal-calendar.ts';
import type { BalanceFact } from '../ledger/balance-cube.ts';
import { minor } from '../money/minor.ts';
import { roundHalfAway } from '../money/round.ts';
import { type CombinedLayout, COMPANY, INTERCOMPANY, monthOfSlot } from './combined-layout.ts';
import { latestRates, type MonthRates, type RateTable } from './exchange-rates.ts';

/** A company's part of combined books. */
export type MemberFacts = {
  readonly name: string;
  /** in its own chart and calendar, and its own currency */
  readonly facts: readonly BalanceFact[];
  /** chart positions of its intercompany accounts */
  readonly intercompany: ReadonlySet<number>;
  /** null in the combined currency */
  readonly rates: RateTable | null;
  /** minor units of the combined currency to a minor unit of its own: 100 from yen to dollars */
  readonly unitFactor: number;
};

/**
 * The ledgers of several companies as one: amounts at each company, in the combined currency, and what is left out
 * between them at `Intercompany`, so that all together are the combined figures. Closing entries are left out of all of
 * them, because fiscal years end in different months: earnings of earlier years are those of the combined fiscal years.
 * In another currency flows are translated month by month at the average rate and balances at the closing rate of each
 * month; what that leaves over is the translation difference. Intercompany accounts that do not agree leave a difference.
 * Every month sums to zero when the months of every company do.
 * @throws RangeError for a month without rates
 */
export function combinedLedger(layout: CombinedLayout, members: readonly MemberFacts[]): BalanceFact[] {
  return members.flatMap((member, index) => {
    const placed = placedFacts(layout, { member, index });
    const own = member.rates === null ? placed.own : translatedLedger(layout, placed.own, member);
    return [...own, ...eliminations(layout, own, { ...placed, hasBalances: true })];
  });
}

/**
 * The budgets of several companies as one: income and expenses of each, at the average rate of their month or the latest
 * known one, and what is left out between them. A combined budget has no balance sheet.
 * @throws RangeError for a company in another currency without any rates
 */
export function combinedBudget(layout: CombinedLayout, members: readonly MemberFacts[]): BalanceFact[] {
  return members.flatMap((member, index) => {
    const placed = placedFacts(layout, { member, index });
    const income = placed.own.filter(({ account }) => layout.isIncome[account]);
    const { rates } = member;
    const own =
      rates === null ? income : income.map((fact) => atAverage(fact, knownRates(layout.calendar, rates, fact.slot), member.unitFactor));
    return [...own, ...eliminations(layout, own, { ...placed, hasBalances: false })];
  });
}

/**
 * Cash flows by part of the statement, at the average rate of each month: with balances at closing rates, what the
 * statement does not explain is the effect of exchange rates on cash.
 * @throws RangeError for a month without rates
 */
export function combinedCashFlow(layout: CombinedLayout, members: readonly MemberFacts[]): BalanceFact[] {
  return members.flatMap((member, index) => {
    const placed = placedFacts(layout, { member, index });
    const { rates } = member;
    const own =
      rates === null
        ? placed.own
        : placed.own.map((fact) => atAverage(fact, ratesOf(layout.calendar, rates, fact.slot), member.unitFactor));
    return [...own, ...eliminations(layout, own, { ...placed, hasBalances: false })];
  });
}

/** A member's facts where they stand in the combined books, at its name, in its own currency. */
function placedFacts(
  layout: CombinedLayout,
  { member, index }: { readonly member: MemberFacts; readonly index: number },
): { readonly own: BalanceFact[]; readonly isIntercompany: ReadonlySet<number> } {
  const positions = layout.positions[index]!;
  const combinations = new Map<BalanceFact['combination'], BalanceFact['combination']>();
  const own = member.facts.flatMap((fact): BalanceFact[] => {
    if (fact.layer === 'closing') return [];
    const combination = combinations.get(fact.combination) ?? { ...fact.combination, [COMPANY]: member.name };
    combinations.set(fact.combination, combination);
    return [{ ...fact, account: positions[fact.account]!, slot: layout.slotOf(index, fact.slot), combination }];
  });
  return { own, isIntercompany: new Set([...member.intercompany].map((account) => positions[account]!)) };
}

/** The opposite of what stands on intercompany accounts, and in a ledger what keeps each month at zero. */
function eliminations(
  layout: CombinedLayout,
  own: readonly BalanceFact[],
  { isIntercompany, hasBalances }: { readonly isIntercompany: ReadonlySet<number>; readonly hasBalances: boolean },
): BalanceFact[] {
  const opposite = own
    .filter(({ account }) => isIntercompany.has(account))
    .map((fact) => ({ ...fact, amount: minor(-fact.amount), combination: { ...fact.combination, [COMPANY]: INTERCOMPANY } }));
  if (!hasBalances) return opposite;
  return [...opposite, ...balancing(opposite, { account: layout.difference, company: INTERCOMPANY })];
}

/** For each slot, one amount that brings it to zero. */
function balancing(
  facts: readonly BalanceFact[],
  { account, company }: { readonly account: number; readonly company: string },
): BalanceFact[] {
  const sums = new Map<Slot, number>();
  for (const { slot, amount } of facts) sums.set(slot, (sums.get(slot) ?? 0) + amount);
  const combination = { [COMPANY]: company };
  return [...sums].flatMap(([slot, sum]): BalanceFact[] =>
    sum === 0 ? [] : [{ account, slot, combination, layer: 'ordinary', amount: minor(-sum) }],
  );
}

/** A ledger in the combined currency, with its translation difference. */
function translatedLedger(layout: CombinedLayout, facts: readonly BalanceFact[], member: MemberFacts): BalanceFact[] {
  const { calendar, isIncome } = layout;
  const rates = member.rates!;
  const translated: BalanceFact[] = [];
  const balances = new Map<string, { readonly first: BalanceFact; readonly changes: Map<Slot, number> }>();
  const combinationNumbers = new Map<BalanceFact['combination'], number>();
  let last = 0;
  for (const fact of facts) {
    last = Math.max(last, fact.slot);
    if (isIncome[fact.account]) {
      translated.push(atAverage(fact, ratesOf(calendar, rates, fact.slot), member.unitFactor));
      continue;
    }
    const number = combinationNumbers.get(fact.combination) ?? combinationNumbers.size;
    combinationNumbers.set(fact.combination, number);
    const key = `${fact.account} ${number}`;
    const balance = balances.get(key) ?? { first: fact, changes: new Map<Slot, number>() };
    balances.set(key, balance);
    balance.changes.set(fact.slot, (balance.changes.get(fact.slot) ?? 0) + fact.amount);
  }
  for (const { first, changes } of balances.values()) {
    let closing = 0;
    let shown = 0;
    // a balance is worth something else at each month's end, also where nothing was posted to it
    for (let slot = Math.min(...changes.keys()); slot <= last; slot += 1) {
      closing += changes.get(slot as Slot) ?? 0;
      const worth = closing === 0 ? 0 : roundHalfAway(closing * ratesOf(calendar, rates, slot as Slot).closing * member.unitFactor);
      if (worth !== shown) translated.push({ ...first, slot: slot as Slot, amount: minor(worth - shown) });
      shown = worth;
    }
  }
  return [...translated, ...balancing(translated, { account: layout.translation, company: member.name })];
}

const atAverage = (fact: BalanceFact, { average }: MonthRates, unitFactor: number): BalanceFact => ({
  ...fact,
  amount: minor(roundHalfAway(fact.amount * average * unitFactor)),
});

function ratesOf(calendar: FiscalCalendar, rates: RateTable, slot: Slot): MonthRates {
  const month = monthOfSlot(calendar, slot);
  const found = rates.get(month);
  if (!found) throw new RangeError(`there are no rates for ${month}`);
  return found;
}

function knownRates(calendar: FiscalCalendar, rates: RateTable, slot: Slot): MonthRates {
  const found = latestRates(rates, monthOfSlot(calendar, slot));
  if (!found) throw new RangeError('there are no rates at all');
  return found;
}
