import { changePeriodSchema, lastActualSchema, type LedgerPeriodsDto } from '@wise-margin/contract';
import { type PeriodState, shortPeriodName } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

export type PeriodsOptions = {
  readonly company?: string | undefined;
  readonly period?: string | undefined;
  readonly reason?: string | undefined;
  readonly earlier?: boolean | undefined;
  readonly soft?: boolean | undefined;
};
const STATE_WORDS: Readonly<Record<PeriodState, string>> = { open: 'open', softClosed: 'soft-closed', closed: 'closed' };

/** Every period with its status, the latest first. */
export async function listPeriods(application: Application, options: PeriodsOptions): Promise<Answer> {
  const company = await chosenCompany(application, options.company);
  return answerOf(company.name, await application.periods.list(company.id));
}

/** Closes or opens the period named as a month, `2026-09`, or as a fiscal year and number, `FY2027-13`. */
export async function changePeriod(application: Application, to: 'close' | 'open', options: PeriodsOptions): Promise<Answer> {
  const company = await chosenCompany(application, options.company);
  const { calendar } = await application.booksCache.of(company.id);
  const text = options.period ?? '';
  const numbered = /^FY(\d{4})-(\d{1,2})$/i.exec(text);
  const month = calendar.periods.find(({ key }) => key === text);
  if (!numbered && !month) throw new UsageError(`periods ${to} needs --period as a month, 2026-09, or as FY2027-13`);
  const [year, number] = numbered ? [Number(numbered[1]), Number(numbered[2])] : [month!.year, month!.number];
  const state = to === 'open' ? 'open' : options.soft === true ? 'softClosed' : 'closed';
  const change = changePeriodSchema.parse({ year, number, state, earlier: options.earlier ?? false, reason: options.reason ?? '' });
  return answerOf(company.name, await application.periods.change(company.id, change, application.actor));
}

/** Takes a month as the last one of actuals; without one, goes back to what closed months and postings say. */
export async function chooseLastActual(application: Application, options: PeriodsOptions): Promise<Answer> {
  const company = await chosenCompany(application, options.company);
  const { month } = lastActualSchema.parse({ month: options.period ?? null });
  const periods = await application.periods.setLastActual(company.id, month, application.actor);
  const { calendar, lastActual } = await application.booksCache.of(company.id);
  const answer = answerOf(company.name, periods);
  const words = lastActual === null ? 'none' : shortPeriodName(calendar, lastActual);
  return { ...answer, title: `${answer.title}\nLast month of actuals: ${words}` };
}

function answerOf(company: string, { periods, people }: LedgerPeriodsDto): Answer {
  const headings = ['period', 'fiscal year', 'number', 'status', 'entries', 'drafts'];
  const rows = periods
    .filter(({ entries, state }) => entries > 0 || state !== 'open')
    .map(({ name, year, number, state, entries, drafts }) => [
      name,
      String(year),
      String(number),
      STATE_WORDS[state],
      String(entries),
      String(drafts),
    ]);
  return {
    title: `${company}\nPeriods with entries or closed${people.length > 0 ? `; ${people.join(', ')} may post in soft-closed ones` : ''}`,
    headings,
    rows,
    figures: new Set([2, 4, 5]),
    json: { company, people, periods },
  };
}
