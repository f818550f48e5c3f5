import { fraction, roundFraction } from '../money/fraction.ts';
import { AmountOverflowError, type Minor, minor } from '../money/minor.ts';

/** A part of a line that has a volume of its own: a product, a department, or the whole line. */
export type DrivenSegment = {
  readonly key: string;
  /** amounts in the line's sign, in minor units */
  readonly compared: number;
  readonly base: number;
  /** units of the driver; null where it has no figure */
  readonly comparedVolume: number | null;
  readonly baseVolume: number | null;
  /** units of what is used up, such as hours, for a rate of its own; left out where it is not kept */
  readonly comparedInput?: number | null;
  readonly baseInput?: number | null;
};
export type PriceVolumePart = {
  readonly kind: 'quantity' | 'mix' | 'efficiency' | 'price' | 'unmatched';
  readonly amount: Minor;
};
/** A segment's own effects; of one without volumes on both sides, the whole difference is unmatched. */
export type SegmentEffect = DrivenSegment & {
  readonly volumeEffect: Minor;
  readonly priceEffect: Minor;
  readonly isMatched: boolean;
};
export type PriceVolume = {
  /** the amount compared with: the static budget, or the amount of the base period */
  readonly base: Minor;
  /** the base at the volumes of the compared side: the flexible budget; what has no volumes stays as it was */
  readonly flexible: Minor;
  readonly compared: Minor;
  readonly comparedVolume: number;
  readonly baseVolume: number;
  /** they add up to compared less base */
  readonly parts: readonly PriceVolumePart[];
  readonly segments: readonly SegmentEffect[];
};

/** Volumes to a millionth. */
const SCALE = 1e6;

/**
 * Splits a difference by its volumes. Definitions (Horngren, Datar, Rajan, Cost Accounting: A Managerial Emphasis, chapters
 * on flexible budgets and on sales mix; in their words in parentheses):
 * - price or rate (flexible-budget variance): compared amount less base price times compared volume;
 * - quantity (sales-quantity variance): base amount at the total volume of the compared side, in the base's mix, less base;
 * - mix (sales-mix variance): base prices times compared volumes, less the same total volume in the base's mix;
 * - efficiency, where an input is kept: base rate times the input used, less the input that the compared volume should use.
 * Quantity and mix add up to the sales-volume variance. A segment without a volume above zero on both sides has no price to
 * compare: its whole difference is `unmatched`. Amounts are rounded once, half away from zero, and parts always add up.
 * @returns null when no segment has volumes on both sides, or they are so far apart that no amount could hold the result
 */
export function priceVolume(segments: readonly DrivenSegment[]): PriceVolume | null {
  const matched = segments.filter(hasVolumes);
  if (matched.length === 0) return null;
  try {
    return splitBy(matched, segments);
  } catch (error) {
    if (error instanceof AmountOverflowError) return null;
    throw error;
  }
}

/** @throws AmountOverflowError for volumes too far apart */
function splitBy(matched: readonly DrivenSegment[], segments: readonly DrivenSegment[]): PriceVolume {
  const sum = (of: readonly DrivenSegment[], value: (segment: DrivenSegment) => number): number =>
    of.reduce((total, segment) => total + value(segment), 0);
  const [base, compared] = [sum(matched, (each) => each.base), sum(matched, (each) => each.compared)];
  const [baseVolume, comparedVolume] = [sum(matched, (each) => each.baseVolume!), sum(matched, (each) => each.comparedVolume!)];
  const flexible = sum(matched, flexibleOf);
  const inOldMix = proportion(base, comparedVolume, baseVolume);
  const atInput = sum(matched, atInputOf);
  const rest = segments.filter((segment) => !hasVolumes(segment));
  const restBase = sum(rest, (each) => each.base);
  const unmatched = sum(rest, (each) => each.compared) - restBase;
  const parts: readonly PriceVolumePart[] = [
    { kind: 'quantity', amount: minor(inOldMix - base) },
    { kind: 'mix', amount: minor(flexible - inOldMix) },
    { kind: 'efficiency', amount: minor(atInput - flexible) },
    { kind: 'price', amount: minor(compared - atInput) },
    { kind: 'unmatched', amount: minor(unmatched) },
  ];
  const hasInput = matched.some(hasInputs);
  const isShown = ({ kind, amount }: PriceVolumePart): boolean =>
    kind === 'mix' ? matched.length > 1 : kind === 'efficiency' ? hasInput : kind === 'unmatched' ? amount !== 0 || rest.length > 0 : true;
  return {
    base: minor(base + restBase),
    flexible: minor(flexible + restBase),
    compared: minor(compared + restBase + unmatched),
    comparedVolume,
    baseVolume,
    parts: parts.filter(isShown),
    segments: segments.map((segment) => {
      const isMatched = hasVolumes(segment);
      const own = isMatched ? flexibleOf(segment) : segment.base;
      return { ...segment, volumeEffect: minor(own - segment.base), priceEffect: minor(isMatched ? segment.compared - own : 0), isMatched };
    }),
  };
}

const isMeasured = (volume: number | null | undefined): boolean => Math.round((volume ?? 0) * SCALE) > 0;
const hasVolumes = ({ comparedVolume, baseVolume }: DrivenSegment): boolean => isMeasured(comparedVolume) && isMeasured(baseVolume);
const hasInputs = ({ comparedInput, baseInput }: DrivenSegment): boolean => isMeasured(comparedInput) && isMeasured(baseInput);
/** What the base would be at the volume of the compared side. */
const flexibleOf = ({ base, comparedVolume, baseVolume }: DrivenSegment): number => proportion(base, comparedVolume!, baseVolume!);
/** What the base's rate makes of the input that was used; without inputs, the flexible budget. */
const atInputOf = (segment: DrivenSegment): number =>
  hasInputs(segment) ? proportion(segment.base, segment.comparedInput!, segment.baseInput!) : flexibleOf(segment);

/** An amount times one volume over another, exactly, rounded half away from zero. @throws AmountOverflowError past the exact range of money */
const proportion = (amount: number, volume: number, of: number): number =>
  roundFraction(fraction(BigInt(amount) * BigInt(Math.round(volume * SCALE)), BigInt(Math.round(of * SCALE))));
