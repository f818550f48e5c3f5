import { z } from 'zod';

import { filterQuerySchema, fiscalYearSchema, minorSchema, periodKeySchema } from './common.ts';

export const importIssueSchema = z
  .object({
    file: z.enum(['accounts', 'ledger']),
    row: z.number().int().meta({ description: 'row as a spreadsheet numbers it; 0 is the file as a whole' }),
    column: z.string(),
    text: z.string(),
    code: z.string(),
    reason: z.string(),
    fix: z.string(),
  })
  .meta({ id: 'ImportIssue' });
export type ImportIssueDto = z.infer<typeof importIssueSchema>;

export const importSchema = z
  .object({
    id: z.number().int(),
    company: z.string(),
    companyId: z.number().int().nullable(),
    isNewCompany: z.boolean(),
    state: z.enum(['checking', 'ready', 'refused', 'posting', 'posted', 'failed', 'reversed']),
    createdAt: z.string(),
    postedAt: z.string().nullable(),
    actor: z.string(),
    files: z.array(
      z.object({
        kind: z.enum(['accounts', 'ledger']),
        name: z.string(),
        bytes: z.number(),
        encoding: z.string(),
        delimiter: z.string(),
        sha256: z.string(),
      }),
    ),
    rowsRead: z.number().int(),
    preview: z
      .object({
        rows: z.number().int(),
        entries: z.number().int(),
        drafts: z.number().int(),
        firstPeriod: z.string().nullable(),
        lastPeriod: z.string().nullable(),
        debits: minorSchema,
        credits: minorSchema,
        newAccounts: z.array(z.object({ number: z.string(), name: z.string(), class: z.string() })),
        changedAccounts: z.number().int(),
        newYears: z.array(z.number().int()),
        newDimensionValues: z.array(z.object({ dimension: z.string(), values: z.array(z.string()) })),
        newParties: z.number().int(),
        notices: z.array(z.string()),
      })
      .nullable(),
    issueCount: z.number().int(),
    /** the first of them; the whole list is the download */
    issues: z.array(importIssueSchema),
    exponent: z.number().int(),
    failure: z.string().nullable(),
  })
  .meta({ id: 'Import' });
export const importListSchema = z.array(importSchema);
export type ImportDto = z.infer<typeof importSchema>;

export const accountRowSchema = z.object({
  number: z.string(),
  name: z.string(),
  class: z.string(),
  className: z.string(),
  group: z.string().nullable(),
  active: z.boolean(),
  statement: z.enum(['income', 'balance', 'statistic']),
  /** opening balance of the year, shown sign; zero for income accounts */
  opening: minorSchema,
  /** net change by period of the year in the account's natural sign; null after the last posted month */
  months: z.array(minorSchema.nullable()),
  total: minorSchema,
  lastPosting: z.string().nullable(),
});
export const accountsQuerySchema = z.object({ year: fiscalYearSchema });
export const accountListSchema = z
  .object({ year: z.number().int(), periods: z.array(z.string()), accounts: z.array(accountRowSchema) })
  .meta({ id: 'AccountList' });
export type AccountListDto = z.infer<typeof accountListSchema>;

export const entriesQuerySchema = z.object({
  from: periodKeySchema,
  to: periodKeySchema,
  filter: filterQuerySchema,
  after: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(2000).default(500),
  /** draft entries included too */
  drafts: z.enum(['yes', 'no']).default('no'),
  /** words of the entry number, document, memo, customer or vendor */
  find: z.string().max(200, 'At most 200 characters').default(''),
  sort: z.enum(['date', 'amount']).default('date'),
  /** lines beside the ones asked for: closing entries count for balance-sheet accounts only */
  opening: z.preprocess((value) => value === 'true' || value === true, z.boolean()).default(false),
});
export const entriesExportQuerySchema = entriesQuerySchema.omit({ after: true, limit: true });
export const entryLineSchema = z.object({
  lineId: z.number().int(),
  entryId: z.number().int(),
  entry: z.string(),
  date: z.string(),
  memo: z.string(),
  party: z.string(),
  document: z.string(),
  source: z.string(),
  kind: z.string(),
  state: z.string(),
  dimensions: z.record(z.string(), z.string()),
  /** in the account's natural sign */
  amount: minorSchema,
  /** after this line, in order of date; null where lines are sorted otherwise or some are left out */
  balance: minorSchema.nullable(),
});
export const entryLinesSchema = z
  .object({
    account: z.object({ number: z.string(), name: z.string(), className: z.string() }),
    span: z.string(),
    lines: z.array(entryLineSchema),
    count: z.number().int(),
    /** sum of all lines found, natural sign, read from the entries themselves */
    sum: minorSchema,
    /** what the cube holds for the same account, span and filter */
    figure: minorSchema,
    next: z.number().int().nullable(),
  })
  .meta({ id: 'EntryLines' });
export type EntryLinesDto = z.infer<typeof entryLinesSchema>;

