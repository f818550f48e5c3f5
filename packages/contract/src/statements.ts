import { z } from 'zod';
import { filterQuerySchema, filterSchema, minorSchema, periodKeySchema } from './common.ts';

export const favorSchema = z.enum(['F', 'U']);
const cellShapes = {
  amount: z.object({ kind: z.literal('amount'), favor: favorSchema.optional() }),
  ratio: z.object({ kind: z.literal('ratio'), unit: z.enum(['percent', 'points', 'times', 'days']), favor: favorSchema.optional() }),
  notMeaningful: z.object({ kind: z.literal('notMeaningful'), reason: z.string() }),
  blank: z.object({ kind: z.literal('blank'), reason: z.string() }),
};
/** What a cell is, apart from its number. */
export const cellShapeSchema = z
  .discriminatedUnion('kind', [cellShapes.amount, cellShapes.ratio, cellShapes.notMeaningful, cellShapes.blank])
  .meta({ id: 'CellShape' });
export type CellShape = z.infer<typeof cellShapeSchema>;
export const cellSchema = z
  .discriminatedUnion('kind', [
    cellShapes.amount.extend({ value: minorSchema }),
    cellShapes.ratio.extend({ value: z.number() }),
    cellShapes.notMeaningful,
    cellShapes.blank,
  ])
  .meta({ id: 'Cell' });
export type CellDto = z.infer<typeof cellSchema>;

export const statementQuerySchema = z.object({
  asOf: periodKeySchema,
  columns: z.enum(['review', 'trend', 'months']).default('review'),
  /** a budget's number; left out: the approved one of each year */
  budget: z.coerce.number().int().optional(),
  filter: filterQuerySchema,
});
export type StatementQuery = z.infer<typeof statementQuerySchema>;

export const gridLineSchema = z.object({
  key: z.string(),
  name: z.string(),
  kind: z.enum(['section', 'accounts', 'account', 'total', 'formula', 'spacer']),
  depth: z.number().int(),
  parent: z.string().nullable(),
  account: z.string().nullable(),
  emphasis: z.enum(['bold', 'italic']).nullable(),
  rule: z.enum(['single', 'double']).nullable(),
  /** every figure of the line is zero or blank */
  isZero: z.boolean(),
});
export const gridColumnSchema = z.object({
  key: z.string(),
  block: z.number().int(),
  heading: z.string(),
  kind: z.enum(['amount', 'difference', 'percentDifference', 'share']),
  /** how its figures are drawn; null on derived columns */
  scenario: z.enum(['actual', 'prior', 'budget', 'projection']).nullable(),
  words: z.string(),
  bar: z.boolean(),
});
export const packedGridSchema = z
  .object({
    asOf: periodKeySchema,
    asOfWords: z.string(),
    budgetWords: z.string(),
    percentBase: z.string(),
    filter: filterSchema,
    blocks: z.array(z.object({ key: z.string(), heading: z.string() })),
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
      }),
    ),
  })
  .meta({ id: 'PeriodStrip' });
export type StripDto = z.infer<typeof stripSchema>;

/** What of a statement is exported: the lines in view. */
export const exportQuerySchema = statementQuerySchema.extend({
  /** keys of the opened lines by comma, or `all` */
  open: z.string().max(8000).default(''),
  zero: z.enum(['hide', 'show']).default('hide'),
});

export const trailQuerySchema = statementQuerySchema.extend({ line: z.string().max(300), column: z.string().max(300) });
export const trailSchema = z
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
        entries: z.object({ from: periodKeySchema, to: periodKeySchema, filter: filterSchema, opening: z.boolean() }).nullable(),
        /** what the budget says of it, when it comes from a budget */
        basis: z.array(z.string()),
        budgetId: z.number().int().nullable(),
      }),
    ),
    accountsSum: minorSchema.nullable(),
  })
  .meta({ id: 'Trail' });
export type TrailDto = z.infer<typeof trailSchema>;
