import {
  ACCOUNT_CLASS_KEYS,
  COMPARISONS,
  type Pack,
  type RichText,
  type Section,
  type TextBlock,
  type TextInline,
} from '@wise-margin/core';
import { z } from 'zod';

import { filterSchema, minorSchema, periodKeySchema } from './common.ts';
import { displayChoicesSchema } from './display.ts';

/** Characters that the text of a section may have. */
export const MOST_SECTION_TEXT = 50_000;
export const MOST_SECTIONS = 200;

const viewKeySchema = z.string().min(1, 'Choose a view').max(100);
const lineKeySchema = z.string().min(1, 'Choose a line').max(300);

const inlineSchema: z.ZodType<TextInline> = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('text'),
    text: z.string().max(MOST_SECTION_TEXT, 'A text has at most 50,000 characters'),
    marks: z.array(z.object({ type: z.enum(['bold', 'italic']) })).optional(),
  }),
  z.object({ type: z.literal('hardBreak') }),
  z.object({
    type: z.literal('figure'),
    attrs: z.object({ view: viewKeySchema, line: lineKeySchema, column: z.string().min(1).max(300) }),
  }),
]);
const inlinesSchema = z.array(inlineSchema).max(5000).optional();
const blockSchema: z.ZodType<TextBlock> = z
  .lazy(() =>
    z.discriminatedUnion('type', [
      z.object({ type: z.literal('paragraph'), content: inlinesSchema }),
      z.object({ type: z.literal('heading'), attrs: z.object({ level: z.number().int().min(2).max(4) }), content: inlinesSchema }),
      z.object({
        type: z.enum(['bulletList', 'orderedList']),
        content: z.array(z.object({ type: z.literal('listItem'), content: z.array(blockSchema).max(200) })).max(1000),
      }),
      z.object({
        type: z.literal('figureTable'),
        attrs: z.object({ view: viewKeySchema, lines: z.array(lineKeySchema).min(1, 'Choose at least one line').max(40) }),
      }),
    ]),
  )
  .meta({ id: 'TextBlock' });
/** Text with headings, lists and figures that follow the ledger. */
export const richTextSchema: z.ZodType<RichText> = z
  .object({ type: z.literal('doc'), content: z.array(blockSchema).max(2000, 'A text has at most 2,000 paragraphs') })
  .meta({ id: 'RichText' });

const dateRuleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.enum(['month', 'monthBefore', 'sameMonthLastYear', 'quarterToDate', 'meeting']) }),
  z.object({ kind: z.literal('fixed'), month: periodKeySchema }),
]);
const conditionSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('always') }),
  z.object({ kind: z.literal('activity'), view: viewKeySchema, line: lineKeySchema }),
  z.object({ kind: z.literal('findings') }),
]);
const titleSchema = z.string().trim().max(200, 'At most 200 characters');
const base = {
  id: z.string().regex(/^[a-z0-9-]{1,60}$/, 'Use lowercase letters, digits and hyphens'),
  title: titleSchema.min(1, 'Enter a title'),
  date: dateRuleSchema,
  hidden: z.boolean(),
  condition: conditionSchema,
  orientation: z.enum(['auto', 'portrait', 'landscape']),
  startsPage: z.boolean(),
};
const comparisonSchema = z.enum(COMPARISONS);
export const packSectionSchema: z.ZodType<Section> = z
  .discriminatedUnion('kind', [
    z.object({ ...base, kind: z.literal('cover'), subtitle: titleSchema, preparedBy: titleSchema, logo: z.boolean() }),
    z.object({ ...base, kind: z.literal('contents') }),
    z.object({ ...base, kind: z.literal('text'), written: z.enum(['once', 'monthly']), text: richTextSchema }),
    z.object({
      ...base,
      kind: z.literal('statement'),
      view: viewKeySchema,
      comparison: z.enum([...COMPARISONS, 'asSaved']),
      filter: filterSchema,
      display: displayChoicesSchema,
      open: z.union([z.literal('all'), z.array(lineKeySchema).max(1000)]),
    }),
    z.object({ ...base, kind: z.literal('charts'), view: viewKeySchema, lines: z.array(lineKeySchema).max(24, 'At most 24 charts') }),
    z.object({
      ...base,
      kind: z.literal('bridge'),
      view: viewKeySchema,
      line: lineKeySchema,
      comparison: comparisonSchema,
      span: z.enum(['month', 'yearToDate']),
      by: z.string().min(1).max(100),
    }),
    z.object({ ...base, kind: z.literal('measures'), lines: z.array(lineKeySchema).max(12, 'At most 12 measures') }),
    z.object({ ...base, kind: z.literal('findings'), comparison: comparisonSchema, onlyCommented: z.boolean() }),
    z.object({ ...base, kind: z.literal('budgetChecks') }),
    z.object({ ...base, kind: z.literal('aging'), of: z.enum(['receivables', 'payables']), detail: z.boolean() }),
    z.object({
      ...base,
      kind: z.literal('parties'),
      of: z.enum(['customers', 'vendors']),
      count: z.number().int().min(1, 'At least one').max(500, 'At most 500'),
    }),
    z.object({ ...base, kind: z.literal('trialBalance'), compare: z.enum(['none', 'prior-year', 'budget']) }),
    z.object({ ...base, kind: z.literal('accountDetail'), accountClass: z.enum(ACCOUNT_CLASS_KEYS) }),
    z.object({ ...base, kind: z.literal('notes') }),
  ])
  .meta({ id: 'PackSection' });

