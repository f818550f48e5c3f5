import { z } from 'zod';

import { minorSchema } from './common.ts';

const daySchema = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'Enter the day as YYYY-MM-DD, such as 2026-10-31');
const accountSchema = z.string().trim().min(1).max(200);
const linesSchema = z
  .array(z.number().int())
  .max(2000, 'At most 2,000 lines at once')
  .refine((lines) => new Set(lines).size === lines.length, 'A line is selected twice. Select each line once');

/** Which column of a bank’s CSV file is what; columns count from 0. */
export const bankMappingSchema = z
  .object({
    headingRow: z.number().int().min(0).max(30),
    date: z.number().int().min(0),
    amount: z.number().int().min(0).nullable(),
    moneyIn: z.number().int().min(0).nullable(),
    moneyOut: z.number().int().min(0).nullable(),
    text: z.number().int().min(0),
    reference: z.number().int().min(0).nullable(),
    party: z.number().int().min(0).nullable(),
    balance: z.number().int().min(0).nullable(),
    dateOrder: z.enum(['ymd', 'mdy', 'dmy']),
    decimal: z.enum(['.', ',']),
    isReversed: z.boolean(),
  })
  .refine(({ amount, moneyIn, moneyOut }) => amount !== null || (moneyIn !== null && moneyOut !== null), {
    message: 'Choose the column of the amount, or those of money in and money out',
    path: ['amount'],
  })
  .meta({ id: 'BankMapping' });
export type BankMappingDto = z.infer<typeof bankMappingSchema>;

export const bankLineSchema = z
  .object({
    id: z.number().int(),
    date: z.string(),
    /** money in is positive */
    amount: minorSchema,
    text: z.string(),
    reference: z.string(),
    party: z.string(),
    /** the account its entry would go to, for a charge or interest of the bank; null where nothing tells */
    suggested: z.string().nullable(),
  })
  .meta({ id: 'BankLine' });
export type BankLineDto = z.infer<typeof bankLineSchema>;
export const cashLineSchema = z
  .object({
    id: z.number().int(),
    entryId: z.number().int(),
    entry: z.string(),
    date: z.string(),
    amount: minorSchema,
    document: z.string(),
    memo: z.string(),
    party: z.string(),
    /** dated before the first statement: settled, unless a statement clears it or it is marked as outstanding */
    isBefore: z.boolean(),
    isMarked: z.boolean(),
  })
  .meta({ id: 'CashLine' });
export type CashLineDto = z.infer<typeof cashLineSchema>;

export const bankStatementSchema = z
  .object({
    id: z.number().int(),
    format: z.enum(['csv', 'ofx', 'camt053']),
    file: z.string(),
    from: z.string(),
    to: z.string(),
    opening: minorSchema,
    closing: minorSchema,
    lines: z.number().int(),
    /** lines not cleared yet */
    open: z.number().int(),
  })
  .meta({ id: 'BankStatement' });
export type BankStatementDto = z.infer<typeof bankStatementSchema>;

const countedSchema = z.object({ count: z.number().int(), amount: minorSchema });
export const reconciliationFiguresSchema = z
  .object({
    bankBalance: minorSchema,
    depositsInTransit: countedSchema,
    outstandingPayments: countedSchema,
    adjustedBank: minorSchema,
    ledgerBalance: minorSchema,
    unrecorded: countedSchema,
    adjustedLedger: minorSchema,
    difference: minorSchema,
  })
  .meta({ id: 'ReconciliationFigures' });
export type ReconciliationFiguresDto = z.infer<typeof reconciliationFiguresSchema>;

export const matchProposalSchema = z.object({
  bank: z.array(z.number().int()),
  ledger: z.array(z.number().int()),
  /** why, in words: same reference, 3 days later */
  words: z.string(),
  isSure: z.boolean(),
});
export type MatchProposalDto = z.infer<typeof matchProposalSchema>;
export const clearingSchema = z
  .object({
    id: z.number().int(),
    kind: z.enum(['matched', 'adjustment', 'difference']),
    /** of its last line */
    date: z.string(),
    bank: z.array(bankLineSchema.pick({ id: true, date: true, amount: true, text: true })),
    ledger: z.array(cashLineSchema.pick({ id: true, entryId: true, entry: true, date: true, amount: true })),
    amount: minorSchema,
    person: z.string(),
    /** of a forced difference: how much, why it was forced, and what explained it later; empty while nothing does */
    difference: minorSchema,
    reason: z.string(),
    explanation: z.string(),
    /** whether its lines no longer add up, since one was corrected or removed */
    isBroken: z.boolean(),
  })
  .meta({ id: 'Clearing' });
