import { type Application, openFiscalYear } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

/** Opens the fiscal year next to those held, and lists them. */
export async function openYear(
  application: Application,
  { company: named, year }: { readonly company?: string | undefined; readonly year?: string | undefined },
): Promise<Answer> {
  if (year === undefined || !/^\d{4}$/.test(year)) throw new UsageError('years open needs --year YYYY');
  const { id, name } = await chosenCompany(application, named);
  const { database, booksCache, actor } = application;
  await openFiscalYear(database, booksCache, { companyId: id, year: Number(year), actor });
  const { years } = await booksCache.of(id);
  return {
    title: `Fiscal years of ${name}`,
    headings: ['year'],
    rows: years.map((each) => [`FY${each}`]),
    figures: new Set(),
    json: { company: name, years },
  };
}
