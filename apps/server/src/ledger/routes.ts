import { Router } from 'express';
import { entriesQuerySchema, fiscalYearSchema, trialBalanceQuerySchema } from '@wise-margin/contract';
import { handle, numberIn, parse } from '../http/route.ts';
import type { LedgerService } from './service.ts';

export function ledgerRoutes(ledger: LedgerService): Router {
  const router = Router();
  router.get(
    '/companies/:company/accounts',
    handle(async (request, response) =>
      response.json(await ledger.accounts(numberIn(request, 'company'), parse(fiscalYearSchema, request.query.year))),
    ),
  );
  router.get(
    '/companies/:company/trial-balance',
    handle(async (request, response) => {
      const { asOf, filter } = parse(trialBalanceQuerySchema, request.query);
      response.json(await ledger.trialBalance(numberIn(request, 'company'), asOf, filter));
    }),
  );
  router.get(
    '/companies/:company/accounts/:number/entries',
    handle(async (request, response) =>
      response.json(
        await ledger.entries(numberIn(request, 'company'), String(request.params.number), parse(entriesQuerySchema, request.query)),
      ),
    ),
  );
  router.get(
    '/companies/:company/draft-entries',
    handle(async (request, response) => response.json(await ledger.draftEntries(numberIn(request, 'company')))),
  );
  router.get(
    '/companies/:company/entries/:entry',
    handle(async (request, response) => response.json(await ledger.entry(numberIn(request, 'company'), numberIn(request, 'entry')))),
  );
  return router;
}
