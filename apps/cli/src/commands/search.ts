import { searchQuerySchema } from '@wise-margin/contract';
import { minor, toDecimalText } from '@wise-margin/core';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { UsageError } from '../usage.ts';

/** Everything of a company that a text can mean, the likeliest first. @throws UsageError without a text */
export async function searchCompany(
  application: Application,
  values: Readonly<Record<string, string | boolean | undefined>>,
): Promise<Answer> {
  const { find } = values;
  if (typeof find !== 'string' || find.trim() === '') throw new UsageError('search needs --find, such as --find freight or --find ">50k"');
  const { id, name } = await chosenCompany(application, values['company'] as string | undefined);
  const query = searchQuerySchema.parse({ q: find, asOf: values['as-of'] });
  await application.entryIndex.follow();
  const { hits, moreEntries } = await application.search.search(id, query);
  const { exponent } = (await application.booksCache.of(id)).currency;
  const more = moreEntries === null ? '' : `; more entries: wm entries --find "${find}"`;
  return {
    title: `${name}\n${hits.length === 0 ? 'Nothing found' : `${hits.length} found${more}`} for ${find}`,
    headings: ['kind', 'name', 'detail', 'amount', 'address'],
    rows: hits.map(({ kind, name: hit, detail, amount, link }) => [
      kind,
      hit,
      detail,
      amount === null ? '' : toDecimalText(minor(amount), exponent),
      link,
    ]),
    figures: new Set([3]),
    json: { company: name, hits },
  };
}
