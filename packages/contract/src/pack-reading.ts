import { COMPARISONS } from '@wise-margin/core';
import { z } from 'zod';

import { filterSchema, minorSchema, periodKeySchema } from './common.ts';
import { displayChoicesSchema } from './display.ts';
import { pageMarkSchema } from './packs.ts';

const readingCellSchema = z.object({
  text: z.string(),
  isFigure: z.boolean(),
  ruleAbove: z.boolean(),
  ruleBelow: z.boolean(),
  /** F or U after a variance; null without one */
  favor: z.enum(['F', 'U']).nullable(),
  /** why there is no meaningful figure; empty otherwise */
  reason: z.string(),
});
export type ReadingCell = z.infer<typeof readingCellSchema>;
const readingRowSchema = z.object({
  /** key of the line; null where there is none */
  line: z.string().nullable(),
  name: z.string(),
  depth: z.number().int(),
  emphasis: z.enum(['', 'bold', 'italic']),
  cells: z.array(readingCellSchema),
});
const readingBlockSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('paragraph'),
    style: z.enum(['body', 'heading', 'subheading', 'item', 'soft']),
    /** before an item of a list; empty without one */
    label: z.string(),
    depth: z.number().int(),
    runs: z.array(z.object({ text: z.string(), bold: z.boolean(), italic: z.boolean() })),
  }),
  z.object({
    kind: z.literal('table'),
    caption: z.array(z.string()),
    /** headings over several columns; empty without them */
    groups: z.array(z.object({ heading: z.string(), columns: z.number().int() })),
    /** of the names, then of each column */
    headings: z.array(z.string()),
    /** keys of the columns */
    columns: z.array(z.string()),
    rows: z.array(readingRowSchema),
    notes: z.array(z.string()),
  }),
  z.object({
    kind: z.literal('charts'),
    isBridge: z.boolean(),
    /** in points, with what each shows in words */
    drawings: z.array(z.object({ width: z.number(), height: z.number(), marks: z.array(pageMarkSchema), alt: z.string() })),
    legend: z.string(),
  }),
]);
export type ReadingBlock = z.infer<typeof readingBlockSchema>;
/** Where the figures of a statement section come from. */
export const readingSourceSchema = z.object({
  view: z.string(),
  asOf: periodKeySchema,
  filter: filterSchema,
  comparison: z.enum(['asSaved', ...COMPARISONS]),
  isQuarter: z.boolean(),
  display: displayChoicesSchema,
});
export type ReadingSource = z.infer<typeof readingSourceSchema>;
const readingSectionSchema = z.object({
  id: z.string(),
  kind: z.enum(['cover', 'contents', 'body']),
  title: z.string(),
  dateWords: z.string(),
  /** under the title of a cover */
  lines: z.array(z.string()),
  blocks: z.array(readingBlockSchema),
  notes: z.array(z.string()),
  /** whether figures of its first table can be followed to their accounts */
  drillsDown: z.boolean(),
});
export type ReadingSection = z.infer<typeof readingSectionSchema>;
/** A pack as it is read on a screen: texts, tables and charts, section by section. */
export const packReadingSchema = z.object({
  title: z.string(),
  company: z.string(),
  /** the month, after the value a pack is split by */
  monthWords: z.string(),
  stateWords: z.string(),
  fingerprint: z.string(),
  /** as a data address; null without one */
  logo: z.string().nullable(),
  sections: z.array(readingSectionSchema),
});
export type PackReading = z.infer<typeof packReadingSchema>;

/** A link to an issued pack for people without access to the books. */
export const newPackShareSchema = z.object({
  /** the last day it opens */
  expires: z.iso.date('Enter the last day as YYYY-MM-DD'),
  /** whether figures can be followed to their accounts */
  drillDown: z.boolean(),
});
export type NewPackShare = z.infer<typeof newPackShareSchema>;
export const packShareSchema = z.object({
  id: z.number().int(),
  expires: z.string(),
  drillDown: z.boolean(),
  createdAt: z.string(),
  createdBy: z.string(),
  revokedAt: z.string().nullable(),
  /** how often it was opened, and when last */
  opens: z.number().int(),
  lastOpenedAt: z.string().nullable(),
});
export const packSharesSchema = z.array(packShareSchema).meta({ id: 'PackShares' });
export type PackShareDto = z.infer<typeof packShareSchema>;
/** The address is told once: only a digest of it is stored. */
export const createdPackShareSchema = packShareSchema.extend({ link: z.string() }).meta({ id: 'CreatedPackShare' });
export type CreatedPackShare = z.infer<typeof createdPackShareSchema>;

export const sharedPackSchema = z
  .object({
    company: z.string(),
    name: z.string(),
    monthName: z.string(),
    /** the last day the link opens */
    expires: z.string(),
    drillDown: z.boolean(),
    /** values of a pack that is split; one empty one otherwise */
    slices: z.array(z.string()),
    slice: z.string(),
    reading: packReadingSchema,
  })
  .meta({ id: 'SharedPack' });
export type SharedPackDto = z.infer<typeof sharedPackSchema>;
export const sharedFigureQuerySchema = z.object({
  slice: z.string().max(200).default(''),
  section: z.string().max(100),
  line: z.string().max(300),
  column: z.string().max(300),
});
export const sharedFigureSchema = z
  .object({
    line: z.string(),
    heading: z.string(),
    /** as the pack shows it */
    text: z.string(),
    exponent: z.number().int(),
    accounts: z.array(z.object({ name: z.string(), amount: minorSchema })),
    sum: minorSchema,
    /** whether the accounts still add up to what was issued: the ledger may have been corrected since */
    agrees: z.boolean(),
  })
  .meta({ id: 'SharedFigure' });
export type SharedFigureDto = z.infer<typeof sharedFigureSchema>;
