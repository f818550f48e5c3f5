import { type Account, isIncomeAccount, signOf } from '../chart/account.ts';
import type { DimensionCombination, DimensionFilter } from '../ledger/dimension.ts';
import { averageOfShares, monthlyShares } from '../trend/seasonal-shares.ts';
import { type BudgetBooks, type BudgetHead, type PlacedLine, sliceKey } from './budget-books.ts';
import { historyMonths, sliceFilter } from './line-context.ts';
import type { NonrecurringReason } from './nonrecurring-reason.ts';
import { slicesByAccount, slotsOfYear } from './slices.ts';

/**
 * What of a budget wants a second look. Amounts are minor units in the shown sign, shares fractions, months
 * count from 0. `slice` is where in the account it is, such as a department; null for the account as a whole.
 */
export type CheckFinding = { readonly account: string; readonly slice: DimensionCombination | null } & (
  | { readonly code: 'jump'; readonly budget: number; readonly prior: number; readonly priorYear: number; readonly change: number }
  | { readonly code: 'season'; readonly month: number; readonly share: number; readonly usual: number }
  | { readonly code: 'sign'; readonly budget: number; readonly prior: number; readonly priorYear: number }
  | { readonly code: 'inactive'; readonly budget: number }
  | { readonly code: 'noBudget'; readonly prior: number; readonly priorYear: number }
  | { readonly code: 'zeroMonths'; readonly months: readonly number[] }
  | { readonly code: 'drift'; readonly share: number; readonly least: number; readonly most: number }
  /** months with revenue and without any cost of sales, which the year before had beside it */
  | { readonly code: 'noCost'; readonly months: readonly number[] }
  /** an amount that may not recur is in the history a line draws on; `entry` null for a month of the approved budget */
  | {
      readonly code: 'nonrecurring';
      readonly entry: string | null;
      readonly year: number;
      readonly month: number;
      readonly amount: number;
      readonly reason: NonrecurringReason;
    }
);

/** Findings are listed past these limits. */
export const CHECK_LIMITS = {
  /** change of a year against the one before, as a fraction */
  jump: 0.25,
  /** of revenue: lines smaller than this are not worth a word */
  size: 0.0025,
  /** difference of a month's share of its year */
  season: 0.1,
  /** of revenue, beyond the range of the years before */
  drift: 0.03,
  years: 3,
} as const;

/** The same finding has the same key from one look to the next, so that an answer stays with it. */
export function checkKey(finding: CheckFinding): string {
  const { code, account, slice } = finding;
  if (code === 'nonrecurring') return `${code} ${account} ${finding.entry ?? `${finding.year}-${finding.month}`}`;
  return slice === null ? `${code} ${account}` : `${code} ${account} ${sliceKey(slice)}`;
}

const MONTHS = Array.from({ length: 12 }, (_, month) => month);
const sum = (amounts: readonly number[]): number => amounts.reduce((total, amount) => total + amount, 0);

