export { budgetBooksOf, headOf } from './budget-books.ts';
export { BudgetStore } from './budget-store.ts';
export type { StoredBudget } from './budget-store.ts';
export { ChangeLog, changeOf } from './change-log.ts';
export type { ChangeRow, LoggedChange, RuleChange } from './change-log.ts';
export { ruleFormat } from './rule-format.ts';
