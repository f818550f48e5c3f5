import { Router } from 'express';
import { openYearSchema } from '@wise-margin/contract';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import { uploadOf, uploadedFiles } from '../http/upload.ts';
import { notFound, refused } from '../http/problem.ts';
import { knownDimensions } from './books.ts';
import type { BooksCache } from './books-cache.ts';
import { LogoStore } from './logo.ts';
import { describeCompany, listCompanies, openFiscalYear } from './service.ts';

export function companyRoutes(options: { readonly database: Database; readonly booksCache: BooksCache; readonly actor: Actor }): Router {
  const { database, booksCache, actor } = options;
  const router = Router();
  router.get(
    '/companies',
    handle(async (_, response) => response.json(await listCompanies(database))),
  );
  router.get(
    '/companies/:company',
    handle(async (request, response) => response.json(await describeCompany(database, await booksCache.of(numberIn(request, 'company'))))),
  );
  router.post(
    '/companies/:company/fiscal-years',
    handle(async (request, response) => {
      const companyId = numberIn(request, 'company');
      await openFiscalYear(database, booksCache, { companyId, year: parse(openYearSchema, request.body).year, actor });
      response.status(201).json(await describeCompany(database, await booksCache.of(companyId)));
    }),
  );
  router.get(
    '/companies/:company/dimensions/:dimension',
    handle(async (request, response) => {
      const name = String(request.params['dimension']);
      const values = knownDimensions(await booksCache.of(numberIn(request, 'company'))).get(name);
      if (!values) throw notFound(`dimension "${name}"`);
      response.json({ name, values });
    }),
  );
  const logos = new LogoStore(database);
  router.get(
    '/companies/:company/logo',
    handle(async (request, response) => {
      const logo = await logos.of((await booksCache.of(numberIn(request, 'company'))).id);
      if (!logo) throw notFound('logo of the company');
      response.type(logo.type).send(Buffer.from(logo.base64, 'base64'));
    }),
  );
  const upload = uploadOf([{ name: 'logo', maxCount: 1 }], { directory: null, mostBytes: 5_000_000 });
  router.put('/companies/:company/logo', upload, (request, response, next) => {
    handle(async () => {
      const file = uploadedFiles(request.files)['logo']?.[0];
      if (!file) throw refused('Choose a PNG or JPEG picture.', 'logo');
      const { id } = await booksCache.of(numberIn(request, 'company'));
      await logos.put(id, file.buffer, actor);
      response.json(await describeCompany(database, await booksCache.of(id)));
    })(request, response, next);
  });
  router.delete(
    '/companies/:company/logo',
    handle(async (request, response) => {
      await logos.remove((await booksCache.of(numberIn(request, 'company'))).id, actor);
      response.status(204).end();
    }),
  );
  return router;
}
