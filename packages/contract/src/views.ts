import { ACCOUNT_CLASS_KEYS, CASH_FLOW_CATEGORIES, type ColumnSet, type Line, type LineSet, SPAN_KINDS } from '@wise-margin/core';
import { z } from 'zod';

import { filterSchema, lineRuleSchema, minorSchema, periodKeySchema, scopeSchema } from './common.ts';
import { displayChoicesSchema } from './display.ts';
import { packedGridSchema } from './statements.ts';

const keySchema = z
  .string()
  .regex(/^[a-z_][a-z0-9_.]{0,79}$/, 'Use lowercase letters, digits and _, starting with a letter')
  .meta({ description: 'a name of its own in formulas and addresses' });
const nameSchema = z.string().trim().max(200, 'At most 200 characters');
const ratioUnitSchema = z.enum(['percent', 'points', 'times', 'days']);
const resultSchema = z.union([z.literal('amount'), ratioUnitSchema]);
const measureSchema = z.enum(['closing', 'change', 'opening', 'average']);
const expressionSchema = z.string().max(20_000, 'A formula has at most 2,000 characters');

const spanSchema = z.object({
  kind: z.enum(SPAN_KINDS),
  shift: z
    .object({
      months: z.number().int().min(-600).max(600).exactOptional(),
      quarters: z.number().int().min(-200).max(200).exactOptional(),
      years: z.number().int().min(-50).max(50).exactOptional(),
    })
    .exactOptional(),
  pinnedTo: periodKeySchema.exactOptional(),
  /** a year to date as far as there are actuals, and the rest of the year from there on */
  byActuals: z.boolean().exactOptional(),
});

const selectionParts = {
  classes: z.array(z.enum(ACCOUNT_CLASS_KEYS)).exactOptional(),
  groups: z.array(z.string().max(200)).exactOptional(),
  ranges: z.array(z.object({ from: z.string().max(40), to: z.string().max(40) })).exactOptional(),
  accounts: z.array(z.string().max(40)).exactOptional(),
  cashflows: z.array(z.enum(CASH_FLOW_CATEGORIES)).exactOptional(),
};
const selectionSchema = z.object({ ...selectionParts, except: z.object(selectionParts).exactOptional() });

const lineParts = {
  key: keySchema,
  name: nameSchema,
  polarity: z.enum(['higherIsBetter', 'lowerIsBetter', 'neutral']).exactOptional(),
  emphasis: z.enum(['bold', 'italic']).exactOptional(),
  rule: lineRuleSchema.exactOptional(),
  hidden: z.boolean().exactOptional(),
  percentOf: keySchema.exactOptional(),
  startsSide: z.boolean().exactOptional(),
};
const signSchema = z.enum(['debit', 'credit']);
const selecting = {
  ...lineParts,
  selection: selectionSchema,
  sign: signSchema.exactOptional(),
  filter: filterSchema.exactOptional(),
  yearPart: z.enum(['current', 'earlier']).exactOptional(),
  measure: measureSchema.exactOptional(),
  order: z.enum(['number', 'name', 'amount']).exactOptional(),
  accountNumbers: z.boolean().exactOptional(),
};
export const lineSchema: z.ZodType<Line> = z
  .lazy(() =>
    z.discriminatedUnion('kind', [
      z.object({ ...lineParts, kind: z.literal('section'), lines: z.array(lineSchema).max(1000) }),
      z.object({ ...selecting, kind: z.literal('accounts') }),
      z.object({ ...selecting, kind: z.literal('groups') }),
      z.object({ ...selecting, kind: z.literal('breakOut'), by: z.string().max(100) }),
      z.object({ ...lineParts, kind: z.literal('total'), of: keySchema, sign: signSchema.exactOptional() }),
      z.object({
        ...lineParts,
        kind: z.literal('earnings'),
        years: z.enum(['current', 'earlier', 'closed']),
        measure: measureSchema.exactOptional(),
      }),
      z.object({ ...lineParts, kind: z.literal('formula'), expression: expressionSchema, result: resultSchema }),
      z.object({
        ...lineParts,
        kind: z.literal('statistic'),
        series: z.string().max(100),
        over: z.enum(['sum', 'average', 'last']),
        filter: filterSchema.exactOptional(),
      }),
      z.object({ ...lineParts, kind: z.literal('spacer') }),
    ]),
  )
  .meta({ id: 'StatementLine' });
