import type { Application } from '@wise-margin/server';

import { RefusedError } from './usage.ts';

/** The company a verb is about: the one named, else the first. */
export async function chosenCompany(application: Application, name: string | undefined): Promise<{ id: number; name: string }> {
  const companies = (await application.database.models.companies.findAll({ order: [['id', 'ASC']] })).map(({ id, name: held }) => ({
    id,
    name: held,
  }));
  const found = name === undefined ? companies[0] : companies.find((company) => company.name.toLowerCase() === name.toLowerCase());
  if (found) return found;
  if (companies.length === 0)
    throw new RefusedError(
      'There is no company yet. Create one with: wm import --company NAME --currency USD --year-starts 4 --accounts FILE --ledger FILE, or: wm demo',
    );
  throw new RefusedError(`There is no company named ${name}. There are: ${companies.map((company) => company.name).join(', ')}.`);
}
