import { z } from 'zod';

const dateSchema = z.iso.date('Enter the date as YYYY-MM-DD, such as 2026-10-31');

/** What a change was made to. */
export const AUDIT_AREAS = ['ledger', 'budgets', 'views', 'settings'] as const;
export type AuditArea = (typeof AUDIT_AREAS)[number];

const auditFilterSchema = z.object({
  /** first and last day, as recorded (UTC) */
  from: dateSchema.optional(),
  to: dateSchema.optional(),
  area: z.enum(AUDIT_AREAS).optional(),
  /** changes that were ticked off as reviewed, or those that were not */
  reviewed: z.enum(['yes', 'no']).optional(),
  /** part of a subject, a reason, a change or a person's name */
  find: z.string().max(200).optional(),
});
export const auditQuerySchema = auditFilterSchema.extend({
  /** events older than this one */
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
export const auditExportQuerySchema = auditFilterSchema;
export type AuditFilterDto = z.infer<typeof auditFilterSchema>;
export type AuditQueryDto = z.infer<typeof auditQuerySchema>;

/** One change on record. */
export const auditEventSchema = z
  .object({
    id: z.number().int(),
    at: z.string(),
    actor: z.string(),
    area: z.enum(AUDIT_AREAS),
    /** such as "Import 3 posted" */
    words: z.string(),
    /** field by field, as texts */
    changes: z.array(z.object({ what: z.string(), from: z.string(), to: z.string() })),
    reason: z.string(),
    /** the entry it changed, when it changed one */
    entryId: z.number().int().nullable(),
    /** who ticked it off and when; null while nobody did */
    reviewed: z.object({ at: z.string(), actor: z.string() }).nullable(),
  })
  .meta({ id: 'AuditEvent' });
export type AuditEventDto = z.infer<typeof auditEventSchema>;

/** A page of them, the newest first. */
export const auditTrailSchema = z
  .object({
    events: z.array(auditEventSchema),
    /** of all that match, not only the page */
    count: z.number().int(),
    /** of those, how many are ticked off */
    reviewed: z.number().int(),
    next: z.number().int().nullable(),
  })
  .meta({ id: 'AuditTrail' });
export type AuditTrailDto = z.infer<typeof auditTrailSchema>;

export const reviewEventSchema = z.object({ reviewed: z.boolean() });

/** Whether every event on record still follows the one before it. */
export const auditVerificationSchema = z
  .object({
    /** events read, of all companies */
    events: z.number().int(),
    faults: z.array(z.object({ id: z.number().int(), kind: z.enum(['changed', 'removed', 'inserted']), words: z.string() })),
  })
  .meta({ id: 'AuditVerification' });
export type AuditVerificationDto = z.infer<typeof auditVerificationSchema>;