export const lineSetSchema: z.ZodType<LineSet> = z
  .object({ key: keySchema, name: nameSchema, percentBase: keySchema.exactOptional(), lines: z.array(lineSchema).max(1000) })
  .meta({ id: 'LineSet' });

const columnParts = {
  key: keySchema,
  heading: nameSchema,
  hidden: z.boolean().exactOptional(),
  ifFilled: z.boolean().exactOptional(),
  width: z.number().int().min(4).max(40).exactOptional(),
  decimals: z.number().int().min(0).max(4).exactOptional(),
};
const columnKeySchema = z.string().max(200);
export const columnSchema = z.discriminatedUnion('kind', [
  z.object({
    ...columnParts,
    kind: z.literal('amount'),
    scenario: z.union([
      z.enum(['actual', 'budget', 'projection']),
      z.templateLiteral(['budget:', z.number()]),
      z.templateLiteral(['statistic:', z.string()]),
    ]),
    span: spanSchema,
    measure: measureSchema.exactOptional(),
    filter: filterSchema.exactOptional(),
  }),
  z.object({
    ...columnParts,
    kind: z.literal('difference'),
    compared: columnKeySchema,
    base: columnKeySchema,
    bar: z.boolean().exactOptional(),
  }),
  z.object({ ...columnParts, kind: z.literal('percentDifference'), compared: columnKeySchema, base: columnKeySchema }),
  z.object({
    ...columnParts,
    kind: z.literal('share'),
    of: columnKeySchema,
    baseLine: keySchema.exactOptional(),
    ownGroup: z.boolean().exactOptional(),
    ownLine: z.boolean().exactOptional(),
    baseColumn: columnKeySchema.exactOptional(),
  }),
  z.object({ ...columnParts, kind: z.literal('formula'), expression: expressionSchema, result: resultSchema }),
  z.object({ ...columnParts, kind: z.literal('runningTotal'), of: columnKeySchema }),
  z.object({ ...columnParts, kind: z.literal('benchmark') }),
]);
const lastSchema = z.number().int().min(1, 'At least one').max(400, 'At most 400');
const repeatSchema = z.union([
  z.object({ over: z.literal('months'), within: spanSchema }),
  z.object({ over: z.enum(['months', 'quarters', 'years']), last: lastSchema }),
  z.object({
    over: z.enum(['months', 'quarters', 'years']),
    chosen: z.array(periodKeySchema).min(1, 'Choose at least one').max(240, 'At most 240'),
  }),
  z.object({ over: z.literal('dimension'), dimension: z.string().max(100), values: z.array(z.string().max(200)).exactOptional() }),
]);
export const columnSetSchema: z.ZodType<ColumnSet> = z
  .object({
    key: keySchema,
    name: nameSchema,
    blocks: z
      .array(
        z.object({
          key: keySchema,
          heading: nameSchema,
          span: spanSchema,
          columns: z.array(columnSchema).max(100),
          hidden: z.boolean().exactOptional(),
          repeat: repeatSchema.exactOptional(),
          total: z.object({ heading: nameSchema }).exactOptional(),
        }),
      )
      .max(60),
  })
  .meta({ id: 'ColumnSet' });

/** What a view keeps to when it is run, until other choices are made. */
export const runChoicesSchema = z.object({
  filter: filterSchema.exactOptional(),
  accounts: z.string().max(2000, 'At most 2,000 characters').exactOptional(),
  drafts: z.boolean().exactOptional(),
});
export type RunChoices = z.infer<typeof runChoicesSchema>;

