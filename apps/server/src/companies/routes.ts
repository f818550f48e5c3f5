import { Router } from 'express';
import { openYearSchema } from '@wise-margin/contract';
import type { Actor } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import type { BooksKeeper } from './books.ts';
import { describeCompany, listCompanies, openFiscalYear } from './service.ts';

export function companyRoutes(options: { readonly database: Database; readonly keeper: BooksKeeper; readonly actor: Actor }): Router {
  const { database, keeper, actor } = options;
  const router = Router();
  router.get(
    '/companies',
    handle(async (_, response) => response.json(await listCompanies(database))),
  );
  router.get(
    '/companies/:company',
    handle(async (request, response) => response.json(await describeCompany(database, await keeper.of(numberIn(request, 'company'))))),
  );
  router.post(
    '/companies/:company/fiscal-years',
    handle(async (request, response) => {
      const companyId = numberIn(request, 'company');
      await openFiscalYear(database, keeper, { companyId, year: parse(openYearSchema, request.body).year, actor });
      response.status(201).json(await describeCompany(database, await keeper.of(companyId)));
    }),
  );
  return router;
}
