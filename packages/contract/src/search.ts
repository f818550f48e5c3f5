import { z } from 'zod';

import { minorSchema, periodKeySchema } from './common.ts';

export const SEARCH_KINDS = ['month', 'view', 'account', 'budget', 'pack', 'finding', 'party', 'entry', 'page', 'command'] as const;
/** Something that a search found. */
export const searchHitSchema = z
  .object({
    kind: z.enum(SEARCH_KINDS),
    /** different for each hit of a kind */
    key: z.string(),
    name: z.string(),
    /** what tells it from others, such as the date and the customer of an entry; may be empty */
    detail: z.string(),
    /** in minor units; null where there is none */
    amount: minorSchema.nullable(),
    /** an address of the application, below the company; of a month, the month */
    link: z.string(),
  })
  .meta({ id: 'SearchHit' });
export type SearchHitDto = z.infer<typeof searchHitSchema>;
export const searchQuerySchema = z.object({
  q: z.string().max(200, 'Search for at most 200 characters').default(''),
  /** the month in view, whose findings are searched */
  asOf: periodKeySchema.optional(),
});
export const searchSchema = z
  .object({
    hits: z.array(searchHitSchema),
    /** where all entries that were found are listed; null when every one of them is among the hits */
    moreEntries: z.string().nullable(),
    /** entries not searched yet because the index is still being built */
    pending: z.number().int(),
  })
  .meta({ id: 'Search' });
export type SearchDto = z.infer<typeof searchSchema>;