export const entrySchema = z
  .object({
    id: z.number().int(),
    number: z.string(),
    date: z.string(),
    period: z.string(),
    source: z.string(),
    kind: z.string(),
    state: z.string(),
    importId: z.number().int().nullable(),
    importedAt: z.string().nullable(),
    /** entries tied to this one: those it corrects or reverses, and those that correct or reverse it */
    related: z.array(
      z.object({ id: z.number().int(), number: z.string(), how: z.enum(['corrects', 'correctedBy', 'reverses', 'reversedBy']) }),
    ),
    /** goes up with each change of the entry */
    version: z.number().int(),
    debits: minorSchema,
    credits: minorSchema,
    lines: z.array(
      z.object({
        id: z.number().int(),
        account: z.string(),
        accountName: z.string(),
        debit: minorSchema.nullable(),
        credit: minorSchema.nullable(),
        memo: z.string(),
        party: z.string(),
        document: z.string(),
        due: z.string().nullable(),
        dimensions: z.record(z.string(), z.string()),
      }),
    ),
  })
  .meta({ id: 'Entry' });
export type EntryDto = z.infer<typeof entrySchema>;

/** The entries in draft, latest first; where there are more than are listed, `count` is larger. */
export const draftEntriesSchema = z
  .object({
    count: z.number().int(),
    entries: z.array(
      z.object({
        id: z.number().int(),
        number: z.string(),
        date: z.string(),
        period: z.string(),
        /** of the first line that names one */
        party: z.string(),
        memo: z.string(),
        /** total of the debits */
        amount: minorSchema,
      }),
    ),
  })
  .meta({ id: 'DraftEntries' });
export type DraftEntriesDto = z.infer<typeof draftEntriesSchema>;

const amountBoundSchema = z.coerce.number().int().min(0).max(9e15);
/** What entries are looked for. The dimensions of `filter` are the ledger's own, and `party` and `source`. */
const entryFilterSchema = z.object({
  from: periodKeySchema.optional(),
  to: periodKeySchema.optional(),
  /** as typed: `4000-4999, 6100` */
  accounts: z.string().max(2000, 'At most 2,000 characters').optional(),
  filter: filterQuerySchema,
  /** bounds of the amount without its sign, in minor units */
  least: amountBoundSchema.optional(),
  most: amountBoundSchema.optional(),
  /** words of the entry number, document, memo, customer or vendor */
  find: z.string().max(200, 'At most 200 characters').optional(),
  origin: z.enum(['import', 'manual']).optional(),
  /** drafts are in no figure, and are listed only when asked for */
  state: z.enum(['posted', 'draft', 'all']).default('posted'),
  sort: z.enum(['date', 'account', 'party', 'amount', 'source']).default('date'),
  order: z.enum(['ascending', 'descending']).default('descending'),
});
export const entryListQuerySchema = entryFilterSchema.extend({
  after: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
export const entryExportQuerySchema = entryFilterSchema;
export type EntryFilterDto = z.infer<typeof entryFilterSchema>;
export type EntryListQueryDto = z.infer<typeof entryListQuerySchema>;

/** A line of an entry as a list shows it. */
export const listedLineSchema = z.object({
  lineId: z.number().int(),
  entryId: z.number().int(),
  entry: z.string(),
  date: z.string(),
  account: z.string(),
  accountName: z.string(),
  /** debit positive */
  amount: minorSchema,
  party: z.string(),
  document: z.string(),
  memo: z.string(),
  due: z.string().nullable(),
  source: z.string(),
  kind: z.string(),
  state: z.string(),
  /** null for an entry made by a person */
  importId: z.number().int().nullable(),
  dimensions: z.record(z.string(), z.string()),
});
export type ListedLineDto = z.infer<typeof listedLineSchema>;
export const entryListSchema = z
  .object({
    lines: z.array(listedLineSchema),
    /** of all that match, not only the page */
    totals: z.object({ lines: z.number().int(), entries: z.number().int(), debits: minorSchema, credits: minorSchema }),
    next: z.number().int().nullable(),
  })
  .meta({ id: 'EntryList' });
export type EntryListDto = z.infer<typeof entryListSchema>;

/** The numbers of every line that matches, to be moved together. */
export const foundLinesSchema = z.object({ lines: z.array(z.number().int()) }).meta({ id: 'FoundLines' });
export type FoundLinesDto = z.infer<typeof foundLinesSchema>;

/** The choices of the list of entries under a name; `address` is its query as the address bar has it. */
export const savedFiltersSchema = z
  .array(z.object({ id: z.number().int(), name: z.string(), address: z.string() }))
  .meta({ id: 'SavedFilters' });
export type SavedFiltersDto = z.infer<typeof savedFiltersSchema>;
export const saveFilterSchema = z.object({
  name: z.string().trim().min(1, 'Enter a name for the filter').max(100, 'At most 100 characters'),
  address: z.string().max(8000),
});

/** What a person answers to what the check of an import asked. */
export const importChoicesSchema = z.object({
  encoding: z.enum(['utf-8', 'windows-1252']).exactOptional(),
  dimensions: z.array(z.string().max(200)).max(40).exactOptional(),
});