/** A statement that is not saved: its lines and columns travel with the request. */
export const previewRequestSchema = z.object({
  name: nameSchema.default('Preview'),
  lineSet: lineSetSchema,
  columnSet: columnSetSchema,
  asOf: periodKeySchema,
  budget: z.number().int().optional(),
  display: displayChoicesSchema.default({}),
  choices: runChoicesSchema.default({}),
  /** keys of the lines whose parts are wanted; left out, all of them */
  open: z.array(z.string().max(300)).max(2000).optional(),
  /** whether the coverage of the chart is asked for too */
  withCoverage: z.boolean().default(true),
});

/** What a view is made of, to be read in an editor. */
export const viewSchema = z
  .object({
    key: z.string(),
    name: z.string(),
    folder: z.string(),
    note: z.string(),
    lineSet: lineSetSchema,
    columnSet: columnSetSchema,
    /** key of the view whose lines these are; null for lines of its own */
    linesOf: z.string().nullable(),
    /** key of the view whose columns these are; null for columns of its own */
    columnsOf: z.string().nullable(),
    /** names of the views, of this company or of all, that take their lines or columns from this one */
    usedBy: z.object({ lines: z.array(z.string()), columns: z.array(z.string()) }),
    display: displayChoicesSchema,
    choices: runChoicesSchema,
    isShipped: z.boolean(),
    /** whom it is kept for; a company's own version of a view for all companies is the company's */
    scope: scopeSchema,
    /** whether it is a company's own version of a view for all companies */
    isOwnVersion: z.boolean(),
    /** names of the companies with a version of their own */
    changedBy: z.array(z.string()),
    starred: z.boolean(),
    shared: z.boolean(),
    owner: z.string(),
    /** goes up with each saving; 0 for a shipped view */
    version: z.number().int(),
    savedAt: z.string().nullable(),
  })
  .meta({ id: 'View' });
export type ViewDto = z.infer<typeof viewSchema>;

const viewParts = {
  name: nameSchema.min(1, 'Enter a view name'),
  folder: nameSchema.min(1, 'Enter a folder'),
  note: nameSchema,
  lineSet: lineSetSchema,
  columnSet: columnSetSchema,
  linesOf: z.string().max(100).nullable().meta({ description: 'key of the view whose lines it takes, whatever lines are sent with it' }),
  columnsOf: z
    .string()
    .max(100)
    .nullable()
    .meta({ description: 'key of the view whose columns it takes, whatever columns are sent with it' }),
  display: displayChoicesSchema,
  choices: runChoicesSchema,
  shared: z.boolean(),
};
export const newViewSchema = z.object({
  ...viewParts,
  folder: viewParts.folder.default('My views'),
  note: viewParts.note.default(''),
  linesOf: viewParts.linesOf.default(null),
  columnsOf: viewParts.columnsOf.default(null),
  display: viewParts.display.default({}),
  choices: viewParts.choices.default({}),
  shared: viewParts.shared.default(false),
  scope: scopeSchema.default('company'),
});
export type NewView = z.input<typeof newViewSchema>;
/** What is left out stays as it is. `version` is the one that was opened: saving over another one is refused. */
export const viewChangeSchema = z.object(viewParts).partial().extend({
  version: z.number().int(),
  starred: z.boolean().optional(),
  /** whom the change is for; left out, whom the view is kept for now */
  scope: scopeSchema.optional(),
});

const namedAccount = { number: z.string(), name: z.string() };
/** How the accounts of the chart stand in the lines of a statement. */
export const coverageSchema = z
  .object({
    /** how many accounts with a balance are on a line */
    held: z.number().int(),
    inNone: z.array(z.object(namedAccount)),
    inSeveral: z.array(z.object({ ...namedAccount, lines: z.array(z.string()) })),
    /** for lines of income: the last shown amount line of the year to date beside the ledger's net income */
    netIncome: z.object({ line: z.string(), shown: minorSchema, ledger: minorSchema, agrees: z.boolean() }).nullable(),
  })
  .meta({ id: 'Coverage' });
export type CoverageDto = z.infer<typeof coverageSchema>;
export const previewSchema = z.object({ grid: packedGridSchema, coverage: coverageSchema.nullable() }).meta({ id: 'Preview' });
export type PreviewDto = z.infer<typeof previewSchema>;
