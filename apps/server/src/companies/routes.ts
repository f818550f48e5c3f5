import { readFile } from 'node:fs/promises';

import { companyListSchema, companySchema, dimensionValuesSchema, measuresSchema, openYearSchema } from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { eventStream } from '../http/event-stream.ts';
import { notFound } from '../http/problem.ts';
import { download, type Route, route } from '../http/route.ts';
import { requiredUpload } from '../http/upload.ts';
import { knownDimensions } from './books.ts';
import type { BooksCache } from './books-cache.ts';
import type { LogoStore } from './logo.ts';
import type { PersonalChoices } from './personal-choices.ts';
import { describeCompany, listCompanies, openFiscalYear } from './service.ts';
import type { VersionFeed } from './version-feed.ts';

const MOST_BYTES = 5_000_000;
const MEASURES_CHOICE = 'measures';
type Services = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly versions: VersionFeed;
  readonly logos: LogoStore;
  readonly personalChoices: PersonalChoices;
  readonly actor: Actor;
};

/** Companies, their fiscal years, dimensions and logos. */
export function companyRoutes({ database, booksCache, versions, logos, personalChoices, actor }: Services): readonly Route[] {
  const logoPath = '/companies/:company/logo';
  return [
    route({
      method: 'get',
      path: '/companies',
      summary: 'Companies',
      response: companyListSchema,
      handle: () => listCompanies(database),
    }),
    route({
      method: 'get',
      path: '/companies/:company',
      summary: 'A company with its calendar and dimensions',
      response: companySchema,
      handle: async ({ path }) => describeCompany(database, await booksCache.of(path.company)),
    }),
    route({
      method: 'get',
      path: '/companies/:company/overview-measures',
      summary: 'The measures that a person has on the overview; null while none were chosen',
      response: measuresSchema,
      handle: async ({ path }) => measuresSchema.parse({ measures: await personalChoices.of(path.company, MEASURES_CHOICE, actor) }),
    }),
    route({
      method: 'put',
      path: '/companies/:company/overview-measures',
      summary: 'Choose the measures on the overview',
      request: { body: measuresSchema },
      response: measuresSchema,
      handle: async ({ path, body }) => {
        await booksCache.of(path.company);
        await personalChoices.set(path.company, { name: MEASURES_CHOICE, choice: body.measures, actor });
        return body;
      },
    }),
    download({
      method: 'get',
      path: '/companies/:company/events',
      summary: 'The version of a company’s books as server-sent events: the one there is, then each newer one',
      type: 'text/event-stream',
      handle: async ({ path, signal }) => {
        await booksCache.of(path.company);
        return {
          content: [eventStream<{ version: number }>((next) => versions.listen(path.company, (version) => next({ version })), signal)],
        };
      },
    }),
    route({
      method: 'post',
      path: '/companies/:company/fiscal-years',
      summary: 'Add the next fiscal year',
      request: { body: openYearSchema },
      response: companySchema,
      status: 201,
      handle: async ({ path, body }) => {
        await openFiscalYear(database, booksCache, { companyId: path.company, year: body.year, actor });
        return describeCompany(database, await booksCache.of(path.company));
      },
    }),
    route({
      method: 'get',
      path: '/companies/:company/dimensions/:dimension',
      summary: 'The values of a dimension',
      response: dimensionValuesSchema,
      handle: async ({ path: { company, dimension } }) => {
        const values = knownDimensions(await booksCache.of(company)).get(dimension);
        if (!values) throw notFound(`dimension "${dimension}"`);
        return { name: dimension, values: [...values] };
      },
    }),
    download({
      method: 'get',
      path: logoPath,
      summary: 'The logo',
      type: 'image/*',
      handle: async ({ path }) => {
        const logo = await logos.of((await booksCache.of(path.company)).id);
        if (!logo) throw notFound('logo of the company');
        return { content: Buffer.from(logo.base64, 'base64'), type: logo.type };
      },
    }),
    route({
      method: 'put',
      path: logoPath,
      summary: 'Set the logo, PNG or JPEG',
      request: { form: { files: ['logo'], directory: database.directory, mostBytes: MOST_BYTES } },
      response: companySchema,
      handle: async ({ path, uploads }) => {
        const file = requiredUpload(uploads, 'logo', 'Choose a PNG or JPEG picture.');
        const { id } = await booksCache.of(path.company);
        await logos.put(id, await readFile(file.path), actor);
        return describeCompany(database, await booksCache.of(id));
      },
    }),
    route({
      method: 'delete',
      path: logoPath,
      summary: 'Remove the logo',
      response: null,
      handle: async ({ path }) => logos.remove((await booksCache.of(path.company)).id, actor),
    }),
  ];
}
