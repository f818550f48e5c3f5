import { PERIOD_STATES } from '@wise-margin/core';
import { z } from 'zod';

import { filterQuerySchema, filterSchema, lineRuleSchema, minorSchema, periodKeySchema, scopeSchema } from './common.ts';
import { displayQuery, displaySchema } from './display.ts';

export const favorSchema = z.enum(['F', 'U']);
const cellShapes = {
  amount: z.object({ kind: z.literal('amount'), favor: favorSchema.optional() }),
  quantity: z.object({ kind: z.literal('quantity'), favor: favorSchema.optional() }),
  ratio: z.object({ kind: z.literal('ratio'), unit: z.enum(['percent', 'points', 'times', 'days']), favor: favorSchema.optional() }),
  notMeaningful: z.object({ kind: z.literal('notMeaningful'), reason: z.string() }),
  blank: z.object({ kind: z.literal('blank'), reason: z.string() }),
};
/** What a cell is, apart from its number. */
export const cellShapeSchema = z
  .discriminatedUnion('kind', [cellShapes.amount, cellShapes.quantity, cellShapes.ratio, cellShapes.notMeaningful, cellShapes.blank])
  .meta({ id: 'CellShape' });
export type CellShape = z.infer<typeof cellShapeSchema>;
export const cellSchema = z
  .discriminatedUnion('kind', [
    cellShapes.amount.extend({ value: minorSchema }),
    cellShapes.quantity.extend({ value: z.number() }),
    cellShapes.ratio.extend({ value: z.number() }),
    cellShapes.notMeaningful,
    cellShapes.blank,
  ])
  .meta({ id: 'Cell' });
export type CellDto = z.infer<typeof cellSchema>;

export const statementQuerySchema = z.object({
  asOf: periodKeySchema,
  /** a budget's number; left out: the approved one of each year */
  budget: z.coerce.number().int().optional(),
  /** values by dimension; an empty list takes every value, whatever the view keeps to */
  filter: filterQuerySchema,
  /** accounts to keep to, as typed: `4000-4999, 6100`; `all` takes every one, whatever the view keeps to */
  accounts: z.string().max(2000, 'At most 2,000 characters').optional(),
  /** draft entries included too */
  drafts: z.enum(['yes', 'no']).optional(),
  ...displayQuery,
});
export type StatementQuery = z.infer<typeof statementQuerySchema>;

export const gridLineSchema = z.object({
  key: z.string(),
  name: z.string(),
  kind: z.enum(['section', 'accounts', 'account', 'slice', 'total', 'earnings', 'formula', 'statistic', 'spacer']),
  depth: z.number().int(),
  parent: z.string().nullable(),
  account: z.string().nullable(),
  /** in account form, the second side begins here */
  startsSide: z.boolean(),
  emphasis: z.enum(['bold', 'italic']).nullable(),
  rule: lineRuleSchema.nullable(),
  /** a formula in words, where the line has one to tell */
  words: z.string().nullable(),
  /** it has parts, whether or not they were asked for */
  opens: z.boolean(),
  /** every figure of the line is zero or blank */
  isZero: z.boolean(),
  /** what its amounts are positive in: 1 for debits, -1 for credits */
  sign: z.union([z.literal(1), z.literal(-1)]),
  /** an account of which the line shows a slice alone, or not its net change */
  isPart: z.boolean(),
});
export const gridColumnSchema = z.object({
  key: z.string(),
  block: z.number().int(),
  heading: z.string(),
  kind: z.enum(['amount', 'difference', 'percentDifference', 'share', 'formula', 'runningTotal', 'benchmark', 'faulty']),
  /** how its figures are drawn; null on derived columns */
  scenario: z.enum(['actual', 'prior', 'budget', 'projection']).nullable(),
  words: z.string(),
  bar: z.boolean(),
  isPinned: z.boolean(),
  /** of percentages, ratios and quantities */
  decimals: z.number().int().nullable(),
  /** in characters of a figure */
  width: z.number().int().nullable(),
});
export const packedGridSchema = z
  .object({
    asOf: periodKeySchema,
    asOfWords: z.string(),
    budgetWords: z.string(),
    view: z.object({ key: z.string(), name: z.string(), note: z.string(), openAll: z.boolean() }),
    /** the line that shares are taken of; null when there is none */
    percentBase: z.string().nullable(),
    filter: filterSchema,
    accounts: z.string(),
    drafts: z.boolean(),
    display: displaySchema,
    /** title, subtitle and footnotes with their fields filled in */
    head: z.object({ title: z.string(), subtitle: z.string(), footnotes: z.array(z.string()) }),
    /** what of the statement cannot be shown as it was asked for */
    issues: z.array(z.object({ place: z.string(), message: z.string(), fix: z.string() })),
    blocks: z.array(z.object({ key: z.string(), heading: z.string(), isTotal: z.boolean() })),
    columns: z.array(gridColumnSchema),
    lines: z.array(gridLineSchema),
    /** the kinds of cells there are */
    shapes: z.array(cellShapeSchema),
    /** by line: for each column the position in `shapes`, and the number (0 where there is none) */
    rows: z.array(z.object({ shapes: z.array(z.number().int().nonnegative()), values: z.array(z.number()) })),
  })
  .meta({ id: 'StatementGrid' });
/** A statement as it crosses the wire. */
export type PackedGrid = z.infer<typeof packedGridSchema>;
/** A statement with its cells, by line, then column. */
export type GridDto = Omit<PackedGrid, 'shapes' | 'rows'> & { readonly cells: readonly (readonly CellDto[])[] };

