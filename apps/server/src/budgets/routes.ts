import type { Actor } from '../database/audit.ts';
import type { Route } from '../http/route.ts';
import type { BalancePlanService } from './balance-plan/balance-plan-service.ts';
import { balancePlanRoutes } from './balance-plan/routes.ts';
import type { BudgetFileService } from './files/budget-file-service.ts';
import { budgetFileRoutes } from './files/routes.ts';
import type { NonrecurringService } from './nonrecurring/nonrecurring-service.ts';
import { nonrecurringRoutes } from './nonrecurring/routes.ts';
import type { BudgetCreation } from './versions/budget-creation.ts';
import type { BudgetHistory } from './versions/budget-history.ts';
import type { BudgetReview } from './versions/budget-review.ts';
import type { BudgetService } from './versions/budget-service.ts';
import { versionRoutes } from './versions/routes.ts';
import { worksheetRoutes } from './worksheet/routes.ts';
import type { WorksheetService } from './worksheet/worksheet-service.ts';

type Services = {
  readonly budgets: BudgetService;
  readonly budgetCreation: BudgetCreation;
  readonly budgetReview: BudgetReview;
  readonly worksheets: WorksheetService;
  readonly budgetHistory: BudgetHistory;
  readonly balancePlans: BalancePlanService;
  readonly nonrecurring: NonrecurringService;
  readonly budgetFiles: BudgetFileService;
  readonly directory: string;
  readonly actor: Actor;
};

/** All of budgets in the API. */
export const budgetRoutes = (services: Services): readonly Route[] => [
  ...versionRoutes({
    ...services,
    creation: services.budgetCreation,
    review: services.budgetReview,
    history: services.budgetHistory,
  }),
  ...worksheetRoutes(services.worksheets, services.actor),
  ...balancePlanRoutes(services.balancePlans, services.actor),
  ...nonrecurringRoutes(services.nonrecurring, services.actor),
  ...budgetFileRoutes(services),
];
