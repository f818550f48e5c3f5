import { readFile } from 'node:fs/promises';

import { scheduleChangeSchema, scheduleListSchema } from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { type Route, route } from '../http/route.ts';
import { requiredUpload } from '../http/upload.ts';
import type { ScheduleService } from './schedule-service.ts';
import type { ScheduleStore } from './schedule-store.ts';

const MOST_BYTES = 2_000_000;
const SCHEDULES = '/companies/:company/schedules';
const SCHEDULE = `${SCHEDULES}/:schedule` as const;

/** Packs that are issued and mailed by themselves. */
export const scheduleRoutes = ({
  schedules,
  scheduleStore,
  mailSender,
  database,
  actor,
}: {
  readonly schedules: ScheduleService;
  readonly scheduleStore: ScheduleStore;
  readonly mailSender: { readonly wake: () => void };
  readonly database: Database;
  readonly actor: Actor;
}): readonly Route[] => [
  route({
    method: 'get',
    path: SCHEDULES,
    summary: 'Schedules with their next runs and what the last ones did',
    response: scheduleListSchema,
    handle: ({ path }) => schedules.list(path.company),
  }),
  route({
    method: 'post',
    path: SCHEDULES,
    summary: 'Create a schedule',
    request: { body: scheduleChangeSchema },
    response: scheduleListSchema,
    status: 201,
    handle: ({ path, body }) => schedules.save(path.company, null, body),
  }),
  route({
    method: 'put',
    path: SCHEDULE,
    summary: 'Change, hold or resume a schedule',
    request: { body: scheduleChangeSchema },
    response: scheduleListSchema,
    handle: ({ path, body }) => schedules.save(path.company, path.schedule, body),
  }),
  route({
    method: 'delete',
    path: SCHEDULE,
    summary: 'Remove a schedule',
    response: null,
    handle: ({ path }) => scheduleStore.remove(path.company, path.schedule, actor),
  }),
  route({
    method: 'post',
    path: `${SCHEDULE}/runs`,
    summary: 'Run a schedule now',
    response: scheduleListSchema,
    status: 201,
    handle: async ({ path }) => {
      const list = await schedules.runNow(path.company, path.schedule);
      mailSender.wake();
      return list;
    },
  }),
  route({
    method: 'put',
    path: '/companies/:company/holidays',
    summary: 'Take the holidays of a calendar file (RFC 5545) in place of those before',
    request: { form: { files: ['file'], directory: database.directory, mostBytes: MOST_BYTES } },
    response: scheduleListSchema,
    handle: async ({ path, uploads }) => {
      const file = requiredUpload(uploads, 'file', 'Choose a calendar file (.ics).');
      return schedules.importHolidays(path.company, await readFile(file.path, 'utf8'));
    },
  }),
];
