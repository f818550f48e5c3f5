import { parseDecimal, toCommonScale } from '../../money/decimal.ts';
import { addFractions, fraction, fractionOf, multiplyFractions } from '../../money/fraction.ts';
import type { Minor } from '../../money/minor.ts';
import { type BasisDefinition, type BasisIssue, MONTHS, NOTHING, type Sibling, type Tell, wholeMonths } from './basis-context.ts';
import { exactProduct } from './exact-product.ts';
import { sameMonths } from './from-history.ts';
import { changeFactor, decimalOf, shareFactor } from './percent.ts';

/** An amount or rate that holds from a month on (0 is the first of the year). */
export type Step<Value> = { readonly from: number; readonly value: Value };
/** A statistic, or twelve typed numbers, times a rate in the currency's own unit that may step. */
export type DriverRate = {
  readonly kind: 'driverRate';
  readonly driver: { readonly series: string } | { readonly months: readonly number[]; readonly name: string };
  readonly rates: readonly Step<string>[];
  /** of the minor unit: 100 for dollars */
  readonly unit: number;
};
/** An amount a month, in the shown sign, that may step; only in some months when they are listed. */
export type FixedMonths = { readonly kind: 'fixedMonths'; readonly steps: readonly Step<Minor>[]; readonly months?: readonly number[] };
/** How an amount of the whole company is shared among an account's lines: by their history, or by weights under the names of their slices. */
export type Sharing = 'history' | { readonly weights: Readonly<Record<string, number>> };
/**
 * A percentage of what other lines of the budget hold, following them: those of its own slice; those of every
 * slice, for each line; or those of every slice, shared among the account's lines so that together they
 * hold the percentage once.
 */
export type PercentOf = {
  readonly kind: 'percentOf';
  readonly accounts: string;
  readonly percent: string;
  readonly wholeCompany?: true;
  /** of every slice, whatever `wholeCompany` says */
  readonly shared?: Sharing;
};
/**
 * People by yearly pay, in the shown sign: when they start, when pay is raised, and what comes on top; beside
 * those who are there already, when a year says what they were paid.
 */
export type Payroll = {
  readonly kind: 'payroll';
  /** what was paid in the same months of a year, changed by a percentage; left out, the positions are everybody */
  readonly currentStaff?: { readonly year: number; readonly changePercent: string };
  readonly positions: readonly {
    readonly name: string;
    readonly heads: number;
    readonly yearlyPay: Minor;
    readonly startMonth: number;
    readonly raiseMonth?: number;
    readonly raisePercent?: string;
  }[];
  readonly onCostPercent: string;
};

/** The value of the last step that has begun; null before the first. */
function stepAt<Value>(steps: readonly Step<Value>[], month: number): Value | null {
  let best: Step<Value> | null = null;
  for (const step of steps) if (step.from <= month && (best === null || step.from >= best.from)) best = step;
  return best?.value ?? null;
}
/** `1,600 a month, then 1,700 from September`. */
const stepsWords = <Value>(
  steps: readonly Step<Value>[],
  wordsOf: (value: Value) => string,
  { unit, tell }: { unit: string; tell: Tell },
): string =>
  [...steps]
    .sort((a, b) => a.from - b.from)
    .map(({ from, value }, index) => {
      const words = index === 0 ? `${wordsOf(value)}${unit}` : wordsOf(value);
      return index === 0 && from === 0 ? words : `${words} from ${tell.month(from)}`;
    })
    .join(', then ');

export const driverRate: BasisDefinition<DriverRate> = {
  derive: ({ driver, rates, unit }, { sign, driver: seriesMonths }) => {
    const numbers = 'series' in driver ? seriesMonths(driver.series) : driver.months;
    const missing = MONTHS.filter((month) => (numbers[month] ?? null) === null);
    const issues: BasisIssue[] =
      missing.length === 0 ? [] : [{ code: 'noDriver', series: 'series' in driver ? driver.series : driver.name, months: missing }];
    const bad = rates.find(({ value }) => decimalOf(value) === null);
    if (bad) return { months: NOTHING, issues: [...issues, { code: 'notANumber', field: 'rate', text: bad.value }] };
    const months = MONTHS.map((month) => {
      const rate = stepAt(rates, month);
      if (rate === null) return 0;
      return sign * exactProduct([parseDecimal(String(numbers[month] ?? 0)), decimalOf(rate)!, { digits: BigInt(unit), scale: 0 }]);
    });
    return { months: wholeMonths(months), issues };
  },
  words: ({ driver, rates }, tell) =>
    `${'series' in driver ? driver.series : driver.name || 'Entered numbers'} times ${stepsWords(rates, (rate) => rate.trim(), { unit: '', tell })}`,
};

