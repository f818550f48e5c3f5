import { z } from 'zod';

import { PACK_FORMATS } from './packs.ts';

export const MAIL_STATES = ['queued', 'sending', 'sent', 'outbox', 'failed'] as const;
export const mailStateSchema = z.enum(MAIL_STATES);
export type MailState = z.infer<typeof mailStateSchema>;
/** An address as it is typed: `name@company.com`. */
export const mailAddressSchema = z
  .string()
  .trim()
  .max(254, 'An address has at most 254 characters')
  .pipe(z.email({ error: ({ input }) => `${String(input)} is not an email address. Enter one such as name@company.com` }));

export const mailListSchema = z.object({ id: z.number().int(), name: z.string(), addresses: z.array(z.string()) }).meta({ id: 'MailList' });
export type MailListDto = z.infer<typeof mailListSchema>;
export const mailListsSchema = z.array(mailListSchema).meta({ id: 'MailLists' });
/** A list under a name; one of the same name is replaced, one without addresses removed. */
export const setMailListSchema = z.object({
  name: z.string().trim().min(1, 'Enter a name').max(100, 'At most 100 characters'),
  addresses: z.array(mailAddressSchema).max(500, 'A list has at most 500 addresses'),
});
export type SetMailList = z.infer<typeof setMailListSchema>;

/** The fields that a subject and a text may hold in braces. */
export const MAIL_FIELDS = ['company', 'name', 'pack', 'month', 'issue', 'fingerprint', 'link'] as const;
export type MailField = (typeof MAIL_FIELDS)[number];
export const mailIssueSchema = z.object({
  /** made by whoever asks, once for each mail: the same again sends nothing */
  key: z.string().min(8).max(100),
  to: z.array(mailAddressSchema).max(500, 'At most 500 addresses'),
  /** names of lists */
  lists: z.array(z.string().max(100)).max(50).default([]),
  subject: z.string().trim().min(1, 'Enter a subject').max(300, 'At most 300 characters'),
  text: z.string().max(20_000, 'At most 20,000 characters'),
  formats: z.array(z.enum(PACK_FORMATS)).max(4),
  /** values of a split pack whose files are attached; left out, all */
  slices: z.array(z.string().max(200)).optional(),
});
export type MailIssue = z.infer<typeof mailIssueSchema>;

export const mailMessageSchema = z
  .object({
    id: z.number().int(),
    recipient: z.string(),
    subject: z.string(),
    at: z.string(),
    by: z.string(),
    state: mailStateSchema,
    attempts: z.number().int(),
    /** when it is tried again; null unless it is queued */
    nextAt: z.string().nullable(),
    sentAt: z.string().nullable(),
    /** why it was not sent; empty when nothing went wrong */
    error: z.string(),
    issue: z.number().int().nullable(),
  })
  .meta({ id: 'MailMessage' });
export type MailMessageDto = z.infer<typeof mailMessageSchema>;
export const mailListingSchema = z
  .object({
    messages: z.array(mailMessageSchema),
    count: z.number().int(),
    /** whether a mail server is set; without one messages stay in the outbox */
    hasServer: z.boolean(),
    from: z.string(),
  })
  .meta({ id: 'Mail' });
export type MailListingDto = z.infer<typeof mailListingSchema>;
export const mailQuerySchema = z.object({
  issue: z.coerce.number().int().optional(),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
export const mailDetailSchema = mailMessageSchema
  .extend({
    text: z.string(),
    attachments: z.array(z.object({ name: z.string(), bytes: z.number().int() })),
    log: z.array(z.object({ at: z.string(), what: z.string() })),
  })
  .meta({ id: 'MailDetail' });
export type MailDetailDto = z.infer<typeof mailDetailSchema>;