export type ClearingDto = z.infer<typeof clearingSchema>;

export const reconciliationQuerySchema = z.object({ account: accountSchema.optional(), asOf: daySchema.optional() });
export const reconciliationSchema = z
  .object({
    /** cash accounts */
    accounts: z.array(z.object({ number: z.string(), name: z.string(), statements: z.number().int() })),
    account: z.string(),
    accountName: z.string(),
    /** the bank’s number of the account; empty until a file named it */
    bankAccount: z.string(),
    asOf: z.string(),
    statements: z.array(bankStatementSchema),
    /** the days its statements reach; null without any */
    reach: z.object({ from: z.string(), to: z.string() }).nullable(),
    /** null when no statement reaches the day */
    figures: reconciliationFiguresSchema.nullable(),
    /** open as of the day */
    outstanding: z.array(cashLineSchema),
    unrecorded: z.array(bankLineSchema),
    /** not cleared at all yet, which can be matched */
    bank: z.array(bankLineSchema),
    ledger: z.array(cashLineSchema),
    /** how many lines of the ledger there are; more than are listed where they are very many */
    ledgerCount: z.number().int(),
    proposals: z.array(matchProposalSchema),
    near: z.array(z.object({ bank: z.number().int(), ledger: z.number().int(), words: z.string() })),
    cleared: z.array(clearingSchema),
    clearedCount: z.number().int(),
    /** accounts that entries can be posted to, and the one that forced differences go to */
    differenceAccount: z.string().nullable(),
    /** files of demo statements to try it with; empty for other companies */
    samples: z.array(z.string()),
  })
  .meta({ id: 'BankReconciliation' });
export type ReconciliationDto = z.infer<typeof reconciliationSchema>;

/** Fields of the form a bank’s file is sent with. */
export const bankFileFieldsSchema = z.object({
  account: accountSchema,
  /** JSON of a mapping, for a CSV file */
  mapping: z.string().max(2000).optional(),
  /** what a CSV file does not say: its first and last day, and the balance before its first line, in the currency’s decimals */
  from: daySchema.optional(),
  to: daySchema.optional(),
  opening: z.string().trim().max(60).optional(),
  /** of the file that was previewed; without it the file is only looked at */
  fingerprint: z.string().max(64).optional(),
});
export const bankFilePreviewSchema = z
  .object({
    fingerprint: z.string(),
    format: z.enum(['csv', 'ofx', 'camt053']),
    bankAccount: z.string(),
    from: z.string(),
    to: z.string(),
    lines: z.number().int(),
    moneyIn: minorSchema,
    moneyOut: minorSchema,
    /** null while it is not known: the file has none, and no statement before it */
    opening: minorSchema.nullable(),
    closing: minorSchema.nullable(),
    /** of a CSV file: its columns, their mapping, and its first rows */
    csv: z.object({ columns: z.array(z.string()), mapping: bankMappingSchema, rows: z.array(z.array(z.string())) }).nullable(),
    /** what keeps it from being imported; empty when nothing does */
    faults: z.array(z.string()),
  })
  .meta({ id: 'BankFilePreview' });
export type BankFilePreviewDto = z.infer<typeof bankFilePreviewSchema>;
export const bankFileAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('preview'), preview: bankFilePreviewSchema }),
  z.object({ kind: z.literal('imported'), lines: z.number().int() }),
]);
export type BankFileAnswerDto = z.infer<typeof bankFileAnswerSchema>;

export const clearLinesSchema = z.object({
  account: accountSchema,
  clearings: z
    .array(
      z.object({ bank: linesSchema.min(1, 'Select a line of the statement'), ledger: linesSchema.min(1, 'Select a line of the ledger') }),
    )
    .min(1)
    .max(5000),
});
export const postAdjustmentSchema = z.object({
  account: accountSchema,
  bankLine: z.number().int(),
  /** the other side of the entry */
  to: accountSchema,
  dimensions: z.record(z.string().max(100), z.string().trim().max(200)).default({}),
  memo: z.string().trim().max(2000).default(''),
});
export type PostAdjustment = z.input<typeof postAdjustmentSchema>;
export const forceDifferenceSchema = z.object({
  account: accountSchema,
  bank: linesSchema.min(1, 'Select a line of the statement'),
  ledger: linesSchema.min(1, 'Select a line of the ledger'),
  reason: z.string().trim().min(3, 'Enter why the difference is forced').max(500, 'At most 500 characters'),
});
export const explainDifferenceSchema = z.object({ explanation: z.string().trim().max(500, 'At most 500 characters') });
export const markOutstandingSchema = z.object({ account: accountSchema, line: z.number().int(), isOutstanding: z.boolean() });
