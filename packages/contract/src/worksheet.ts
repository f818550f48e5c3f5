import type { WorksheetEdit } from '@wise-margin/core';
import { z } from 'zod';

import { basisSchema, monthSchema, spreadSchema } from './basis.ts';
import { budgetSchema } from './budgets.ts';
import { filterSchema, minorSchema } from './common.ts';

const typed = {
  account: z.string().max(40),
  /** further accounts that share the figure */
  together: z.array(z.string().max(40)).max(1000).exactOptional(),
  text: z.string().max(60, 'At most 60 characters'),
  /** what the text is positive in: 1 for debits, -1 for credits; the account's own shown sign when left out */
  sign: z.union([z.literal(1), z.literal(-1)]).exactOptional(),
};
const monthsSchema = z.array(monthSchema).min(1).max(12);
/** One change as a person makes it. Texts are what was typed; months count from 0. */
export const budgetEditSchema: z.ZodType<WorksheetEdit> = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('month'), ...typed, month: monthSchema }),
    z.object({ kind: z.literal('year'), ...typed, spread: spreadSchema }),
    z.object({ kind: z.literal('span'), ...typed, months: monthsSchema, spread: spreadSchema }),
    z.object({ kind: z.literal('basis'), account: typed.account, basis: basisSchema }),
    z.object({ kind: z.literal('release'), account: typed.account, months: monthsSchema }),
    z.object({
      kind: z.literal('note'),
      account: typed.account,
      month: monthSchema.nullable(),
      text: z.string().max(2000, 'At most 2,000 characters'),
    }),
  ])
  .meta({ id: 'BudgetEdit' });
export type BudgetEditDto = z.infer<typeof budgetEditSchema>;
export const budgetEditRequestSchema = z.object({
  edits: z.array(budgetEditSchema).min(1).max(10_000, 'At most 10,000 changes at once'),
  filter: filterSchema.default({}),
  /** the version that was looked at; left out, nobody is asked about what others changed since */
  base: z.number().int().optional(),
  /** who works here: changes of another session to the same cells are asked about, and undo is of one's own */
  session: z.string().max(100).default(''),
  /** of the request: sent again under the same one, it counts once */
  key: z.string().max(100).optional(),
});
export type BudgetEditRequest = z.infer<typeof budgetEditRequestSchema>;
export const budgetChangesQuerySchema = z.object({ since: z.coerce.number().int().min(0), session: z.string().max(100).default('') });
export const sessionQuerySchema = z.object({ session: z.string().max(100).default('') });
export const stepRequestSchema = sessionQuerySchema.extend({
  /** of this request alone: asked again, because its answer was lost, it counts once */
  key: z.string().max(100).optional(),
  /** the version that was looked at: what was saved since is answered */
  base: z.coerce.number().int().min(0).optional(),
});

export const rederiveRequestSchema = stepRequestSchema.extend({
  /** numbers of the accounts whose lines are derived; left out, all of them */
  accounts: z.array(z.string().max(40)).max(10_000).optional(),
});

/** A line of a budget: twelve amounts debit positive, and which months are held. */
export const worksheetLineSchema = z.object({
  id: z.number().int(),
  account: z.string(),
  dimensions: z.record(z.string(), z.string()),
  /** its year total debit positive where it has one */
  basis: basisSchema,
  amounts: z.array(minorSchema).length(12),
  held: z.array(z.number().int()),
  /** held months that a total over several months gave */
  fromTotal: z.array(z.number().int()),
});
export type WorksheetLineDto = z.infer<typeof worksheetLineSchema>;
export const worksheetNoteSchema = z.object({
  account: z.string(),
  slice: z.string(),
  month: z.number().int().nullable(),
  text: z.string(),
});

