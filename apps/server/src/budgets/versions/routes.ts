import {
  basisPreviewRequestSchema,
  basisPreviewSchema,
  budgetGridQuerySchema,
  budgetGridSchema,
  budgetHistoryQuerySchema,
  budgetHistorySchema,
  budgetListSchema,
  budgetProposalQuerySchema,
  budgetProposalSchema,
  budgetSchema,
  budgetStateChangeSchema,
  checkListSchema,
  comparisonQuerySchema,
  comparisonSchema,
  copyBudgetSchema,
  explanationSchema,
  newBudgetPreviewRequestSchema,
  newBudgetPreviewSchema,
  newBudgetSchema,
  reforecastSchema,
  whatIfVersionSchema,
} from '@wise-margin/contract';
import { packBudgetGrid } from '@wise-margin/presentation';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import { BUDGET, BUDGETS } from '../paths.ts';
import type { BudgetCreation } from './budget-creation.ts';
import type { BudgetHistory } from './budget-history.ts';
import type { BudgetReview } from './budget-review.ts';
import type { BudgetService } from './budget-service.ts';

type Services = {
  readonly budgets: BudgetService;
  readonly creation: BudgetCreation;
  readonly review: BudgetReview;
  readonly history: BudgetHistory;
  readonly actor: Actor;
};

/** Budgets: the list, new ones, their states, checks, versions and history. */
export const versionRoutes = (services: Services): readonly Route[] => [
  ...listRoutes(services),
  ...oneBudgetRoutes(services),
  ...newVersionRoutes(services),
  ...reviewRoutes(services),
];

const listRoutes = ({ budgets, creation, actor }: Services): readonly Route[] => [
  route({
    method: 'get',
    path: BUDGETS,
    summary: 'Budgets, newest year first',
    response: budgetListSchema,
    handle: ({ path }) => budgets.list(path.company),
  }),
  route({
    method: 'post',
    path: BUDGETS,
    summary: 'Create a budget for all lines from another year',
    request: { body: newBudgetSchema },
    response: budgetSchema,
    status: 201,
    handle: ({ path, body }) => creation.create(path.company, body, actor),
  }),
  route({
    method: 'get',
    path: `${BUDGETS}/proposal`,
    summary: 'Proposal for a new budget: possible nonrecurring items, and a starting method for each account',
    request: { query: budgetProposalQuerySchema },
    response: budgetProposalSchema,
    handle: ({ path, query }) => creation.proposal(path.company, query),
  }),
  route({
    method: 'post',
    path: `${BUDGETS}/preview`,
    summary: 'Preview a new budget by account class beside the year it starts from',
    request: { body: newBudgetPreviewRequestSchema },
    response: newBudgetPreviewSchema,
    handle: ({ path, body }) => creation.preview(path.company, body),
  }),
];

const oneBudgetRoutes = ({ budgets, review, history, actor }: Services): readonly Route[] => [
  route({
    method: 'get',
    path: BUDGET,
    summary: 'A budget by month',
    request: { query: budgetGridQuerySchema },
    response: budgetGridSchema,
    handle: async ({ path, query }) => packBudgetGrid(await budgets.grid(path, query.filter)),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/basis-preview`,
    summary: 'Preview a basis for a row',
    request: { body: basisPreviewRequestSchema },
    response: basisPreviewSchema,
    handle: ({ path, body }) => budgets.previewBasis(path, body),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/state`,
    summary: 'Change the state of a budget',
    request: { body: budgetStateChangeSchema },
    response: budgetSchema,
    handle: ({ path, body }) => review.setState(path, body, actor),
  }),
  route({
    method: 'get',
    path: `${BUDGET}/history`,
    summary: 'History, newest first: who, when, from, to',
    request: { query: budgetHistoryQuerySchema },
    response: budgetHistorySchema,
    handle: ({ path, query }) => history.page(path, query),
  }),
];

const newVersionRoutes = ({ creation, actor }: Services): readonly Route[] => [
  route({
    method: 'post',
    path: `${BUDGET}/copies`,
    summary: 'Copy a budget to a new version',
    request: { body: copyBudgetSchema },
    response: budgetSchema,
    status: 201,
    handle: ({ path, body }) => creation.copy(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/what-ifs`,
    summary: 'A new version under changed assumptions',
    request: { body: whatIfVersionSchema },
    response: budgetSchema,
    status: 201,
    handle: ({ path, body }) => creation.whatIf(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/reforecasts`,
    summary: 'A new version whose posted months are actuals',
    request: { body: reforecastSchema },
    response: budgetSchema,
    status: 201,
    handle: ({ path, body }) => creation.reforecast(path, body, actor),
  }),
];

const reviewRoutes = ({ review, actor }: Services): readonly Route[] => [
  route({
    method: 'get',
    path: `${BUDGET}/checks`,
    summary: 'Budget checks',
    response: checkListSchema,
    handle: ({ path }) => review.checks(path),
  }),
  route({
    method: 'post',
    path: `${BUDGET}/explanations`,
    summary: 'Explain an item of the budget checks',
    request: { body: explanationSchema },
    response: checkListSchema,
    handle: ({ path, body }) => review.explain(path, body, actor),
  }),
  route({
    method: 'get',
    path: `${BUDGET}/comparison`,
    summary: 'Compare two versions line by line',
    request: { query: comparisonQuerySchema },
    response: comparisonSchema,
    handle: ({ path, query }) => review.compare(path, query.with),
  }),
];