const sectionsSchema = z
  .array(packSectionSchema)
  .max(MOST_SECTIONS, `A pack has at most ${MOST_SECTIONS} sections`)
  .refine((sections) => new Set(sections.map(({ id }) => id)).size === sections.length, 'Two sections have the same id');
const packParts = {
  name: z.string().trim().min(1, 'Enter a name').max(100, 'At most 100 characters'),
  note: z.string().trim().max(300, 'At most 300 characters'),
  /** one pack for each value of a dimension; null for one of the whole company */
  splitBy: z.string().max(100).nullable(),
  sections: sectionsSchema,
};
/** Who has a pack: one company, or every company that has not changed its own. */
export const packScopeSchema = z.enum(['company', 'all']);
export type PackScope = z.infer<typeof packScopeSchema>;
export const packSchema = z
  .object({
    key: z.string(),
    ...packParts,
    scope: z.enum(['company', 'all', 'builtIn']),
    /** 0 for a built-in pack that nobody changed */
    version: z.number().int(),
    /** names of the companies that changed their own */
    changedBy: z.array(z.string()),
  })
  .meta({ id: 'Pack' });
export type PackDto = z.infer<typeof packSchema>;
/** A pack without who has it. */
export type PackDesign = Omit<Pack, 'key'>;
export const newPackSchema = z.object({ ...packParts, scope: packScopeSchema });
export type NewPack = z.infer<typeof newPackSchema>;
export const packChangeSchema = z.object({
  ...packParts,
  scope: packScopeSchema,
  /** the version that was changed; another one in between is answered with 409 */
  version: z.number().int().min(0),
});
export type PackChange = z.infer<typeof packChangeSchema>;

export const PACK_STATES = ['draft', 'inReview', 'issued'] as const;
export const packStateSchema = z.enum(PACK_STATES);
export type PackState = z.infer<typeof packStateSchema>;

export const packIssueSummarySchema = z
  .object({
    id: z.number().int(),
    pack: z.string(),
    name: z.string(),
    month: periodKeySchema,
    monthName: z.string(),
    /** from 1; more than one after a reissue */
    number: z.number().int(),
    at: z.string(),
    by: z.string(),
    documents: z.array(z.object({ slice: z.string(), pages: z.number().int(), fingerprint: z.string() })),
    /** how many figures and texts differ from the issue before; null for the first */
    changes: z.number().int().nullable(),
  })
  .meta({ id: 'PackIssueSummary' });
export type PackIssueSummary = z.infer<typeof packIssueSummarySchema>;
export const packIssueSchema = packIssueSummarySchema
  .extend({
    /** the newest issue of the same month, where this one is not it */
    later: z.object({ id: z.number().int(), number: z.number().int() }).nullable(),
    /** how often the ledger was changed since it was issued */
    ledgerChanges: z.number().int(),
    list: z.array(
      z.object({
        slice: z.string(),
        title: z.string(),
        lineName: z.string(),
        heading: z.string(),
        before: z.string().nullable(),
        after: z.string().nullable(),
        difference: minorSchema.nullable(),
      }),
    ),
  })
  .meta({ id: 'PackIssue' });
export type PackIssueDto = z.infer<typeof packIssueSchema>;

const textsSchema = z.record(z.string().max(60), richTextSchema);
/** A pack in one month: its state, its texts, the day of the meeting. */
export const packMonthSchema = z
  .object({
    pack: z.string(),
    month: periodKeySchema,
    monthName: z.string(),
    state: packStateSchema,
    /** the day the meeting is planned for; null for today */
    meeting: z.string().nullable(),
    /** texts of the sections that are written each month, by section */
    texts: textsSchema,
    version: z.number().int(),
    issues: z.array(packIssueSummarySchema),
  })
  .meta({ id: 'PackMonth' });
