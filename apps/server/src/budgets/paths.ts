/** Budgets of a company, and one of them, in the API. */
export const BUDGETS = '/companies/:company/budgets';
export const BUDGET = `${BUDGETS}/:budget` as const;
