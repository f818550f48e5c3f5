import type { Display } from '@wise-margin/core';
import { z } from 'zod';

const lineOfText = z.string().max(300, 'At most 300 characters');
const displayParts = {
  unit: z.enum(['cents', 'dollars', 'thousands', 'millions']),
  decimals: z.number().int().min(0).max(4).nullable(),
  negatives: z.enum(['parentheses', 'minus', 'red']),
  currencySign: z.boolean(),
  zeroLines: z.enum(['hide', 'show']),
  accountNumbers: z.boolean(),
  shares: z.boolean(),
  form: z.enum(['report', 'account']),
  foots: z.boolean(),
  logo: z.boolean(),
  title: lineOfText,
  subtitle: lineOfText,
  footnotes: z.array(z.string().max(1000, 'At most 1,000 characters')).max(20, 'At most 20 footnotes'),
};
export const displaySchema: z.ZodType<Display> = z.object(displayParts).meta({ id: 'Display' });

type Loose<Parts extends Record<string, z.ZodType>> = { [Name in keyof Parts]: z.ZodExactOptional<Parts[Name]> };
const loose = <Parts extends Record<string, z.ZodType>>(parts: Parts): Loose<Parts> =>
  Object.fromEntries(Object.entries(parts).map(([name, schema]) => [name, schema.exactOptional()])) as Loose<Parts>;
/** The choices of display that a view makes itself; the others are as usual. */
export const displayChoicesSchema = z.object(loose(displayParts));
export type DisplayChoices = z.infer<typeof displayChoicesSchema>;

const flag = z.enum(['yes', 'no']);
/** Choices of display in a query and in the address bar; what is left out is as the view has it. */
export const displayQuery = {
  unit: displayParts.unit.optional(),
  /** decimals of amounts; `auto` as the unit has them */
  decimals: z.enum(['auto', '0', '1', '2', '3', '4']).optional(),
  negatives: displayParts.negatives.optional(),
  sign: flag.optional(),
  zero: displayParts.zeroLines.optional(),
  numbers: flag.optional(),
  shares: flag.optional(),
  form: displayParts.form.optional(),
  foots: flag.optional(),
  logo: flag.optional(),
};
export type DisplayQuery = { readonly [Name in keyof typeof displayQuery]?: z.infer<(typeof displayQuery)[Name]> | undefined };
export const DISPLAY_QUERY_NAMES = Object.keys(displayQuery) as (keyof DisplayQuery)[];

const yes = (value: 'yes' | 'no' | undefined): boolean | undefined => (value === undefined ? undefined : value === 'yes');

/** A query's choices as choices of display. */
export function displayChoicesOf(query: DisplayQuery): DisplayChoices {
  const given = {
    unit: query.unit,
    decimals: query.decimals === undefined ? undefined : query.decimals === 'auto' ? null : Number(query.decimals),
    negatives: query.negatives,
    currencySign: yes(query.sign),
    zeroLines: query.zero,
    accountNumbers: yes(query.numbers),
    shares: yes(query.shares),
    form: query.form,
    foots: yes(query.foots),
    logo: yes(query.logo),
  };
  return Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as DisplayChoices;
}

/** One choice as it stands in a query. */
export function displayQueryText(value: string | number | boolean | null): string {
  return value === null ? 'auto' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}