/** What undo and redo would do next, in words. */
const stepsSchema = z.object({ undo: z.string().nullable(), redo: z.string().nullable() });
export const worksheetRefusalSchema = z.object({ edit: z.number().int(), account: z.string(), text: z.string(), message: z.string() });
/** What a saved change made of the budget: the lines that differ from the version that was looked at, others' changes among them. */
export const worksheetAnswerSchema = z
  .object({
    version: z.number().int(),
    lines: z.array(worksheetLineSchema),
    /** every note, when one changed */
    notes: z.array(worksheetNoteSchema).nullable(),
    refusals: z.array(worksheetRefusalSchema),
    steps: stepsSchema,
    /** who else changed something since, and what, in words */
    others: z.array(z.string()),
    /** amounts entered in this session that someone else replaced since, so that they can be entered again */
    replaced: z.array(
      z.object({
        account: z.string(),
        /** from 0, the first of the budget's year */
        month: z.number().int(),
        /** the row's slice */
        filter: filterSchema,
        /** in words: `6000 Rent, Apr` */
        place: z.string(),
        mine: z.string(),
        theirs: z.string(),
        actor: z.string(),
      }),
    ),
    state: budgetSchema.shape.state,
    /** of an undo or redo: figures that were changed since and stay as they are */
    notUndone: z.number().int(),
  })
  .meta({ id: 'WorksheetAnswer' });
export type WorksheetAnswerDto = z.infer<typeof worksheetAnswerSchema>;

/** Amounts by account position, slot and combination, as lists of one length. */
const factsSchema = z.object({
  combinations: z.array(z.record(z.string(), z.string())),
  account: z.array(z.number().int()),
  slot: z.array(z.number().int()),
  combination: z.array(z.number().int()),
  amount: z.array(minorSchema),
});
export type FactsDto = z.infer<typeof factsSchema>;
/** A budget with all it draws on, so that it can be computed where it is edited. */
export const worksheetSchema = z
  .object({
    budget: budgetSchema,
    version: z.number().int(),
    lines: z.array(worksheetLineSchema),
    notes: z.array(worksheetNoteSchema),
    steps: stepsSchema,
    books: z.object({
      accounts: z.array(
        z.object({
          number: z.string(),
          name: z.string(),
          class: z.string(),
          group: z.string().nullable(),
          active: z.boolean(),
          polarity: z.string().nullable(),
          cashflow: z.string().nullable(),
        }),
      ),
      calendar: z.object({
        startMonth: z.number().int(),
        firstYear: z.number().int(),
        lastYear: z.number().int(),
        hasAdjustmentPeriod: z.boolean(),
      }),
      exponent: z.number().int(),
      firstPosted: z.number().int().nullable(),
      lastActual: z.number().int().nullable(),
      actual: factsSchema,
      approved: z.array(z.object({ year: z.number().int(), dimensions: z.array(z.string()), facts: factsSchema })),
      nonrecurring: z.object({ entries: factsSchema, months: z.array(z.string()) }),
      /** figures by month, the first of the budget's year being 1; the year before it stands below */
      statistics: z.array(
        z.object({ series: z.string(), period: z.number().int(), dimensions: z.record(z.string(), z.string()), value: z.number() }),
      ),
    }),
  })
  .meta({ id: 'Worksheet' });
export type WorksheetDto = z.infer<typeof worksheetSchema>;

/** A change of figures, or something that happened to the budget as a whole, such as its approval. */
export const budgetChangeSchema = z.object({
  /** of the record; newer ones are higher */
  id: z.number().int(),
  at: z.string(),
  actor: z.string(),
  words: z.string(),
  kind: z.enum(['edit', 'undo', 'redo', 'derive', 'milestone']),
  isUndone: z.boolean(),
  /** single cells, shown sign, of the row's slice; cut past a hundred, `more` says how many were left out */
  cells: z.array(z.object({ account: z.string(), slice: z.string(), month: z.string(), from: minorSchema.nullable(), to: minorSchema })),
  more: z.number().int(),
});
export const budgetHistoryQuerySchema = z.object({
  before: z.coerce.number().int().optional(),
  /** changes of this account's lines and notes alone */
  account: z.string().max(40).optional(),
});
export const budgetHistorySchema = z
  .object({
    items: z.array(budgetChangeSchema),
    /** asked for as `before` it gives the next page; null when there is none */
    next: z.number().int().nullable(),
  })
  .meta({ id: 'BudgetHistory' });
export type BudgetHistoryDto = z.infer<typeof budgetHistorySchema>;
export type BudgetChangeDto = z.infer<typeof budgetChangeSchema>;
