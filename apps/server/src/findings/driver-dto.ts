import type { PriceVolumeDto, VarianceExplanationDto } from '@wise-margin/contract';
import {
  drivenSegments,
  type FigureSides,
  minor,
  type PriceVolume,
  priceVolume,
  shortPeriodName,
  type StatementGrid,
  UNDRIVEN,
} from '@wise-margin/core';
import { priceVolumeWords } from '@wise-margin/presentation';

import type { Books } from '../companies/index.ts';
import type { LineDrivers } from './line-drivers.ts';

/** A difference by the volumes of its line's driver, and what there is to choose from. */
export async function driverDto(
  lineDrivers: LineDrivers,
  {
    difference: { books, grid, line },
    sides,
    budget,
  }: {
    readonly difference: { readonly books: Books; readonly grid: StatementGrid; readonly line: number };
    readonly sides: FigureSides;
    readonly budget: number | undefined;
  },
): Promise<VarianceExplanationDto['driver']> {
  const chosen = await lineDrivers.of(books.id, grid.plan.lines[line]!.key);
  const answer = { chosen, ...(await lineDrivers.choices(books)) };
  if (chosen === null) return { ...answer, split: null, missing: '' };
  const driven = drivenSegments(grid, sides, await lineDrivers.driver(books, chosen, budget));
  if (driven === null)
    return {
      ...answer,
      split: null,
      missing: 'Only a difference of one scenario from another, over months of the same number, has volumes.',
    };
  const split = priceVolume(driven.segments);
  const gaps = driven.gaps.map((month) => shortPeriodName(books.calendar, month));
  const missing =
    gaps.length === 0
      ? split === null
        ? 'There is no volume above zero on both sides, or the two are too far apart to be compared.'
        : ''
      : `No volume on one of the sides in ${new Intl.ListFormat('en-US').format(gaps)}${split === null ? '' : '; those months are left apart'}.`;
  return { ...answer, split: split && splitDto(split), missing };
}

function splitDto({ parts, segments, ...figures }: PriceVolume): PriceVolumeDto {
  return {
    ...figures,
    parts: parts.map(({ kind, amount }) => ({ kind, name: priceVolumeWords(kind), amount })),
    segments: segments.map(({ key, baseVolume, comparedVolume, volumeEffect, priceEffect, compared, base, isMatched }) => ({
      name: key === UNDRIVEN ? 'Without a volume' : key,
      baseVolume,
      comparedVolume,
      volumeEffect,
      priceEffect,
      difference: minor(compared - base),
      isMatched,
    })),
  };
}
