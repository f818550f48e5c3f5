import { isTimeZone, type ScheduleDay, type SectionCondition } from '@wise-margin/core';
import { z } from 'zod';

import { mailAddressSchema } from './mail.ts';
import { PACK_FORMATS } from './packs.ts';

const scheduleDaySchema: z.ZodType<ScheduleDay> = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('businessDay'),
    number: z
      .number()
      .int()
      .min(-23)
      .max(23, 'A month has at most 23 business days')
      .refine((number) => number !== 0, 'Count business days from 1, or from the end with a minus'),
  }),
  z.object({ kind: z.literal('dayOfMonth'), number: z.number().int().min(1).max(31, 'A month has at most 31 days') }),
  z.object({ kind: z.literal('everyBusinessDay') }),
]);
/** What has to be so on the day; otherwise the run is skipped, and says why. */
export type ScheduleCondition = SectionCondition | { readonly kind: 'monthClosed' };
const scheduleConditionSchema: z.ZodType<ScheduleCondition> = z.discriminatedUnion('kind', [
  z.object({ kind: z.enum(['always', 'monthClosed', 'findings']) }),
  z.object({ kind: z.literal('activity'), view: z.string().min(1).max(100), line: z.string().min(1, 'Choose a line').max(300) }),
]);
export const SCHEDULE_FORMATS = [...PACK_FORMATS, 'csv'] as const;
export type ScheduleFormat = (typeof SCHEDULE_FORMATS)[number];
/** What a schedule sends: a pack that it issues, a view, or a watch report that is mailed only when it has something to say. */
const scheduledWorkSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('pack'), pack: z.string().min(1, 'Choose a pack').max(100) }),
  z.object({ kind: z.literal('view'), view: z.string().min(1, 'Choose a view').max(100) }),
  z.object({
    kind: z.literal('watch'),
    watch: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('postings'), accounts: z.string().trim().min(1, 'Enter accounts such as 1990, 6900-6999').max(2000) }),
      z.object({ kind: z.enum(['tieOuts', 'drafts']) }),
    ]),
  }),
]);
export type ScheduledWork = z.infer<typeof scheduledWorkSchema>;
export type Watch = Extract<ScheduledWork, { readonly kind: 'watch' }>['watch'];
export const scheduleChangeSchema = z.object({
  name: z.string().trim().min(1, 'Enter a name').max(100, 'At most 100 characters'),
  what: scheduledWorkSchema,
  /** which month it is of: the one the day is in, or the one before */
  of: z.enum(['month', 'monthBefore']),
  day: scheduleDaySchema,
  /** since midnight */
  minutes: z.number().int().min(0).max(1439),
  zone: z.string().max(100).refine(isTimeZone, 'Enter a time zone such as America/New_York'),
  condition: scheduleConditionSchema,
  to: z.array(mailAddressSchema).max(500, 'At most 500 addresses'),
  lists: z.array(z.string().max(100)).max(50),
  subject: z.string().trim().min(1, 'Enter a subject').max(300, 'At most 300 characters'),
  text: z.string().max(20_000, 'At most 20,000 characters'),
  formats: z.array(z.enum(SCHEDULE_FORMATS)).max(5),
  isHeld: z.boolean(),
});
export type ScheduleChange = z.infer<typeof scheduleChangeSchema>;
export const SCHEDULE_RUN_STATES = ['running', 'done', 'skipped', 'failed'] as const;
export const scheduleRunSchema = z.object({
  due: z.string(),
  state: z.enum(SCHEDULE_RUN_STATES),
  /** what it did, or why it did not */
  note: z.string(),
  issue: z.number().int().nullable(),
});
export const scheduleSchema = scheduleChangeSchema
  .extend({
    id: z.number().int(),
    /** of the pack, the view or the watch report */
    whatName: z.string(),
    /** moments of the next three runs; none while it is held */
    next: z.array(z.string()),
    /** the latest first */
    runs: z.array(scheduleRunSchema),
  })
  .meta({ id: 'Schedule' });
export type ScheduleDto = z.infer<typeof scheduleSchema>;
export const scheduleListSchema = z
  .object({
    schedules: z.array(scheduleSchema),
    /** days that are no business days */
    holidays: z.array(z.object({ date: z.string(), name: z.string() })),
  })
  .meta({ id: 'Schedules' });
export type ScheduleListDto = z.infer<typeof scheduleListSchema>;
