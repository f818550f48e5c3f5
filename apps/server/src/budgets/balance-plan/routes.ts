import { balancePlanSchema, balanceRuleChangeSchema, sessionQuerySchema } from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import { BUDGET } from '../paths.ts';
import type { BalancePlanService } from './balance-plan-service.ts';

/** Balance sheet and cash of a budget. */
export const balancePlanRoutes = (balancePlans: BalancePlanService, actor: Actor): readonly Route[] => [
  route({
    method: 'get',
    path: `${BUDGET}/balance-plan`,
    summary: 'Balance sheet and cash of a budget',
    request: { query: sessionQuerySchema },
    response: balancePlanSchema,
    handle: ({ path, query }) => balancePlans.plan(path, query.session),
  }),
  route({
    method: 'put',
    path: `${BUDGET}/balance-plan/rule`,
    summary: 'Set the method of a balance-sheet account; null resets it to history',
    request: { body: balanceRuleChangeSchema },
    response: balancePlanSchema,
    handle: ({ path, body }) => balancePlans.setRule(path, body, actor),
  }),
];
