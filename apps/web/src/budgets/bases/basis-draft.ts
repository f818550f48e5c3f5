import {
  type Basis,
  type BasisKind,
  type Minor,
  parseTypedAmount,
  type Spread,
  type SpreadKind,
  toDecimalText,
  withoutPercentSign,
} from '@wise-margin/core';

/** A basis while it is typed: every field as text, those of other kinds kept so that nothing is lost by trying one. */
export type BasisDraft = {
  readonly kind: BasisKind;
  readonly year: string;
  readonly change: string;
  /** an amount a month on top of the percentage; empty for none */
  readonly changeAmount: string;
  /** how many years before the budget's, or how many latest months */
  readonly years: string;
  readonly count: string;
  readonly of: 'months' | 'years';
  readonly seasonal: boolean;
  readonly accounts: string;
  readonly percent: string;
  /** a statistic; empty takes the typed numbers */
  readonly series: string;
  readonly numbers: string;
  /** what the typed numbers count */
  readonly driverName: string;
  readonly steps: readonly { readonly from: number; readonly value: string }[];
  readonly inSomeMonths: boolean;
  readonly onlyMonths: readonly number[];
  /** the year those who are there already were paid in; empty when the positions are everybody */
  readonly currentStaffYear: string;
  readonly currentStaffChange: string;
  readonly positions: readonly PositionDraft[];
  readonly onCost: string;
  readonly total: string;
  readonly spread: SpreadKind | 'shares' | 'line' | 'weights';
  /** how many years average shares are of */
  readonly spreadYears: string;
  readonly spreadLine: string;
  readonly weights: string;
  readonly baseOf: BaseOf;
  /** `Shop 1; Tours 3` */
  readonly sharingWeights: string;
  readonly projected: boolean;
  readonly includeNonrecurring: boolean;
  readonly fromMonth: number;
  readonly roundTo: string;
  readonly least: string;
  readonly most: string;
};
/** What a percentage is of: the line's own slice, the whole company shared among the account's lines, or the whole company for each. */
export type BaseOf = 'own' | 'sharedByHistory' | 'sharedByWeights' | 'each';
export type PositionDraft = {
  readonly name: string;
  readonly heads: string;
  readonly pay: string;
  readonly start: number;
  /** -1 for none */
  readonly raiseFrom: number;
  readonly raise: string;
};
export type DraftResult = { readonly ok: true; readonly basis: Basis } | { readonly ok: false; readonly fault: string };

export const NEW_POSITION: PositionDraft = { name: 'New person', heads: '1', pay: '', start: 0, raiseFrom: -1, raise: '3' };

const textOf = (amount: number | undefined, exponent: number): string => {
  if (amount === undefined) return '';
  return toDecimalText(amount as Minor, exponent).replace(/\.0+$/, '');
};

/** The fields of a basis as they are typed; what it does not say begins with what is usual. */
export function draftOf(basis: Basis, { exponent, budgetYear }: { readonly exponent: number; readonly budgetYear: number }): BasisDraft {
  const amount = (value: Minor | undefined) => textOf(value, exponent);
  const usual: BasisDraft = {
    kind: basis.kind,
    year: String(budgetYear - 1),
    change: '0',
    changeAmount: '',
    years: '3',
    count: '6',
    of: 'years',
    seasonal: true,
    accounts: '',
    percent: '',
    series: '',
    numbers: '',
    driverName: '',
    steps: [{ from: 0, value: '' }],
    inSomeMonths: false,
    onlyMonths: [],
    currentStaffYear: '',
    currentStaffChange: '0',
    positions: [NEW_POSITION],
    onCost: '20',
    total: '',
    spread: 'history',
    spreadYears: '3',
    spreadLine: '',
    weights: '',
    baseOf: 'own',
    sharingWeights: '',
    projected: basis.projected ?? false,
    includeNonrecurring: basis.includeNonrecurring ?? false,
    fromMonth: basis.fromMonth ?? 0,
    roundTo: amount(basis.roundTo) || '0',
    least: amount(basis.least),
    most: amount(basis.most),
  };
  switch (basis.kind) {
    case 'sameMonths':
      return { ...usual, year: String(basis.year), change: basis.changePercent, changeAmount: amount(basis.changeAmount) };
    case 'yearTotal':
      return { ...usual, year: String(basis.year), change: basis.changePercent, ...spreadDraft(basis.spread) };
    case 'averageYears':
      return { ...usual, years: String(basis.years.length), change: basis.changePercent };
    case 'latestMonths':
      return { ...usual, count: String(basis.count), change: basis.changePercent };
    case 'trend':
      return { ...usual, years: String(basis.years.length), of: basis.of, seasonal: basis.seasonal };
    case 'percentOf':
      return { ...usual, accounts: basis.accounts, percent: basis.percent, ...baseDraft(basis) };
    case 'driverRate':
      return {
        ...usual,
        ...('series' in basis.driver
          ? { series: basis.driver.series }
          : { numbers: basis.driver.months.join(' '), driverName: basis.driver.name }),
        steps: basis.rates,
      };
    case 'fixedMonths':
      return {
        ...usual,
        steps: basis.steps.map(({ from, value }) => ({ from, value: amount(value) })),
        inSomeMonths: basis.months !== undefined,
        onlyMonths: basis.months ?? [],
      };
    case 'payroll':
      return {
        ...usual,
        ...(basis.currentStaff
          ? { currentStaffYear: String(basis.currentStaff.year), currentStaffChange: basis.currentStaff.changePercent }
          : {}),
        onCost: basis.onCostPercent,
        positions: basis.positions.map(({ name, heads, yearlyPay, startMonth, raiseMonth = -1, raisePercent = '3' }) => ({
          name,
          heads: String(heads),
          pay: amount(yearlyPay),
          start: startMonth,
          raiseFrom: raiseMonth,
          raise: raisePercent,
        })),
      };
    case 'typedTotal':
      return { ...usual, total: amount(basis.total), ...spreadDraft(basis.spread) };
    case 'typed':
      return usual;
  }
}