export type PackMonthDto = z.infer<typeof packMonthSchema>;
export const packMonthChangeSchema = z.object({
  version: z.number().int().min(0),
  state: z.enum(['draft', 'inReview']).optional(),
  meeting: z.iso.date('Enter the day of the meeting as YYYY-MM-DD').nullable().optional(),
  texts: textsSchema.optional(),
});
export type PackMonthChange = z.infer<typeof packMonthChangeSchema>;

export const packListSchema = z
  .array(
    z.object({
      key: z.string(),
      name: z.string(),
      note: z.string(),
      scope: packSchema.shape.scope,
      splitBy: z.string().nullable(),
      sections: z.number().int(),
      /** of the as-of month */
      state: packStateSchema.nullable(),
      lastIssue: packIssueSummarySchema.nullable(),
    }),
  )
  .meta({ id: 'Packs' });
export type PackListDto = z.infer<typeof packListSchema>;

/** What is drawn on a page, in points from its top left. */
export const pageMarkSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('text'),
    text: z.string(),
    x: z.number(),
    /** of the baseline */
    y: z.number(),
    width: z.number(),
    size: z.number(),
    font: z.enum(['sans', 'sansBold', 'sansItalic', 'sansBoldItalic', 'serif', 'serifItalic', 'serifBold', 'serifBoldItalic']),
    color: z.string(),
  }),
  z.object({
    kind: z.literal('line'),
    x1: z.number(),
    y1: z.number(),
    x2: z.number(),
    y2: z.number(),
    weight: z.number(),
    color: z.string(),
  }),
  z.object({
    kind: z.literal('rect'),
    x: z.number(),
    y: z.number(),
    width: z.number(),
    height: z.number(),
    fill: z.string().nullable(),
    stroke: z.string().nullable(),
    weight: z.number(),
  }),
  z.object({ kind: z.literal('picture'), x: z.number(), y: z.number(), width: z.number(), height: z.number() }),
]);
export type PageMark = z.infer<typeof pageMarkSchema>;
export const packPageSchema = z.object({
  width: z.number(),
  height: z.number(),
  marks: z.array(pageMarkSchema),
  /** where each section is on the page */
  regions: z.array(z.object({ section: z.string(), top: z.number(), bottom: z.number() })),
});
export type PackPageDto = z.infer<typeof packPageSchema>;
export const packPreviewSchema = z
  .object({
    pages: z.array(packPageSchema),
    sections: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        dateWords: z.string(),
        /** the page it begins on, from 1; null when it is left out */
        page: z.number().int().nullable(),
        /** why it is left out; empty when it is not */
        omissionReason: z.string(),
        /** what the company lacks for it, what does not fit */
        notes: z.array(z.string()),
      }),
    ),
    /** values that have a document of their own; empty for a pack of the whole company */
    slices: z.array(z.string()),
    /** the picture of every logo mark, as a data address; null without one */
    logo: z.string().nullable(),
  })
  .meta({ id: 'PackPreview' });
export type PackPreviewDto = z.infer<typeof packPreviewSchema>;
export const packPreviewRequestSchema = z.object({
  ...packParts,
  month: periodKeySchema,
  meeting: z.iso.date().nullable().default(null),
  texts: textsSchema.default({}),
  state: packStateSchema.default('draft'),
  /** which value of `splitBy`; left out, the first */
  slice: z.string().max(200).optional(),
});
export type PackPreviewRequest = z.infer<typeof packPreviewRequestSchema>;

/** The month whose packs are likely to be opened. */
export const packsReadySchema = z.object({ month: periodKeySchema });

export const packChecklistSchema = z
  .object({
    items: z.array(
      z.object({
        kind: z.enum(['drafts', 'tieOuts', 'findings', 'openMonth', 'missingText', 'section']),
        words: z.string(),
        /** an address of the application, below the company; empty for a section of the pack */
        link: z.string(),
      }),
    ),
  })
  .meta({ id: 'PackChecklist' });
export type PackChecklistDto = z.infer<typeof packChecklistSchema>;
export const PACK_FORMATS = ['pdf', 'docx', 'xlsx', 'html'] as const;
export type PackFormat = (typeof PACK_FORMATS)[number];
export const sliceQuerySchema = z.object({ slice: z.string().max(200).default('') });
export const packsQuerySchema = z.object({ month: periodKeySchema.optional() });
export const packPagesSchema = z.object({ pages: z.array(packPageSchema), logo: z.string().nullable() }).meta({ id: 'PackPages' });
