import type { SuspectDto } from '@wise-margin/contract';
import { minor, toDecimalText } from '@wise-margin/core';
import { stringify } from 'csv-stringify/sync';

import { safeText } from '../formats/safe-text.ts';

export const SUSPECT_HEADINGS = ['rank', 'entry', 'account', 'party', 'amount', 'reason'] as const;

/** A suspect as a row of texts. Where a posting is missing, account and period stand in place of the entry. */
export const suspectRow = ({ rank, entry, account, period, party, amount, reasons }: SuspectDto, exponent: number): string[] => [
  String(rank),
  entry?.number ?? `${account} ${period}`,
  account,
  party,
  toDecimalText(minor(amount), exponent),
  reasons.map(({ words }) => words).join('; '),
];

export const suspectsCsv = (suspects: readonly SuspectDto[], exponent: number): string =>
  stringify([
    SUSPECT_HEADINGS,
    ...suspects.map((suspect) => suspectRow(suspect, exponent).map((text, at) => (at === 0 || at === 4 ? text : safeText(text)))),
  ]);
