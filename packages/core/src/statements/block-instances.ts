import { type FiscalCalendar, periodAt, type PeriodIndex, periodOfKey, PERIODS_PER_YEAR } from '../calendar/fiscal-calendar.ts';
import { longPeriodName, shortPeriodName, spanWords } from '../calendar/period-words.ts';
import { resolveSpan } from '../calendar/span.ts';
import { type DimensionFilter, NO_FILTER } from '../ledger/dimension.ts';
import type { Block, Repeat } from './column-set.ts';
import type { KnownDimensions } from './plan-lines.ts';

/** One standing of a block: once, for a month or another part of its repeat, or the block that totals them. */
export type BlockInstance = {
  readonly key: string;
  /** its heading over the months in words; without them those the block names */
  readonly heading: (months?: string) => string;
  /** the as-of months its amounts take their spans from; several run together */
  readonly anchors: readonly PeriodIndex[];
  readonly filter: DimensionFilter;
  readonly isTotal: boolean;
};
export type StandingsResult =
  /** `hasGaps`: a total was asked for, and the parts are not in a row */
  | { readonly ok: true; readonly standings: readonly BlockInstance[]; readonly hasGaps?: boolean }
  | { readonly ok: false; readonly code: 'outsideCalendar' | 'unknownDimension'; readonly token: string };

const PERIODS_IN = { months: 1, quarters: 3, years: PERIODS_PER_YEAR } as const;

/**
 * How often a block stands and for what. Quarters and years end at their last period, the one under
 * way at the as-of month, so that a column "to date" runs to the end of those before it. Parts of a
 * repeat that lie before the calendar are left out.
 */
export function blockInstances(
  block: Block,
  options: {
    readonly calendar: FiscalCalendar;
    readonly asOf: PeriodIndex;
    /** the last month of actuals, not after the as-of month; null takes the as-of month */
    readonly through: PeriodIndex | null;
    readonly dimensions: KnownDimensions;
    /** the statement's filter: a repeat over a dimension shows the values it lets through */
    readonly filter: DimensionFilter;
  },
): StandingsResult {
  const { calendar, asOf, through, dimensions } = options;
  const fill =
    (heading: string, span: string, more: { readonly value?: string; readonly all?: string } = {}) =>
    (months = span): string =>
      heading
        .replaceAll(months === '' ? /(, )?\{span\}/g : '{span}', months)
        .replaceAll('{value}', more.value ?? '')
        .replaceAll('{all}', more.all ?? 'Total');
  const { repeat } = block;
  const ownSpan = resolveSpan(calendar, block.span, { asOf, through });
  const ownWords = !ownSpan.ok
    ? ''
    : ownSpan.span.from === ownSpan.span.to
      ? longPeriodName(calendar, ownSpan.span.to)
      : spanWords(calendar, ownSpan.span);
  if (!repeat)
    return {
      ok: true,
      standings: [{ key: block.key, heading: fill(block.heading, ownWords), anchors: [asOf], filter: NO_FILTER, isTotal: false }],
    };
  if (repeat.over === 'dimension') {
    const known = dimensions.get(repeat.dimension);
    if (!known) return { ok: false, code: 'unknownDimension', token: repeat.dimension };
    const asked = repeat.values ?? known;
    const passing = options.filter[repeat.dimension];
    const values = passing ? asked.filter((value) => passing.includes(value)) : asked;
    const repeated = values.map((value) => ({
      key: `${block.key}.${value === '' ? '-' : value}`,
      heading: fill(block.heading, ownWords, { value: valueWords(repeat.dimension, value) }),
      anchors: [asOf],
      filter: { [repeat.dimension]: [value] },
      isTotal: false,
    }));
    const isAll = known.every((value) => values.includes(value));
    const all = isAll ? `All ${pluralOf(repeat.dimension)}` : listWords(repeat.dimension, values);
    const filter = repeat.values ? { [repeat.dimension]: values } : NO_FILTER;
    return { ok: true, standings: [...repeated, ...totalOf(block, { words: ownWords, anchors: [asOf], filter, all })] };
  }
  const anchors = anchorsOf(repeat, calendar, asOf);
  if (anchors.length === 0) return { ok: false, code: 'outsideCalendar', token: block.key };
  const repeated = anchors.map((anchor) => ({
    key: `${block.key}.${periodAt(calendar, anchor).key}`,
    heading: fill(block.heading, partWords(repeat.over, calendar, anchor)),
    anchors: [anchor],
    filter: NO_FILTER,
    isTotal: false,
  }));
  const from = (anchors[0]! - ((periodAt(calendar, anchors[0]!).number - 1) % PERIODS_IN[repeat.over])) as PeriodIndex;
  const words = spanWords(calendar, { from, to: anchors.at(-1)! });
  const firsts = anchors.map((anchor) => anchor - ((periodAt(calendar, anchor).number - 1) % PERIODS_IN[repeat.over]));
  // a total runs over one stretch; of parts with others between them there is none
  const isStretch = firsts.every((first, index) => index === 0 || first === anchors[index - 1]! + 1);
  return {
    ok: true,
    standings: [...repeated, ...(isStretch ? totalOf(block, { words, anchors, filter: NO_FILTER }) : [])],
    ...(isStretch || !block.total ? {} : { hasGaps: true }),
  };

  function totalOf(
    of: Block,
    total: { readonly words: string; readonly anchors: readonly PeriodIndex[]; readonly filter: DimensionFilter; readonly all?: string },
  ): BlockInstance[] {
    const { words, anchors: over, filter, all = 'Total' } = total;
    return of.total
      ? [{ key: `${of.key}.total`, heading: fill(of.total.heading, words, { all }), anchors: over, filter, isTotal: true }]
      : [];
  }
}

