import type { FindingStatus } from '@wise-margin/contract';
import type { Comparison, PriceVolumePart } from '@wise-margin/core';

const STATUSES: Readonly<Record<FindingStatus, string>> = {
  open: 'Open',
  explained: 'Explained',
  needsCorrection: 'Needs correction',
  corrected: 'Corrected',
  accepted: 'Accepted',
};
export const findingStatusWords = (status: FindingStatus): string => STATUSES[status];

const COMPARISON_NAMES: Readonly<Record<Comparison, string>> = {
  budget: 'Budget',
  priorYear: 'Prior year',
  priorMonth: 'Prior month',
  projection: 'Projection against budget',
};
export const comparisonWords = (comparison: Comparison): string => COMPARISON_NAMES[comparison];

const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth'];
/** `third month in a row`; empty for the first. */
export const monthsInRowWords = (months: number): string => (months < 2 ? '' : `${ORDINALS[months] ?? `${months}th`} month in a row`);

const PARTS: Readonly<Record<PriceVolumePart['kind'], string>> = {
  quantity: 'Volume',
  mix: 'Mix',
  efficiency: 'Efficiency',
  price: 'Price or rate',
  unmatched: 'Without a volume to compare',
};
/** A part of a difference by its volumes. */
export const priceVolumeWords = (kind: PriceVolumePart['kind']): string => PARTS[kind];
