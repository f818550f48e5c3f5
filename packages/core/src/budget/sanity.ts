import { isIncomeAccount, signOf, type Account } from '../chart/account.ts';
import { averageOfShares, monthlyShares } from '../trend/seasonal-shares.ts';
import type { BudgetBooks, BudgetHead, PlacedLine } from './budget-books.ts';
import { historyMonths } from './line-context.ts';

/** What of a budget wants a second look. Amounts are minor units in the shown sign, shares fractions, months count from 0. */
export type SanityFinding = { readonly account: string } & (
  | { readonly code: 'jump'; readonly budget: number; readonly prior: number; readonly change: number }
  | { readonly code: 'season'; readonly month: number; readonly share: number; readonly usual: number }
  | { readonly code: 'sign'; readonly budget: number; readonly prior: number }
  | { readonly code: 'inactive'; readonly budget: number }
  | { readonly code: 'noBudget'; readonly prior: number }
  | { readonly code: 'zeroMonths'; readonly months: readonly number[] }
  | { readonly code: 'drift'; readonly share: number; readonly least: number; readonly most: number }
  /** months with revenue and without any cost of sales, which earlier years had beside it */
  | { readonly code: 'noCost'; readonly months: readonly number[] }
);
export type SanityCode = SanityFinding['code'];

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
  readonly history: readonly (readonly (number | null)[])[];
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
      .map((year) => historyMonths(books, { position, filter: {}, year }, { projected: true, withOneOffs: false }))
      .filter((year) => year.some((amount) => amount !== null))
      .map((year) => year.map((amount) => (amount === null ? null : sign * amount)));
    const own = months.get(position);
    return [{ account, budget: (own ?? MONTHS.map(() => 0)).map((amount) => sign * amount), history, hasLine: own !== undefined }];
  });
  const revenue = rows.filter(({ account }) => account.class === 'revenue' || account.class === 'revenueDeductions');
  const revenueOf = (months: (row: Row) => readonly (number | null)[] | undefined): number =>
    sum(revenue.flatMap((row) => (months(row) ?? []).map((amount) => amount ?? 0)));
  const size = Math.abs(revenueOf(({ budget }) => budget)) * SANITY_LIMITS.size;
  const sales = {
    budget: revenueOf(({ budget }) => budget),
    history: (back: number) => revenueOf(({ history }) => history.at(-1 - back)),
  };
  const found = rows.flatMap((row) => findingsOf(row, { size, sales }).map((finding) => ({ finding, effect: effectOf(row) })));
  const cost = costWithout(rows);
  return [...cost, ...found.sort((a, b) => b.effect - a.effect).map(({ finding }) => finding)];
}

const effectOf = ({ budget, history }: Row): number => Math.abs(sum(budget) - sum((history.at(-1) ?? []).map((amount) => amount ?? 0)));

function findingsOf(
  { account, budget, history, hasLine }: Row,
  { size, sales }: { readonly size: number; readonly sales: { readonly budget: number; readonly history: (back: number) => number } },
): SanityFinding[] {
  const { number } = account;
  const total = sum(budget);
  const last = history.at(-1);
  const prior = sum((last ?? []).map((amount) => amount ?? 0));
  const findings: SanityFinding[] = [];
  if (!account.active && total !== 0) findings.push({ code: 'inactive', account: number, budget: total });
  if (Math.abs(prior) > size && total === 0) {
    findings.push({ code: 'noBudget', account: number, prior });
    return findings;
  }
  if (!hasLine || total === 0) return findings;
  if (prior !== 0 && Math.sign(prior) !== Math.sign(total)) findings.push({ code: 'sign', account: number, budget: total, prior });
  else if (prior !== 0 && Math.abs(total - prior) > size) {
    const change = (total - prior) / Math.abs(prior);
    if (Math.abs(change) > SANITY_LIMITS.jump) findings.push({ code: 'jump', account: number, budget: total, prior, change });
  }
  const whole = history.filter((year) => year.every((amount) => amount !== null)).map((year) => year.map((amount) => amount ?? 0));
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
    const before = history.flatMap((year, index) => {
      const of = sales.history(history.length - 1 - index);
      return of > 0 ? [sum(year.map((amount) => amount ?? 0)) / of] : [];
    });
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
  const hadCost = costs.some(({ history }) => (history.at(-1) ?? []).some((amount) => (amount ?? 0) !== 0));
  const months = MONTHS.filter(
    (month) => sum(sales.map(({ budget }) => budget[month]!)) > 0 && costs.every(({ budget }) => budget[month] === 0),
  );
  return hadCost && months.length > 0 ? [{ code: 'noCost', account: first.account.number, months }] : [];
}
