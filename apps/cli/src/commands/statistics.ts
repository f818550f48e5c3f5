import { existsSync } from 'node:fs';
import type { Application } from '@wise-margin/server';
import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type StatisticsOptions = { readonly company?: string | undefined; readonly file?: string | undefined };

/** Takes a statistics file in, all or nothing, and lists the series there are then. */
export async function bringStatistics(application: Application, { company: named, file }: StatisticsOptions): Promise<Answer> {
  if (file === undefined) throw new UsageError('statistics needs --file F');
  if (!existsSync(file)) throw new RefusedError(`There is no file ${file}.`);
  const company = await chosenCompany(application, named);
  const { periods, series } = await application.statistics.bringIn(company.id, file, application.actor);
  return {
    title: `${company.name}\nStatistics, ${periods[0] ?? 'no month'} to ${periods.at(-1) ?? 'no month'}`,
    headings: ['series', 'months'],
    rows: series.map(({ name, values }) => [name, String(values.filter((value) => value !== null).length)]),
    figures: new Set([1]),
    json: { company: company.name, periods, series },
  };
}