export const fixedMonths: BasisDefinition<FixedMonths> = {
  derive: ({ steps, months }, { sign }) => ({
    months: wholeMonths(MONTHS.map((month) => (months && !months.includes(month) ? 0 : sign * (stepAt(steps, month) ?? 0)))),
    issues: [],
  }),
  words: ({ steps, months }, tell) =>
    `${stepsWords(steps, tell.amount, { unit: ' a month', tell })}${months ? `, in ${months.length} ${months.length === 1 ? 'month' : 'months'}` : ''}`,
};

export const percentOf: BasisDefinition<PercentOf> = {
  derive: ({ accounts, percent, wholeCompany, shared }, { sign, lines, siblings }) => {
    const share = shareFactor(percent);
    if (!share) return { months: NOTHING, issues: [{ code: 'notANumber', field: 'percent', text: percent }] };
    const held = lines(accounts, shared ? true : wholeCompany);
    if (!held) return { months: NOTHING, issues: [{ code: 'noLine', accounts }] };
    const issues: BasisIssue[] = held.every((amount) => amount === 0) ? [{ code: 'zeroLine', accounts }] : [];
    const own = shared ? partOf(shared, siblings?.() ?? []) : { part: fraction(1), issues: [] };
    const factor = multiplyFractions(fractionOf(share), own.part);
    return { months: held.map((amount) => multiplyFractions(fraction(sign * amount), factor)), issues: [...issues, ...own.issues] };
  },
  words: ({ accounts, percent, wholeCompany, shared }) =>
    `${percent.trim()}% of ${accounts}${
      shared ? ` of the company, allocated by ${shared === 'history' ? 'history' : 'weights'}` : wholeCompany ? ' of the company' : ''
    }`,
};

/** The part of an amount that is this line's; equal parts where nothing weighs. */
function partOf(
  sharing: Sharing,
  siblings: readonly Sibling[],
): { readonly part: ReturnType<typeof fraction>; readonly issues: BasisIssue[] } {
  if (siblings.length === 0) return { part: fraction(1), issues: [] };
  const unknown = sharing === 'history' ? [] : Object.keys(sharing.weights).filter((name) => !siblings.some(({ slice }) => slice === name));
  const weights = toCommonScale(
    siblings.map(({ slice, history }) =>
      parseDecimal(
        String(sharing === 'history' ? Math.abs(history().reduce((sum, amount) => sum + amount, 0)) : (sharing.weights[slice] ?? 0)),
      ),
    ),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0n);
  const issues: BasisIssue[] = [
    ...(unknown.length > 0 ? [{ code: 'noSlice' as const, slices: unknown, known: siblings.map(({ slice }) => slice) }] : []),
    ...(total === 0n ? [{ code: 'noWeights' as const, by: sharing === 'history' ? ('history' as const) : ('weights' as const) }] : []),
  ];
  const own = siblings.findIndex(({ isOwn }) => isOwn);
  return { part: total === 0n ? fraction(1, BigInt(siblings.length)) : fraction(weights[own] ?? 0n, total), issues };
}

/**
 * A twelfth of the yearly pay from the start month on, raised from the raise month on, and the costs on top of
 * it. What those who are there already were paid carries such costs, and takes none.
 */
export const payroll: BasisDefinition<Payroll> = {
  derive: ({ positions, onCostPercent, currentStaff }, context) => {
    const { sign } = context;
    const typed = [
      ['onCostPercent', onCostPercent] as const,
      ...positions.map(({ raisePercent }) => ['raisePercent', raisePercent ?? '0'] as const),
    ];
    const bad = typed.find(([, text]) => decimalOf(text) === null);
    if (bad) return { months: NOTHING, issues: [{ code: 'notANumber', field: bad[0], text: bad[1] }] };
    const onTop = changeFactor(onCostPercent)!;
    const months = MONTHS.map((month) =>
      positions.reduce((sum, { heads, yearlyPay, startMonth, raiseMonth, raisePercent }) => {
        if (month < startMonth) return sum;
        const raise = changeFactor(raiseMonth !== undefined && month >= raiseMonth ? (raisePercent ?? '0') : '0')!;
        return sum + exactProduct([parseDecimal(String(heads)), { digits: BigInt(yearlyPay), scale: 0 }, raise, onTop], 12);
      }, 0),
    );
    const there = currentStaff ? sameMonths.derive({ kind: 'sameMonths', ...currentStaff }, context) : { months: NOTHING, issues: [] };
    return { months: months.map((amount, month) => addFractions(there.months[month]!, fraction(sign * amount))), issues: there.issues };
  },
  words: ({ positions, onCostPercent, currentStaff }, tell) => {
    const heads = positions.reduce((sum, position) => sum + position.heads, 0);
    const people = `${heads} ${heads === 1 ? 'person' : 'people'}`;
    const pay = `(${positions.map(({ name }) => name).join(', ')}), plus ${onCostPercent.trim()}% for payroll taxes and benefits`;
    return currentStaff
      ? `${sameMonths.words({ kind: 'sameMonths', ...currentStaff }, tell)}, plus payroll of ${people} ${pay}`
      : `Payroll of ${people} ${pay}`;
  },
};
