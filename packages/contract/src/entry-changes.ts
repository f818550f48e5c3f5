import { ENTRY_KINDS, ENTRY_STATES } from '@wise-margin/core';
import { z } from 'zod';

import { minorSchema } from './common.ts';

const reasonSchema = z
  .string()
  .trim()
  .min(3, 'Enter a reason: what was wrong, or who asked for the change')
  .max(500, 'At most 500 characters');
const nameSchema = z.string().trim().max(200, 'At most 200 characters');
const dateTextSchema = z.string().max(40);

export const lineContentSchema = z.object({
  account: z.string().trim().max(200),
  /** debit positive */
  amount: minorSchema,
  dimensions: z.record(z.string().max(100), nameSchema),
  memo: z.string().trim().max(2000, 'At most 2,000 characters'),
  party: nameSchema,
  document: nameSchema,
  due: dateTextSchema.nullable(),
});
/** Everything of an entry that can be corrected. */
export const entryContentSchema = z.object({
  date: dateTextSchema,
  source: nameSchema,
  kind: z.enum(ENTRY_KINDS),
  state: z.enum(ENTRY_STATES),
  lines: z.array(lineContentSchema).max(2000, 'At most 2,000 lines'),
});
export const correctionSchema = z.object({
  /** the version that was opened: one saved since is not overwritten */
  version: z.number().int(),
  content: entryContentSchema,
  /** where the month of the entry is closed: the day of the correcting entry that is posted instead */
  postIn: dateTextSchema.exactOptional(),
  reason: reasonSchema,
});
export const correctionPreviewSchema = correctionSchema.omit({ reason: true });

/** An entry that takes another back: dated like it, which voids it, or on a later day. */
export const reversalSchema = z.object({
  /** the version that was opened: one saved since is not reversed unseen */
  version: z.number().int(),
  date: dateTextSchema,
  /** where the month of that day is closed: the open day it is posted on instead */
  postIn: dateTextSchema.exactOptional(),
  reason: reasonSchema,
});
export const reversalPreviewSchema = reversalSchema.omit({ reason: true });
export type Reversal = z.infer<typeof reversalSchema>;

/** An entry made by a person; `reverseOn` is a later day on which it is taken back. */
export const newEntrySchema = z.object({
  content: entryContentSchema,
  reverseOn: dateTextSchema.nullable().default(null),
  reason: reasonSchema,
});
export const newEntryPreviewSchema = newEntrySchema.omit({ reason: true });
export type NewEntry = z.infer<typeof newEntrySchema>;
export const entryMadeSchema = z
  .object({ entries: z.array(z.object({ id: z.number().int(), number: z.string() })) })
  .meta({ id: 'EntryMade' });
export type EntryMadeDto = z.infer<typeof entryMadeSchema>;
export const postDraftSchema = z.object({ version: z.number().int() });

/** An entry to be made again: by hand, or every month. */
export const entryTemplateSchema = z
  .object({
    id: z.number().int(),
    name: z.string(),
    content: entryContentSchema,
    /** the date of the next one of a monthly entry; null for one made by hand only */
    nextDate: z.string().nullable(),
  })
  .meta({ id: 'EntryTemplate' });
export const entryTemplatesSchema = z.array(entryTemplateSchema);
export type EntryTemplateDto = z.infer<typeof entryTemplateSchema>;
export const saveTemplateSchema = z.object({
  name: z.string().trim().min(1, 'Enter a name for the template').max(100, 'At most 100 characters'),
  content: entryContentSchema,
  nextDate: dateTextSchema.nullable().default(null),
});
export type SaveTemplate = z.infer<typeof saveTemplateSchema>;

/** Lines that move to another account, to values of dimensions, or with their whole entries to another date. */
const movedLinesSchema = z.object({
  lines: z.array(z.number().int()).min(1, 'Select at least one line').max(200_000, 'At most 200,000 lines at once'),
  account: z.string().trim().max(200).exactOptional(),
  dimensions: z.record(z.string().max(100), nameSchema).exactOptional(),
  date: dateTextSchema.exactOptional(),
  /** where months of the lines are closed: the day of the entry that moves their sums instead */
  postIn: dateTextSchema.exactOptional(),
});
export const reclassificationSchema = movedLinesSchema.extend({ reason: reasonSchema });
export const reclassificationPreviewSchema = movedLinesSchema;
export type ReclassificationRequest = z.infer<typeof movedLinesSchema>;
export const undoEntryChangeSchema = z.object({ reason: reasonSchema });

/** What a change of entries does to statements, before it is made. */
export const entryEffectSchema = z
  .object({
    entries: z.number().int(),
    lines: z.number().int(),
    /** in the shown sign of each account or line */
    accounts: z.array(z.object({ number: z.string(), name: z.string(), month: z.string(), change: minorSchema })),
    /** closed periods it would change, and the first open day after them, on which a correcting entry can be posted instead */
    closed: z.object({ periods: z.array(z.string()), postIn: z.string().nullable() }).nullable(),
    statementLines: z.array(z.object({ statement: z.string(), line: z.string(), month: z.string(), change: minorSchema })),
  })
  .meta({ id: 'EntryEffect' });
export type EntryEffectDto = z.infer<typeof entryEffectSchema>;

/** A change of entries, made as one and undone as one. */
export const entryChangeSchema = z
  .object({
    id: z.number().int(),
    at: z.string(),
    actor: z.string(),
    kind: z.enum(['correct', 'reclassify', 'undo', 'create', 'post', 'discard']),
    reason: z.string(),
    entries: z.number().int(),
    /** a later change that undid it */
    undoneBy: z.number().int().nullable(),
    /** what was different before, for the entry it is asked for; empty for others */
    differences: z.array(z.object({ line: z.number().int(), field: z.string(), from: z.string(), to: z.string() })),
  })
  .meta({ id: 'EntryChange' });
export type EntryChangeDto = z.infer<typeof entryChangeSchema>;
export const entryHistorySchema = z.array(entryChangeSchema);