export const stripSchema = z
  .object({
    months: z.array(
      z.object({
        period: periodKeySchema,
        year: z.number().int(),
        number: z.number().int(),
        letter: z.string(),
        name: z.string(),
        actual: minorSchema.nullable(),
        budget: minorSchema.nullable(),
        /** whether it takes entries */
        state: z.enum(PERIOD_STATES),
      }),
    ),
  })
  .meta({ id: 'PeriodStrip' });
export type StripDto = z.infer<typeof stripSchema>;

/** What of a statement is exported: the lines in view. */
export const exportQuerySchema = statementQuerySchema.extend({
  /** keys of the opened lines by comma, or `all` */
  open: z.string().max(8000).default(''),
});
export type ExportQuery = z.infer<typeof exportQuerySchema>;

export const drillDownQuerySchema = statementQuerySchema.extend({ line: z.string().max(300), column: z.string().max(300) });
export const drillDownSchema = z
  .object({
    line: z.object({ key: z.string(), name: z.string() }),
    column: z.object({ key: z.string(), heading: z.string(), words: z.string(), block: z.string() }),
    cell: cellSchema,
    /** how the figure comes about, in a sentence */
    sentence: z.string(),
    parts: z.array(
      z.object({ role: z.string(), line: z.string(), column: z.string(), name: z.string(), words: z.string(), cell: cellSchema }),
    ),
    accounts: z.array(
      z.object({
        number: z.string(),
        name: z.string(),
        amount: minorSchema,
        /** where its entries are, when the scenario has entries */
        entries: z
          .object({ from: periodKeySchema, to: periodKeySchema, filter: filterSchema, opening: z.boolean(), drafts: z.boolean() })
          .nullable(),
        /** what the budget says of it, when it comes from a budget */
        basis: z.array(z.string()),
        budgetId: z.number().int().nullable(),
        /** an account of the balance sheet: in a budget its rule stands with cash, not in the month grid */
        isBalanceSheet: z.boolean(),
      }),
    ),
    accountsSum: minorSchema.nullable(),
    /** what the figure, or both sides of a difference, can be laid out by: `account`, `month`, dimensions; empty for none */
    groups: z.array(z.string()),
  })
  .meta({ id: 'DrillDown' });
export type DrillDownDto = z.infer<typeof drillDownSchema>;

export const figureGroupsQuerySchema = drillDownQuerySchema.extend({
  /** `account`, `month`, or a dimension; `party` and `source` too */
  by: z.string().min(1).max(100),
});
/** A figure laid out by account, month or dimension; a difference with both of its sides. */
export const figureGroupsSchema = z
  .object({
    by: z.string(),
    /** the two sides of a difference, in words; null for a figure of its own */
    sides: z.object({ compared: z.string(), base: z.string() }).nullable(),
    rows: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        compared: minorSchema.nullable(),
        base: minorSchema.nullable(),
        amount: minorSchema,
        /** where its entries are, when the ledger has them */
        entries: z
          .object({
            /** whose entries they are; left out for the company that was asked */
            company: z.number().int().optional(),
            accounts: z.string(),
            from: periodKeySchema,
            to: periodKeySchema,
            filter: filterSchema,
          })
          .nullable(),
      }),
    ),
    /** of all rows */
    sum: minorSchema,
    figure: minorSchema,
  })
  .meta({ id: 'FigureGroups' });
export type FigureGroupsDto = z.infer<typeof figureGroupsSchema>;

/** What a person last chose for a view, as it stands in the address bar. */
export const choicesSchema = z
  .record(z.string().max(100), z.string().max(8000))
  .refine((choices) => Object.keys(choices).length <= 40, 'At most 40 choices')
  .meta({ id: 'Choices' });
export const viewListSchema = z
  .array(
    z.object({
      key: z.string(),
      name: z.string(),
      folder: z.string(),
      note: z.string(),
      isShipped: z.boolean(),
      /** whom it is kept for; built-in ones for all */
      scope: scopeSchema,
      shared: z.boolean(),
      owner: z.string(),
      starred: z.boolean(),
      /** the last choices of the person who asks, by their names in the address */
      choices: choicesSchema,
    }),
  )
  .meta({ id: 'Views' });
export type ViewListDto = z.infer<typeof viewListSchema>;

export const lineTrendQuerySchema = statementQuerySchema.extend({
  /** keys of the lines by comma; left out, the lines in view that hold figures */
  lines: z.string().max(8000).optional(),
});
const lineTrendValues = z.array(z.number().nullable());
/** A line by month of the fiscal year: amounts in minor units, ratios as fractions, quantities as they are. */
export const lineTrendSchema = z
  .object({
    line: z.object({ key: z.string(), name: z.string() }),
    /** what the values are */
    kind: z.enum(['amount', 'quantity', 'percent', 'points', 'times', 'days']),
    months: z.array(z.object({ period: periodKeySchema, name: z.string() })),
    actual: lineTrendValues,
    budget: lineTrendValues,
    prior: lineTrendValues,
    /** the same with the first month of actuals as 100; null where that is zero */
    index: z.object({ base: periodKeySchema, actual: lineTrendValues, budget: lineTrendValues, prior: lineTrendValues }).nullable(),
  })
  .meta({ id: 'LineTrend' });
export type LineTrendDto = z.infer<typeof lineTrendSchema>;
export const lineTrendsSchema = z.array(lineTrendSchema).meta({ id: 'LineTrends' });
