import { Router } from 'express';
import {
  basisPreviewRequestSchema,
  budgetEditRequestSchema,
  budgetGridQuerySchema,
  budgetStateChangeSchema,
  newBudgetSchema,
  packBudgetGrid,
} from '@wise-margin/contract';
import type { Actor } from '../database/audit.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import type { BudgetService } from './service.ts';

export function budgetRoutes(budgets: BudgetService, actor: Actor): Router {
  const router = Router();
  const at = '/companies/:company/budgets';
  router.get(
    at,
    handle(async (request, response) => response.json(await budgets.list(numberIn(request, 'company')))),
  );
  router.post(
    at,
    handle(async (request, response) =>
      response.status(201).json(await budgets.create(numberIn(request, 'company'), parse(newBudgetSchema, request.body), actor)),
    ),
  );
  router.get(
    `${at}/:budget`,
    handle(async (request, response) =>
      response.json(
        packBudgetGrid(
          await budgets.grid(numberIn(request, 'company'), numberIn(request, 'budget'), parse(budgetGridQuerySchema, request.query).filter),
        ),
      ),
    ),
  );
  router.post(
    `${at}/:budget/edits`,
    handle(async (request, response) =>
      response.json(
        packBudgetGrid(
          await budgets.edit(
            numberIn(request, 'company'),
            numberIn(request, 'budget'),
            parse(budgetEditRequestSchema, request.body),
            actor,
          ),
        ),
      ),
    ),
  );
  router.post(
    `${at}/:budget/basis-preview`,
    handle(async (request, response) =>
      response.json(
        await budgets.previewBasis(
          numberIn(request, 'company'),
          numberIn(request, 'budget'),
          parse(basisPreviewRequestSchema, request.body),
        ),
      ),
    ),
  );
  router.post(
    `${at}/:budget/state`,
    handle(async (request, response) =>
      response.json(
        await budgets.setState(
          numberIn(request, 'company'),
          numberIn(request, 'budget'),
          parse(budgetStateChangeSchema, request.body).state,
          actor,
        ),
      ),
    ),
  );
  return router;
}