/** Items by a key, each group in their order. */
function grouped<Key, Item>(items: Iterable<Item>, keyOf: (item: Item) => Key): Map<Key, Item[]> {
  const groups = new Map<Key, Item[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/** An account, or a slice of it, with its history. */
type Row = {
  readonly account: Account;
  readonly slice: DimensionCombination | null;
  /** equal for equal slices; null for the account as a whole */
  readonly key: string | null;
  readonly budget: readonly number[];
  /** whole or projected years before, the latest last; those without any figure left out */
  readonly history: readonly { readonly year: number; readonly months: readonly (number | null)[] }[];
  readonly hasLine: boolean;
};
type Scale = {
  /** amounts below it are passed over */
  readonly size: number;
  readonly sales: { readonly budget: number; readonly of: (year: number) => number };
};

/**
 * Lines that jump against history in level, season or sign, accounts that should or should not be
 * budgeted, months left at zero, costs that drift against revenue. Each account is looked at as a whole, and
 * then slice by slice for what the account as a whole does not show. History is read without nonrecurring items, its
 * months to come as budgeted. Months of revenue without cost come first, then the largest effect.
 */
export function checkFindings(options: {
  readonly books: BudgetBooks;
  readonly head: BudgetHead;
  readonly lines: Iterable<PlacedLine>;
}): CheckFinding[] {
  const { books, head } = options;
  const byPosition = grouped(options.lines, ({ position }) => position);
  const slices = slicesLookedAt(books, head, byPosition);
  const rowOf = rowReader(books, head, byPosition);
  const accounts = books.chart.accounts.flatMap((account, position) => {
    if (!isIncomeAccount(account)) return [];
    return [
      { whole: rowOf(position, null, null), parts: [...(slices.get(position) ?? [])].map(([key, slice]) => rowOf(position, key, slice)) },
    ];
  });
  const wholes = accounts.map(({ whole }) => whole);
  const revenue = wholes.filter(({ account }) => account.class === 'revenue' || account.class === 'revenueDeductions');
  const salesByYear = new Map<number, number>();
  for (const { history } of revenue)
    for (const each of history) salesByYear.set(each.year, (salesByYear.get(each.year) ?? 0) + totalOf(each));
  const sales = { budget: sum(revenue.map(({ budget }) => sum(budget))), of: (year: number) => salesByYear.get(year) ?? 0 };
  const scale: Scale = { size: Math.abs(sales.budget) * CHECK_LIMITS.size, sales };
  const found = accounts.flatMap(({ whole, parts }) => {
    const ofWhole = findingsOf(whole, scale);
    const codesOfWhole = new Set(ofWhole.map(({ code }) => code));
    // an account in one slice is that slice
    const ofParts = (parts.length > 1 ? parts : []).flatMap((part) =>
      findingsOf(part, scale).flatMap((finding) =>
        CODES_OF_SLICES.includes(finding.code) && !codesOfWhole.has(finding.code) ? [{ finding, effect: effectOf(part) }] : [],
      ),
    );
    return [...ofWhole.map((finding) => ({ finding, effect: effectOf(whole) })), ...ofParts];
  });
  const cost = costWithout(
    wholes,
    accounts.flatMap(({ parts }) => parts),
  );
  return [...cost, ...found.sort((a, b) => b.effect - a.effect).map(({ finding }) => finding)];
}

/** Codes that are found for slices; the others are for the account as a whole. */
const CODES_OF_SLICES: readonly CheckFinding['code'][] = ['jump', 'season', 'sign', 'noBudget', 'zeroMonths'];

/** The slices of each account that are budgeted or have history in the years looked at. */
function slicesLookedAt(
  books: BudgetBooks,
  head: BudgetHead,
  byPosition: ReadonlyMap<number, readonly PlacedLine[]>,
): ReadonlyMap<number, ReadonlyMap<string, DimensionCombination>> {
  const years = Array.from({ length: CHECK_LIMITS.years }, (_, back) => head.year - 1 - back);
  const facts = [...books.cube.facts, ...years.flatMap((year) => [...(books.approved.get(year)?.cube.facts ?? [])])];
  const found = slicesByAccount(
    head,
    facts,
    years.flatMap((year) => slotsOfYear(books.calendar, year) ?? []),
  );
  return new Map(
    books.chart.accounts.map((_, position) => {
      const own = new Map(found.get(position));
      for (const { slice, dimensions } of byPosition.get(position) ?? []) own.set(slice, dimensions);
      return [position, own];
    }),
  );
}

function rowReader(books: BudgetBooks, head: BudgetHead, byPosition: ReadonlyMap<number, readonly PlacedLine[]>) {
  const years = Array.from({ length: CHECK_LIMITS.years }, (_, back) => head.year - CHECK_LIMITS.years + back);
  // one filter object for each slice, so that its slab is found at once
  const filters = new Map<string | null, DimensionFilter>([[null, {}]]);
  return (position: number, key: string | null, slice: DimensionCombination | null): Row => {
    const account = books.chart.accounts[position]!;
    const sign = signOf(account);
    const filter = filters.get(key) ?? sliceFilter(head, { dimensions: slice! });
    filters.set(key, filter);
    const lines = (byPosition.get(position) ?? []).filter((line) => key === null || line.slice === key);
    const history = years
      .map((year) => ({ year, months: historyMonths(books, { position, filter, year }, { projected: true, includeNonrecurring: false }) }))
      .filter(({ months }) => months.some((amount) => amount !== null))
      .map(({ year, months }) => ({ year, months: months.map((amount) => (amount === null ? null : sign * amount)) }));
    const budget = MONTHS.map((month) => sign * sum(lines.map(({ months }) => months[month]!.amount)));
    return { account, slice, key, budget, history, hasLine: lines.length > 0 };
  };
}

const totalOf = ({ months }: Row['history'][number]): number => sum(months.map((amount) => amount ?? 0));
const priorOf = ({ history }: Row): number => history.slice(-1).reduce((_, last) => totalOf(last), 0);
const effectOf = (row: Row): number => Math.abs(sum(row.budget) - priorOf(row));

function findingsOf(row: Row, { size, sales }: Scale): CheckFinding[] {
  const { account, slice, budget, history, hasLine } = row;
  const at = { account: account.number, slice };
  const total = sum(budget);
  const prior = priorOf(row);
  const priorYear = history.at(-1)?.year ?? 0;
  const findings: CheckFinding[] = [];
  if (!account.active && total !== 0) findings.push({ code: 'inactive', ...at, budget: total });
  if (Math.abs(prior) > size && total === 0) {
    findings.push({ code: 'noBudget', ...at, prior, priorYear });
    return findings;
  }
  if (!hasLine || total === 0) return findings;
  if (prior !== 0 && Math.sign(prior) !== Math.sign(total)) findings.push({ code: 'sign', ...at, budget: total, prior, priorYear });
  else if (prior !== 0 && Math.abs(total - prior) > size) {
    const change = (total - prior) / Math.abs(prior);
    if (Math.abs(change) > CHECK_LIMITS.jump) findings.push({ code: 'jump', ...at, budget: total, prior, priorYear, change });
  }
  const whole = history.map(({ months }) => months.flatMap((amount) => amount ?? [])).filter((months) => months.length === MONTHS.length);
  const usual = averageOfShares(whole);
  const shares = monthlyShares(budget);
  if (usual && shares && Math.abs(total) > size) {
    const month = MONTHS.reduce(
      (most, each) => (Math.abs(shares[each]! - usual[each]!) > Math.abs(shares[most]! - usual[most]!) ? each : most),
      0,
    );
    if (Math.abs(shares[month]! - usual[month]!) > CHECK_LIMITS.season)
      findings.push({ code: 'season', ...at, month, share: shares[month]!, usual: usual[month]! });
  }
  const isYearRound = whole.length > 0 && whole.every((year) => year.every((amount) => amount !== 0));
  const zeros = MONTHS.filter((month) => budget[month] === 0);
  if (isYearRound && zeros.length > 0) findings.push({ code: 'zeroMonths', ...at, months: zeros });
  const isVariable = account.class === 'costOfSales' || account.class === 'operatingExpenses';
  if (isVariable && sales.budget > 0 && Math.abs(total) > size) {
    const before = history.flatMap((year) => (sales.of(year.year) > 0 ? [totalOf(year) / sales.of(year.year)] : []));
    const share = total / sales.budget;
    const [least, most] = [Math.min(...before), Math.max(...before)];
    if (before.length > 1 && (share < least - CHECK_LIMITS.drift || share > most + CHECK_LIMITS.drift))
      findings.push({ code: 'drift', ...at, share, least, most });
  }
  return findings;
}

/**
 * Months with revenue and no cost of sales at all, where the same months of the year before had both: of the
 * company, or else of a slice.
 */
function costWithout(wholes: readonly Row[], parts: readonly Row[]): CheckFinding[] {
  const ofAll = monthsWithoutCost(wholes, null);
  if (ofAll.length > 0) return ofAll;
  return [...grouped(parts, ({ key }) => key).values()].flatMap((rows) => monthsWithoutCost(rows, rows[0]!.slice));
}

function monthsWithoutCost(rows: readonly Row[], slice: DimensionCombination | null): CheckFinding[] {
  const costs = rows.filter(({ account }) => account.class === 'costOfSales');
  const sales = rows.filter(({ account }) => account.class === 'revenue');
  const [first] = costs;
  if (!first) return [];
  const had = (of: readonly Row[], month: number) => of.some(({ history }) => (history.at(-1)?.months[month] ?? 0) !== 0);
  const months = MONTHS.filter(
    (month) =>
      sum(sales.map(({ budget }) => budget[month]!)) > 0 &&
      costs.every(({ budget }) => budget[month] === 0) &&
      had(costs, month) &&
      had(sales, month),
  );
  return months.length > 0 ? [{ code: 'noCost', account: first.account.number, slice, months }] : [];
}
