import { z } from 'zod';

import { minorSchema, periodKeySchema } from './common.ts';

export const POSTING_ANSWERS = ['fine', 'needsCorrection', 'corrected'] as const;
export const postingAnswerSchema = z.enum(POSTING_ANSWERS);
export type PostingAnswer = z.infer<typeof postingAnswerSchema>;

export const suspectSchema = z
  .object({
    rank: z.number().int(),
    /** what an answer is kept under */
    posting: z.string(),
    /** null where the posting is missing, or a balance is meant */
    entry: z.object({ id: z.number().int(), number: z.string(), date: z.string() }).nullable(),
    period: z.string(),
    account: z.string(),
    accountName: z.string(),
    party: z.string(),
    amount: minorSchema,
    /** the sum of its reasons, times its weight */
    score: z.number(),
    /** more for a large amount, less the older it is */
    weight: z.number(),
    reasons: z.array(z.object({ kind: z.string(), words: z.string(), score: z.number() })),
    answer: z.object({ answer: postingAnswerSchema, reason: z.string(), person: z.string(), at: z.string() }).nullable(),
  })
  .meta({ id: 'Suspect' });
export type SuspectDto = z.infer<typeof suspectSchema>;
export const postingCheckSchema = z
  .object({
    suspects: z.array(suspectSchema),
    /** how many there are; more than are listed where there are many */
    count: z.number().int(),
    answered: z.number().int(),
    lines: z.number().int(),
  })
  .meta({ id: 'PostingCheck' });
export type PostingCheckDto = z.infer<typeof postingCheckSchema>;
export const postingCheckQuerySchema = z.object({
  from: periodKeySchema.optional(),
  to: periodKeySchema.optional(),
  show: z.enum(['open', 'answered']).default('open'),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
export type PostingCheckQuery = z.infer<typeof postingCheckQuerySchema>;
export const answerPostingSchema = z.object({
  posting: z.string().min(1).max(300),
  answer: postingAnswerSchema,
  reason: z.string().trim().max(500, 'At most 500 characters').default(''),
  /** the same kind for the same account and party is not asked about again */
  learns: z.boolean().default(false),
});
export type AnswerPosting = z.infer<typeof answerPostingSchema>;
