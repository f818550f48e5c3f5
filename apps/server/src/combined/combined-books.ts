import {
  BalanceCube,
  type BalanceFact,
  combinedBudget,
  combinedCashFlow,
  type CombinedLayout,
  combinedLayout,
  combinedLedger,
  combinedSources,
  commonLast,
  COMPANY,
  compareNaturally,
  currency,
  INTERCOMPANY,
  type MemberMonths,
  type Minor,
  monthsWithoutRates,
  NO_FILTER,
  periodAt,
  type PeriodIndex,
  periodOfKey,
  type RateTable,
  type ScenarioSources,
  slotCount,
} from '@wise-margin/core';

import type { BudgetStore, StoredBudget } from '../budget-store/index.ts';
import type { Books, BooksCache } from '../companies/index.ts';
import { refused } from '../http/problem.ts';
import type { CompanyGroup } from './group-store.ts';
import type { RateStore } from './rate-store.ts';

/** What combined figures are made of, all of one version. */
type Parts = {
  readonly group: CompanyGroup;
  readonly members: readonly Books[];
  readonly budgets: readonly (readonly StoredBudget[])[];
  readonly rates: readonly (RateTable | null)[];
};
/** The books of a group as if it were one company, and its scenarios. */
export type CombinedBooks = {
  readonly books: Books;
  readonly members: readonly Books[];
  readonly layout: CombinedLayout;
  readonly months: readonly MemberMonths[];
  /** whether a company keeps its books in another currency */
  readonly isTranslated: boolean;
  /** with or without the statement of cash flows, which is read from the entries */
  readonly sources: (needs: { readonly cashFlow: boolean; readonly asOf: PeriodIndex }) => Promise<ScenarioSources>;
  /** what intercompany accounts differ by at the end of a month, debit positive minor units of the group's currency */
  readonly intercompanyDifference: (at: PeriodIndex) => Minor;
};

const MOST_HELD = 12;
const keyOfRates = (rates: readonly (RateTable | null)[]): string => JSON.stringify(rates.map((table) => table && [...table]));

/** Puts the books of companies together, and keeps them until one of them changes. */
export class CombinedBooksCache {
  readonly #sources: { readonly booksCache: BooksCache; readonly budgetStore: BudgetStore; readonly rateStore: RateStore };
  readonly #held = new Map<number, { readonly parts: Parts; readonly rateKey: string; readonly combined: CombinedBooks }>();

  constructor(sources: { readonly booksCache: BooksCache; readonly budgetStore: BudgetStore; readonly rateStore: RateStore }) {
    this.#sources = sources;
  }

