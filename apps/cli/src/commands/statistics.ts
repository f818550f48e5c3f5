import { existsSync } from 'node:fs';

import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

export type StatisticsOptions = {
  readonly company?: string | undefined;
  readonly file?: string | undefined;
  /** dimensions and values the ledger does not have are meant */
  readonly acceptNew?: boolean | undefined;
};

/** Imports a statistics file, all or nothing, and lists the series there are then. */
export async function importStatistics(application: Application, { company: named, file, acceptNew }: StatisticsOptions): Promise<Answer> {
  if (file === undefined) throw new UsageError('statistics needs --file F');
  if (!existsSync(file)) throw new RefusedError(`There is no file ${file}.`);
  const company = await chosenCompany(application, named);
  const { preview } = await application.statistics.preview(company.id, file);
  const unknown = [
    ...preview.newDimensions.map((name) => `column ${name} is not a dimension of the ledger`),
    ...preview.newValues.map(
      ({ dimension, value, near }) =>
        `${dimension} "${value}" is not in the ledger${near.length > 0 ? ` (did you mean ${near.join(' or ')}?)` : ''}`,
    ),
  ];
  if (unknown.length > 0 && acceptNew !== true)
    throw new RefusedError(`Nothing was imported: ${unknown.join('; ')}. Correct the file, or confirm with --accept-new.`);
  const { fingerprint } = preview;
  const answer = await application.statistics.importFile(company.id, { path: file, fingerprint, actor: application.actor });
  if (answer.kind !== 'imported') throw new RefusedError('The file changed while it was read. Try again.');
  const { periods, series } = answer.statistics;
  return {
    title: `${company.name}\nStatistics, ${periods[0] ?? 'no month'} to ${periods.at(-1) ?? 'no month'}`,
    headings: ['series', 'months'],
    rows: series.map(({ name, values }) => [name, String(values.filter((value) => value !== null).length)]),
    figures: new Set([1]),
    json: { company: company.name, periods, series },
  };
}
