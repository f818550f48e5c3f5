import type { TieOutDto } from '@wise-margin/contract';
import { minor } from '@wise-margin/core';

type Side = { readonly words: string; readonly amount: number };

/** Two figures set against one another. @param of.where in words, where they do not agree */
export function pair(of: {
  readonly key: string;
  readonly group: TieOutDto['group'];
  readonly name: string;
  readonly first: Side;
  readonly second: Side;
  readonly where?: string;
  readonly link: string;
  /** where more must hold than that the two amounts are equal */
  readonly holds?: boolean;
}): TieOutDto {
  const { key, group, name, first, second, where = '', link, holds = true } = of;
  const difference = first.amount - second.amount || 0;
  const agrees = difference === 0 && holds;
  return {
    key,
    group,
    name,
    first: { words: first.words, amount: minor(first.amount) },
    second: { words: second.words, amount: minor(second.amount) },
    difference: minor(difference),
    agrees,
    where: agrees ? '' : where,
    link,
  };
}

/** The first few of some names, and how many more there are. */
export function someOf(names: readonly string[], most = 5): string {
  const listed = names.slice(0, most).join(', ');
  return names.length > most ? `${listed} and ${(names.length - most).toLocaleString('en-US')} more` : listed;
}
