import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

type Values = Readonly<Record<string, string | boolean | undefined>>;

/** Schedules with their next times and what the last one did. */
export async function listSchedules(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const { schedules } = await application.schedules.list(id);
  return {
    title: `${name}\n${schedules.length} ${schedules.length === 1 ? 'schedule' : 'schedules'}`,
    headings: ['schedule', 'sends', 'next', 'last run', 'result'],
    rows: schedules.map(({ name: words, whatName, next, runs, isHeld }) => [
      words,
      whatName,
      isHeld ? 'held' : (next[0] ?? 'never'),
      runs[0]?.due ?? '',
      runs[0] ? `${runs[0].state}: ${runs[0].note}` : '',
    ]),
    figures: new Set(),
    json: { company: name, schedules },
  };
}

/** Runs what is due up to a moment, in order, each time once; `--from` begins earlier than the schedules were made, for a trial. */
export async function runSchedules(application: Application, values: Values): Promise<Answer> {
  const until = momentOf(values['until']);
  if (until === null) throw new UsageError('schedules run needs --until as a date, such as --until 2026-12-31');
  const from = values['from'] === undefined ? undefined : momentOf(values['from']);
  if (from === null) throw new UsageError('--from is a date, such as 2026-01-01');
  const { id } = await chosenCompany(application, values['company'] as string | undefined);
  const count = await application.schedules.runDue(until, { company: id, ...(from ? { from } : {}) });
  await application.mailSender.sendDue();
  const answer = await listSchedules(application, values);
  return { ...answer, title: `${answer.title}, ${count} runs` };
}

/** A day stands for its end, by universal time. */
function momentOf(text: unknown): Date | null {
  if (typeof text !== 'string' || !/^\d{4}-\d{2}-\d{2}$/.test(text)) return null;
  const time = Date.parse(`${text}T23:59:59Z`);
  return Number.isNaN(time) ? null : new Date(time);
}