  /** @throws ProblemError 422 when rates are missing, naming currencies and months */
  async of(group: CompanyGroup): Promise<CombinedBooks> {
    const parts = await this.#parts(group);
    const rateKey = keyOfRates(parts.rates);
    const held = this.#held.get(group.id);
    if (held && held.rateKey === rateKey && isSame(held.parts, parts)) return held.combined;
    const combined = combine(parts, this.#sources.booksCache);
    this.#held.delete(group.id);
    const [oldest] = this.#held.keys();
    if (this.#held.size >= MOST_HELD && oldest !== undefined) this.#held.delete(oldest);
    this.#held.set(group.id, { parts, rateKey, combined });
    return combined;
  }

  async #parts(group: CompanyGroup): Promise<Parts> {
    const { booksCache, budgetStore, rateStore } = this.#sources;
    const members = await Promise.all(group.members.map(({ company }) => booksCache.of(company)));
    const budgets = await Promise.all(members.map((books) => approvedBudgets(books, budgetStore)));
    const rates = await Promise.all(
      members.map(async (books) =>
        books.currency.code === group.currency ? null : await rateStore.table({ from: books.currency.code, to: group.currency }),
      ),
    );
    refuseMissingRates({ group, members, budgets, rates });
    return { group, members, budgets, rates };
  }
}

/** The approved budget of each year. */
async function approvedBudgets(books: Books, store: BudgetStore): Promise<StoredBudget[]> {
  const years = new Map<number, StoredBudget>();
  for (const row of await store.list(books.id))
    if (row.state === 'approved' && !years.has(row.year)) years.set(row.year, await store.ofRow(books, row));
  return [...years.values()];
}

function refuseMissingRates({ group, members, budgets, rates }: Parts): void {
  const missing = members.flatMap((books, index) => {
    const table = rates[index];
    const { firstPosted, lastPosted } = books;
    if (!table) return [];
    const pair = `${books.currency.code} to ${group.currency}`;
    // a budget takes the latest rates, but there has to be one
    if (firstPosted === null || lastPosted === null)
      return table.size === 0 && budgets[index]!.length > 0 ? [`${pair} for the budget (${books.name})`] : [];
    const months = books.calendar.periods.slice(firstPosted, lastPosted + 1).map(({ key }) => key);
    const without = monthsWithoutRates(table, months);
    return without.length === 0 ? [] : [`${pair} for ${spanOfMonths(without)} (${books.name})`];
  });
  if (missing.length > 0)
    throw refused(`Exchange rates are missing: ${missing.join('; ')}. Add average and closing rates for these months.`, 'rates');
}

const spanOfMonths = (months: readonly string[]): string =>
  months.length <= 3 ? months.join(', ') : `${months.length} months from ${months[0]} to ${months.at(-1)}`;

const isSame = (a: Parts, b: Parts): boolean =>
  a.group.version === b.group.version &&
  a.members.length === b.members.length &&
  a.members.every((books, index) => books === b.members[index]) &&
  a.budgets.every(
    (stored, index) => stored.length === b.budgets[index]!.length && stored.every((one, at) => one === b.budgets[index]![at]),
  );

function combine({ group, members, budgets, rates }: Parts, booksCache: BooksCache): CombinedBooks {
  const lead = members[group.members.findIndex(({ company }) => company === group.lead)] ?? members[0]!;
  const layout = combinedLayout(members, lead.startMonth);
  const money = currency(group.currency);
  const memberFacts = (factsOf: (books: Books, index: number) => readonly BalanceFact[]) =>
    members.map((books, index) => {
      const numbers = new Set(group.members[index]!.intercompany);
      return {
        name: books.name,
        facts: factsOf(books, index),
        intercompany: new Set(books.chart.accounts.flatMap(({ number }, position) => (numbers.has(number) ? [position] : []))),
        rates: rates[index]!,
        unitFactor: 10 ** (money.exponent - books.currency.exponent),
      };
    });
  const cubeOf = (facts: readonly BalanceFact[]): BalanceCube => {
    const cube = new BalanceCube({ isIncome: layout.isIncome, slots: slotCount(layout.calendar) });
    cube.post(facts);
    return cube;
  };
  const ledger = cubeOf(
    combinedLedger(
      layout,
      memberFacts(({ cube }) => cube.facts),
    ),
  );
  const budget = cubeOf(
    combinedBudget(
      layout,
      memberFacts((_, index) => budgets[index]!.flatMap(({ cube }) => cube.facts)),
    ),
  );
  const periodHere = (books: Books, period: PeriodIndex | null): PeriodIndex | null =>
    period === null ? null : periodOfKey(layout.calendar, periodAt(books.calendar, period).key);
  const months = members.map((books, index): MemberMonths => {
    const years = new Set(budgets[index]!.map(({ row }) => row.year));
    const budgeted = books.calendar.periods.filter(({ year }) => years.has(year)).map((period) => periodHere(books, period.index)!);
    const dimensions = budgets[index]!.map(({ row }) => row.dimensions);
    return {
      name: books.name,
      first: periodHere(books, books.firstPosted),
      last: periodHere(books, books.lastActual),
      budgeted: new Set(budgeted),
      budgetDimensions: (dimensions[0] ?? []).filter((name) => dimensions.every((names) => names.includes(name))),
    };
  });
  const books = booksOf({ group, lead, members, layout, ledger, months });
  let read: Promise<BalanceCube> | null = null;
  const cashFlow = (): Promise<BalanceCube> => {
    const reading =
      read ??
      Promise.all(members.map((each) => booksCache.actuals(each, { party: false, source: false, drafts: false, cashFlow: true }))).then(
        (actuals) =>
          cubeOf(
            combinedCashFlow(
              layout,
              memberFacts((_, index) => actuals[index]!.cashFlow!.cube.facts),
            ),
          ),
      );
    read = reading;
    // a failed read fails for whoever asked; the next request tries again
    reading.catch(() => (read = null));
    return reading;
  };
  return {
    books,
    members,
    layout,
    months,
    isTranslated: rates.some((table) => table !== null),
    sources: async (needs) =>
      combinedSources(books, {
        ledger,
        budget,
        members: months,
        asOf: needs.asOf,
        cashFlow: needs.cashFlow ? await cashFlow() : undefined,
      }),
    intercompanyDifference: (at) => ledger.slab(NO_FILTER).closing(layout.difference, at),
  };
}

/** The group as one set of books, without entries; its dimensions are the company and those of its companies. */
function booksOf(of: {
  readonly group: CompanyGroup;
  readonly lead: Books;
  readonly members: readonly Books[];
  readonly layout: ReturnType<typeof combinedLayout>;
  readonly ledger: BalanceCube;
  readonly months: readonly MemberMonths[];
}): Books {
  const { group, lead, members, layout, ledger, months } = of;
  const hasIntercompany = group.members.some(({ intercompany }) => intercompany.length > 0);
  const firsts = months.map(({ first }) => first).filter((first) => first !== null);
  const names = new Set(members.flatMap(({ dimensions }) => dimensions.map(({ name }) => name)).filter((name) => name !== COMPANY));
  // amounts of a company without the dimension have no value of it, so that its values still add up to all
  const valuesOf = (name: string): string[] => {
    const values = new Set(members.flatMap(({ dimensions }) => dimensions.find((each) => each.name === name)?.values ?? ['']));
    return [...values].sort((a, b) => Number(a === '') - Number(b === '') || compareNaturally(a, b));
  };
  const years = layout.calendar.periods.filter(({ number }) => number === 1).map(({ year }) => year);
  return {
    id: -group.id,
    name: group.name,
    version: group.version,
    currency: currency(group.currency),
    startMonth: lead.startMonth,
    chart: layout.chart,
    accountIds: [],
    calendar: layout.calendar,
    years,
    cube: ledger,
    dimensions: [
      { name: COMPANY, values: [...members.map(({ name }) => name), ...(hasIntercompany ? [INTERCOMPANY] : [])] },
      ...[...names].map((name) => ({ name, values: valuesOf(name) })),
    ],
    combinations: new Map(),
    parties: [],
    sourceJournals: [],
    statistics: {
      series: [...new Set(members.flatMap(({ statistics }) => statistics.series))],
      aggregation: (series) =>
        (members.find(({ statistics }) => statistics.series.includes(series)) ?? lead).statistics.aggregation(series),
      value: (series, { [COMPANY]: companies, ...filter }, period) => {
        const { key } = periodAt(layout.calendar, period);
        const values = members
          .filter(({ name }) => companies?.includes(name) ?? true)
          .flatMap((books) => {
            const own = periodOfKey(books.calendar, key);
            const value = own === null ? null : books.statistics.value(series, filter, own);
            return value === null ? [] : [value];
          });
        return values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0);
      },
      figures: (period) =>
        members.flatMap((books) => {
          const own = periodOfKey(books.calendar, periodAt(layout.calendar, period).key);
          return own === null
            ? []
            : books.statistics.figures(own).map((figure) => ({ ...figure, dimensions: { ...figure.dimensions, [COMPANY]: books.name } }));
        }),
    },
    firstPosted: firsts.length === 0 ? null : (Math.min(...firsts) as PeriodIndex),
    lastPosted: commonLast(months),
    lastActual: commonLast(months),
    actuals: { month: commonLast(months), basis: 'usualAccounts', proposed: commonLast(months), unclear: null },
    nonrecurring: { entries: new BalanceCube({ isIncome: layout.isIncome, slots: slotCount(layout.calendar) }), months: new Set() },
  };
}