/** A value of a dimension in words: `Tours`, `No department`. */
const valueWords = (dimension: string, value: string): string => (value === '' ? `No ${dimension}` : value);

/** `departments`, `companies`, `branches`. */
const pluralOf = (noun: string): string =>
  /[^aeiou]y$/.test(noun) ? `${noun.slice(0, -1)}ies` : /(s|x|z|ch|sh)$/.test(noun) ? `${noun}es` : `${noun}s`;

const MOST_NAMED = 3;
/** The values a total is over, where they are not all: `Store and Tours`, `5 departments`. */
function listWords(dimension: string, values: readonly string[]): string {
  if (values.length > MOST_NAMED) return `${values.length} ${pluralOf(dimension)}`;
  const words = values.map((value) => valueWords(dimension, value));
  return words.length < 2 ? (words[0] ?? `No ${dimension}`) : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}

function anchorsOf(repeat: Repeat & { over: keyof typeof PERIODS_IN }, calendar: FiscalCalendar, asOf: PeriodIndex): PeriodIndex[] {
  if ('within' in repeat) {
    const within = resolveSpan(calendar, repeat.within, { asOf });
    return within.ok ? calendar.periods.slice(within.span.from, within.span.to + 1).map(({ index }) => index) : [];
  }
  const size = PERIODS_IN[repeat.over];
  if ('chosen' in repeat) {
    const known = repeat.chosen.map((key) => periodOfKey(calendar, key)).filter((period) => period !== null);
    const ends = known.map((period) => {
      const first = period - ((periodAt(calendar, period).number - 1) % size);
      const last = first + size - 1;
      // the part under way goes to the as-of month
      return first <= asOf && asOf < last ? asOf : last;
    });
    return [...new Set(ends)].sort((a, b) => a - b) as PeriodIndex[];
  }
  const ended = asOf - ((periodAt(calendar, asOf).number - 1) % size) - 1;
  const anchors = Array.from({ length: Math.max(1, Math.floor(repeat.last)) }, (_, back) =>
    back === 0 ? asOf : ended - (back - 1) * size,
  );
  return anchors.filter((anchor) => anchor >= 0).reverse() as PeriodIndex[];
}

/** `Oct 2026`, `Q3 FY2027`, `FY2027`; what has not ended says how far it goes: `FY2027 to Oct 2026`. */
function partWords(over: keyof typeof PERIODS_IN, calendar: FiscalCalendar, anchor: PeriodIndex): string {
  if (over === 'months') return shortPeriodName(calendar, anchor);
  const { year, number } = periodAt(calendar, anchor);
  const name = over === 'years' ? `FY${year}` : `Q${Math.ceil(number / 3)} FY${year}`;
  return number % PERIODS_IN[over] === 0 ? name : `${name} to ${shortPeriodName(calendar, anchor)}`;
}