function baseDraft({ wholeCompany, shared }: Basis & { kind: 'percentOf' }): Pick<BasisDraft, 'baseOf' | 'sharingWeights'> {
  if (shared === undefined) return { baseOf: wholeCompany ? 'each' : 'own', sharingWeights: '' };
  if (shared === 'history') return { baseOf: 'sharedByHistory', sharingWeights: '' };
  const named = Object.entries(shared.weights).map(([name, weight]) => `${name} ${weight}`);
  return { baseOf: 'sharedByWeights', sharingWeights: named.join('; ') };
}

function spreadDraft(spread: Spread): Pick<BasisDraft, 'spread' | 'spreadYears' | 'spreadLine' | 'weights'> {
  if (typeof spread === 'string') return { spread, spreadYears: '3', spreadLine: '', weights: '' };
  return {
    spread: spread.by,
    spreadYears: spread.by === 'shares' ? String(spread.years.length) : '3',
    spreadLine: spread.by === 'line' ? spread.accounts : '',
    weights: spread.by === 'weights' ? spread.weights.join(' ') : '',
  };
}

class Fault extends Error {}

/** The basis that is typed, or the first thing wrong with it, in words with the fix. */
export function basisOf(
  draft: BasisDraft,
  { exponent, budgetYear }: { readonly exponent: number; readonly budgetYear: number },
): DraftResult {
  const amount = (field: string, text: string): Minor => {
    const parsed = parseTypedAmount(text, exponent);
    if (!parsed.ok) throw new Fault(`${field}: "${text}" is not an amount. Enter one such as 1250.00.`);
    return parsed.value;
  };
  const number = (field: string, text: string): string => {
    const plain = withoutPercentSign(text);
    if (!/^[+-]?\d+(\.\d+)?$/.test(plain)) throw new Fault(`${field}: "${text}" is not a number. Enter one such as 3 or 12.5.`);
    return plain;
  };
  const count = (field: string, text: string, most: number): number => {
    const value = Number(text);
    if (!Number.isInteger(value) || value < 1 || value > most) throw new Fault(`${field}: enter a whole number from 1 to ${most}.`);
    return value;
  };
  const yearsBack = (many: number): number[] => Array.from({ length: many }, (_, back) => budgetYear - 1 - back).reverse();
  const yearsBefore = (): number[] => yearsBack(count('Years', draft.years, 10));
  const change = () => number('Change', draft.change);
  try {
    const limits = {
      ...(draft.fromMonth > 0 ? { fromMonth: draft.fromMonth } : {}),
      ...(Number(draft.roundTo) > 0 ? { roundTo: amount('Rounded to', draft.roundTo) } : {}),
      ...(draft.least.trim() === '' ? {} : { least: amount('Minimum', draft.least) }),
      ...(draft.most.trim() === '' ? {} : { most: amount('Maximum', draft.most) }),
      ...(draft.projected ? { projected: true as const } : {}),
      ...(draft.includeNonrecurring ? { includeNonrecurring: true as const } : {}),
    };
    return { ok: true, basis: { ...method(), ...limits } };
  } catch (error) {
    if (error instanceof Fault) return { ok: false, fault: error.message };
    throw error;
  }

  function method(): Basis {
    switch (draft.kind) {
      case 'sameMonths':
        return {
          kind: 'sameMonths',
          year: Number(draft.year),
          changePercent: change(),
          ...(draft.changeAmount.trim() === '' ? {} : { changeAmount: amount('By amount', draft.changeAmount) }),
        };
      case 'yearTotal':
        return { kind: 'yearTotal', year: Number(draft.year), changePercent: change(), spread: spread() };
      case 'averageYears':
        return { kind: 'averageYears', years: yearsBefore(), changePercent: change() };
      case 'latestMonths':
        return { kind: 'latestMonths', count: count('Months', draft.count, 60), changePercent: change() };
      case 'trend':
        return { kind: 'trend', of: draft.of, years: yearsBefore(), seasonal: draft.seasonal };
      case 'percentOf':
        if (draft.accounts.trim() === '') throw new Fault('Accounts: enter those it depends on, such as 4000-4199.');
        return {
          kind: 'percentOf',
          accounts: draft.accounts.trim(),
          percent: number('Percent', draft.percent),
          ...(draft.baseOf === 'each' ? { wholeCompany: true as const } : {}),
          ...(draft.baseOf === 'sharedByHistory' ? { shared: 'history' as const } : {}),
          ...(draft.baseOf === 'sharedByWeights' ? { shared: { weights: namedWeights(draft.sharingWeights) } } : {}),
        };
      case 'driverRate': {
        const rates = draft.steps.map(({ from, value }) => ({ from, value: number('Rate', value) }));
        return { kind: 'driverRate', driver: driver(), rates, unit: 10 ** exponent };
      }
      case 'fixedMonths': {
        const steps = draft.steps.map(({ from, value }) => ({ from, value: amount('Amount', value) }));
        if (draft.inSomeMonths && draft.onlyMonths.length === 0) throw new Fault('Months: choose at least one.');
        return { kind: 'fixedMonths', steps, ...(draft.inSomeMonths ? { months: [...draft.onlyMonths] } : {}) };
      }
      case 'payroll':
        return {
          kind: 'payroll',
          ...(draft.currentStaffYear === ''
            ? {}
            : { currentStaff: { year: Number(draft.currentStaffYear), changePercent: number('Current pay', draft.currentStaffChange) } }),
          onCostPercent: number('Payroll taxes and benefits', draft.onCost),
          positions: draft.positions.map(({ name, heads, pay, start, raiseFrom, raise }) => ({
            name: name.trim() || 'Person',
            heads: Number(number(`Headcount of ${name}`, heads)),
            yearlyPay: amount(`Pay of ${name}`, pay),
            startMonth: start,
            ...(raiseFrom < 0 ? {} : { raiseMonth: raiseFrom, raisePercent: number(`Raise of ${name}`, raise) }),
          })),
        };
      case 'typedTotal':
        return { kind: 'typedTotal', total: amount('Total', draft.total), spread: spread() };
      case 'typed':
        return { kind: 'typed' };
    }
  }

  function namedWeights(text: string): Record<string, number> {
    const parts = text
      .split(/[;,]/)
      .map((part) => part.trim())
      .filter((part) => part !== '');
    if (parts.length === 0) throw new Fault('Weights: enter one for each line, such as Shop 1; Tours 3.');
    return Object.fromEntries(
      parts.map((part) => {
        const at = part.lastIndexOf(' ');
        const weight = part.slice(at + 1);
        if (at < 1) throw new Fault(`Weights: "${part}" has no name or no number. Enter one such as Tours 3.`);
        if (!/^\d+(\.\d+)?$/.test(weight))
          throw new Fault(`Weights: "${weight}" is not a weight. Enter one such as ${part.slice(0, at)} 3.`);
        return [part.slice(0, at).trim(), Number(weight)];
      }),
    );
  }

  function twelve(field: string, text: string): number[] {
    const months = text
      .split(/[\s;]+/)
      .filter((each) => each !== '')
      .map((each) => Number(number(field, each)));
    if (months.length !== 12) throw new Fault(`${field}: there are ${months.length}. Enter twelve, one for each month.`);
    return months;
  }

  function spread(): Spread {
    switch (draft.spread) {
      case 'shares':
        return { by: 'shares', years: yearsBack(count('Years of seasonality', draft.spreadYears, 10)) };
      case 'line':
        if (draft.spreadLine.trim() === '') throw new Fault('Pattern: enter the accounts whose pattern to use, such as 4010.');
        return { by: 'line', accounts: draft.spreadLine.trim() };
      case 'weights':
        return { by: 'weights', weights: twelve('Weights', draft.weights) };
      default:
        return draft.spread;
    }
  }

  function driver(): (Basis & { kind: 'driverRate' })['driver'] {
    if (draft.series !== '') return { series: draft.series };
    return { name: draft.driverName.trim() || 'Entered numbers', months: twelve('Numbers', draft.numbers) };
  }
}
