import { Router, type Request } from 'express';
import {
  balanceRuleChangeSchema,
  basisPreviewRequestSchema,
  budgetProposalQuerySchema,
  budgetChangesQuerySchema,
  budgetEditRequestSchema,
  budgetGridQuerySchema,
  budgetHistoryQuerySchema,
  budgetStateChangeSchema,
  copyBudgetSchema,
  newBudgetSchema,
  newNonrecurringItemSchema,
  nonrecurringQuerySchema,
  comparisonQuerySchema,
  reforecastSchema,
  rederiveRequestSchema,
  explanationSchema,
  whatIfVersionSchema,
  sessionQuerySchema,
  stepRequestSchema,
} from '@wise-margin/contract';
import { packBudgetGrid } from '@wise-margin/presentation';
import type { Actor } from '../database/audit.ts';
import { handle, numberIn, parse } from '../http/route.ts';
import type { BalancePlanService } from './balance-plan/balance-plan-service.ts';
import type { WorksheetService } from './worksheet/worksheet-service.ts';
import type { BudgetHistory } from './versions/budget-history.ts';
import type { NonrecurringService } from './nonrecurring/nonrecurring-service.ts';
import type { PlanService } from './versions/plan-service.ts';
import type { BudgetService } from './versions/budget-service.ts';

const AT = '/companies/:company/budgets';
const ONE = `${AT}/:budget`;
const placeOf = (request: Request): [company: number, budget: number] => [numberIn(request, 'company'), numberIn(request, 'budget')];

/** Budgets: the list, making one, and its states. */
export function budgetRoutes({ budgets, plans }: { readonly budgets: BudgetService; readonly plans: PlanService }, actor: Actor): Router {
  const router = Router();
  router.get(
    AT,
    handle(async (request, response) => response.json(await budgets.list(numberIn(request, 'company')))),
  );
  router.post(
    AT,
    handle(async (request, response) =>
      response.status(201).json(await budgets.create(numberIn(request, 'company'), parse(newBudgetSchema, request.body), actor)),
    ),
  );
  router.get(
    `${AT}/proposal`,
    handle(async (request, response) =>
      response.json(await budgets.proposal(numberIn(request, 'company'), parse(budgetProposalQuerySchema, request.query))),
    ),
  );
  router.get(
    ONE,
    handle(async (request, response) =>
      response.json(packBudgetGrid(await budgets.grid(...placeOf(request), parse(budgetGridQuerySchema, request.query).filter))),
    ),
  );
  router.post(
    `${ONE}/basis-preview`,
    handle(async (request, response) =>
      response.json(await budgets.previewBasis(...placeOf(request), parse(basisPreviewRequestSchema, request.body))),
    ),
  );
  router.post(
    `${ONE}/copies`,
    handle(async (request, response) =>
      response.status(201).json(await budgets.copy(...placeOf(request), parse(copyBudgetSchema, request.body), actor)),
    ),
  );
  router.post(
    `${ONE}/state`,
    handle(async (request, response) =>
      response.json(await plans.setState(...placeOf(request), parse(budgetStateChangeSchema, request.body), actor)),
    ),
  );
  return router;
}

/** A plan as a whole: what wants a second look, versions side by side, reforecasts. */
export function planRoutes(plans: PlanService, actor: Actor): Router {
  const router = Router();
  router.get(
    `${ONE}/checks`,
    handle(async (request, response) => response.json(await plans.checks(...placeOf(request)))),
  );
  router.post(
    `${ONE}/explanations`,
    handle(async (request, response) =>
      response.json(await plans.answer(...placeOf(request), parse(explanationSchema, request.body), actor)),
    ),
  );
  router.get(
    `${ONE}/comparison`,
    handle(async (request, response) =>
      response.json(await plans.compare(...placeOf(request), parse(comparisonQuerySchema, request.query).with)),
    ),
  );
  router.post(
    `${ONE}/what-ifs`,
    handle(async (request, response) =>
      response.status(201).json(await plans.whatIf(...placeOf(request), parse(whatIfVersionSchema, request.body), actor)),
    ),
  );
  router.post(
    `${ONE}/reforecasts`,
    handle(async (request, response) =>
      response.status(201).json(await plans.reforecast(...placeOf(request), parse(reforecastSchema, request.body), actor)),
    ),
  );
  return router;
}

/** Budgets carried into balance sheet and cash. */
export function balancePlanRoutes(plans: BalancePlanService, actor: Actor): Router {
  const router = Router();
  router.get(
    `${ONE}/balance-plan`,
    handle(async (request, response) =>
      response.json(await plans.plan(...placeOf(request), parse(sessionQuerySchema, request.query).session)),
    ),
  );
  router.put(
    `${ONE}/balance-plan/rule`,
    handle(async (request, response) =>
      response.json(await plans.setRule(...placeOf(request), parse(balanceRuleChangeSchema, request.body), actor)),
    ),
  );
  return router;
}

/** A budget at work: all its worksheet draws on, edits, undo and redo, what was saved since, its history. */
export function worksheetRoutes(worksheets: WorksheetService, history: BudgetHistory, actor: Actor): Router {
  const router = Router();
  router.get(
    `${ONE}/worksheet`,
    handle(async (request, response) =>
      response.json(await worksheets.worksheet(...placeOf(request), parse(sessionQuerySchema, request.query).session)),
    ),
  );
  router.post(
    `${ONE}/edits`,
    handle(async (request, response) =>
      response.json(await worksheets.edit(...placeOf(request), parse(budgetEditRequestSchema, request.body), actor)),
    ),
  );
  router.post(
    `${ONE}/recalculate`,
    handle(async (request, response) =>
      response.json(await worksheets.rederive(...placeOf(request), parse(rederiveRequestSchema, request.body), actor)),
    ),
  );
  for (const step of ['undo', 'redo'] as const) {
    router.post(
      `${ONE}/${step}`,
      handle(async (request, response) =>
        response.json(await worksheets[step](...placeOf(request), parse(stepRequestSchema, request.body), actor)),
      ),
    );
  }
  router.get(
    `${ONE}/changes`,
    handle(async (request, response) =>
      response.json(await worksheets.changesSince(...placeOf(request), parse(budgetChangesQuerySchema, request.query))),
    ),
  );
  router.get(
    `${ONE}/history`,
    handle(async (request, response) =>
      response.json(await history.page(...placeOf(request), parse(budgetHistoryQuerySchema, request.query))),
    ),
  );
  return router;
}

/** What of the ledger is not recurring. */
export function nonrecurringRoutes(nonrecurring: NonrecurringService, actor: Actor): Router {
  const router = Router();
  const at = '/companies/:company/nonrecurring-items';
  router.get(
    at,
    handle(async (request, response) =>
      response.json(await nonrecurring.list(numberIn(request, 'company'), parse(nonrecurringQuerySchema, request.query).account)),
    ),
  );
  router.post(
    at,
    handle(async (request, response) =>
      response
        .status(201)
        .json(await nonrecurring.add(numberIn(request, 'company'), parse(newNonrecurringItemSchema, request.body), actor)),
    ),
  );
  router.delete(
    `${at}/:nonrecurringItem`,
    handle(async (request, response) => {
      await nonrecurring.remove(numberIn(request, 'company'), numberIn(request, 'nonrecurringItem'), actor);
      response.status(204).end();
    }),
  );
  return router;
}
