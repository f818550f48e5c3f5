import { isIncomeAccount, signOf, type Account } from '../chart/account.ts';
import { averageOfShares, monthlyShares } from '../trend/seasonal-shares.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import { historyMonths } from './line-context.ts';

/** What of a budget wants a second look. Amounts are minor units in the shown sign, shares fractions, months count from 0. */
export type SanityFinding = { readonly account: string } & (
  | { readonly code: 'jump'; readonly budget: number; readonly prior: number; readonly priorYear: number; readonly change: number }
  | { readonly code: 'season'; readonly month: number; readonly share: number; readonly usual: number }
  | { readonly code: 'sign'; readonly budget: number; readonly prior: number; readonly priorYear: number }
  | { readonly code: 'inactive'; readonly budget: number }
  | { readonly code: 'noBudget'; readonly prior: number; readonly priorYear: number }
  | { readonly code: 'zeroMonths'; readonly months: readonly number[] }
  | { readonly code: 'drift'; readonly share: number; readonly least: number; readonly most: number }
  /** months with revenue and without any cost of sales, which earlier years had beside it */
  | { readonly code: 'noCost'; readonly months: readonly number[] }
);

/** The limits findings are told past. */
export const SANITY_LIMITS = {
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
export const sanityKey = ({ code, account }: SanityFinding): string => `${code} ${account}`;

const MONTHS = Array.from({ length: 12 }, (_, month) => month);
const sum = (amounts: readonly number[]): number => amounts.reduce((total, amount) => total + amount, 0);

type Row = {
  readonly account: Account;
  readonly budget: readonly number[];
  /** whole or projected years before, the latest last; those without any figure left out */
  readonly history: readonly { readonly year: number; readonly months: readonly (number | null)[] }[];
  readonly hasLine: boolean;
};

/**
 * Lines that jump against history in level, season or sign, accounts that should or should not be
 * budgeted, months left at zero, costs that drift against revenue. History is read without one-offs, its
 * months to come as budgeted. The largest effect comes first.
 */
export function sanityFindings(options: {
  readonly books: BudgetBooks;
  readonly head: BudgetHead;
  readonly lines: Iterable<PlacedLine>;
}): SanityFinding[] {
  const { books, head, lines } = options;
  const months = new Map<number, number[]>();
  for (const line of lines) {
    const held = months.get(line.position) ?? MONTHS.map(() => 0);
    line.months.forEach(({ amount }, month) => (held[month]! += amount));
    months.set(line.position, held);
  }
  const rows = books.chart.accounts.flatMap((account, position): Row[] => {
    if (!isIncomeAccount(account)) return [];
    const sign = signOf(account);
    const history = Array.from({ length: SANITY_LIMITS.years }, (_, back) => head.year - SANITY_LIMITS.years + back)
      .map((year) => ({ year, months: historyMonths(books, { position, filter: {}, year }, { projected: true, withOneOffs: false }) }))
      .filter((each) => each.months.some((amount) => amount !== null))
      .map(({ year, months: own }) => ({ year, months: own.map((amount) => (amount === null ? null : sign * amount)) }));
    const held = months.get(position);
    return [{ account, budget: (held ?? MONTHS.map(() => 0)).map((amount) => sign * amount), history, hasLine: held !== undefined }];
  });
  const revenue = rows.filter(({ account }) => account.class === 'revenue' || account.class === 'revenueDeductions');
  const sales = {
    budget: sum(revenue.map(({ budget }) => sum(budget))),
    of: (year: number) => sum(revenue.flatMap(({ history }) => history.filter((each) => each.year === year).map(totalOf))),
  };
  const size = Math.abs(sales.budget) * SANITY_LIMITS.size;
  const found = rows.flatMap((row) => findingsOf(row, { size, sales }).map((finding) => ({ finding, effect: effectOf(row) })));
  const cost = costWithout(rows);
  return [...cost, ...found.sort((a, b) => b.effect - a.effect).map(({ finding }) => finding)];
}

const totalOf = ({ months }: Row['history'][number]): number => sum(months.map((amount) => amount ?? 0));
const priorOf = ({ history }: Row): number => history.slice(-1).reduce((_, last) => totalOf(last), 0);
const effectOf = (row: Row): number => Math.abs(sum(row.budget) - priorOf(row));

function findingsOf(
  row: Row,
  { size, sales }: { readonly size: number; readonly sales: { readonly budget: number; readonly of: (year: number) => number } },
): SanityFinding[] {
  const { account, budget, history, hasLine } = row;
  const { number } = account;
  const total = sum(budget);
  const prior = priorOf(row);
  const priorYear = history.at(-1)?.year ?? 0;
  const findings: SanityFinding[] = [];
  if (!account.active && total !== 0) findings.push({ code: 'inactive', account: number, budget: total });
  if (Math.abs(prior) > size && total === 0) {
    findings.push({ code: 'noBudget', account: number, prior, priorYear });
    return findings;
  }
  if (!hasLine || total === 0) return findings;
  if (prior !== 0 && Math.sign(prior) !== Math.sign(total))
    findings.push({ code: 'sign', account: number, budget: total, prior, priorYear });
  else if (prior !== 0 && Math.abs(total - prior) > size) {
    const change = (total - prior) / Math.abs(prior);
    if (Math.abs(change) > SANITY_LIMITS.jump) findings.push({ code: 'jump', account: number, budget: total, prior, priorYear, change });
  }
  const whole = history.map(({ months }) => months.flatMap((amount) => amount ?? [])).filter((months) => months.length === MONTHS.length);
  const usual = averageOfShares(whole);
  const shares = monthlyShares(budget);
  if (usual && shares && Math.abs(total) > size) {
    const month = MONTHS.reduce(
      (most, each) => (Math.abs(shares[each]! - usual[each]!) > Math.abs(shares[most]! - usual[most]!) ? each : most),
      0,
    );
    if (Math.abs(shares[month]! - usual[month]!) > SANITY_LIMITS.season)
      findings.push({ code: 'season', account: number, month, share: shares[month]!, usual: usual[month]! });
  }
  const isYearRound = whole.length > 0 && whole.every((year) => year.every((amount) => amount !== 0));
  const zeros = MONTHS.filter((month) => budget[month] === 0);
  if (isYearRound && zeros.length > 0) findings.push({ code: 'zeroMonths', account: number, months: zeros });
  const isVariable = account.class === 'costOfSales' || account.class === 'operatingExpenses';
  if (isVariable && sales.budget > 0 && Math.abs(total) > size) {
    const before = history.flatMap((year) => (sales.of(year.year) > 0 ? [totalOf(year) / sales.of(year.year)] : []));
    const share = total / sales.budget;
    const [least, most] = [Math.min(...before), Math.max(...before)];
    if (before.length > 1 && (share < least - SANITY_LIMITS.drift || share > most + SANITY_LIMITS.drift))
      findings.push({ code: 'drift', account: number, share, least, most });
  }
  return findings;
}

/** Months with revenue and no cost of sales at all, where the year before had both. */
function costWithout(rows: readonly Row[]): SanityFinding[] {
  const costs = rows.filter(({ account }) => account.class === 'costOfSales');
  const sales = rows.filter(({ account }) => account.class === 'revenue');
  const [first] = costs;
  if (!first) return [];
  const hadCost = costs.some(({ history }) => history.slice(-1).some(({ months: last }) => last.some((amount) => (amount ?? 0) !== 0)));
  const months = MONTHS.filter(
    (month) => sum(sales.map(({ budget }) => budget[month]!)) > 0 && costs.every(({ budget }) => budget[month] === 0),
  );
  return hadCost && months.length > 0 ? [{ code: 'noCost', account: first.account.number, months }] : [];
}
