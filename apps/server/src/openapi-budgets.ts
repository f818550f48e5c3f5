import {
  budgetFileEffectSchema,
  budgetFileQuerySchema,
  comparisonQuerySchema,
  comparisonSchema,
  reforecastSchema,
  explanationSchema,
  checkListSchema,
  whatIfVersionSchema,
  balancePlanSchema,
  balanceRuleChangeSchema,
  basisPreviewRequestSchema,
  basisPreviewSchema,
  budgetProposalQuerySchema,
  budgetProposalSchema,
  budgetChangesQuerySchema,
  budgetEditRequestSchema,
  budgetGridQuerySchema,
  budgetGridSchema,
  budgetHistoryQuerySchema,
  budgetHistorySchema,
  budgetListSchema,
  budgetSchema,
  budgetStateChangeSchema,
  copyBudgetSchema,
  worksheetAnswerSchema,
  worksheetSchema,
  newBudgetSchema,
  newNonrecurringItemSchema,
  nonrecurringListSchema,
  nonrecurringQuerySchema,
  rederiveRequestSchema,
  sessionQuerySchema,
  stepRequestSchema,
} from '@wise-margin/contract';
import { z } from 'zod';
import type { ZodOpenApiPathsObject } from 'zod-openapi';
import { operation } from './http/openapi-operation.ts';

const COMPANY = ['company'] as const;
const BUDGET = ['company', 'budget'] as const;
/** The paths of budgets and of nonrecurring items. */
export const BUDGET_PATHS: ZodOpenApiPathsObject = {
  '/api/companies/{company}/budgets': {
    get: operation({ summary: 'Budgets, newest year first', path: COMPANY, answer: budgetListSchema }),
    post: operation({
      summary: 'Create a budget for all lines from another year',
      path: COMPANY,
      body: newBudgetSchema,
      answer: budgetSchema,
      status: '201',
    }),
  },
  '/api/companies/{company}/budgets/proposal': {
    get: operation({
      summary: 'Proposal for a new budget: possible nonrecurring items, and a starting method for each account',
      path: COMPANY,
      query: budgetProposalQuerySchema,
      answer: budgetProposalSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}': {
    get: operation({
      summary: 'A budget by month',
      path: BUDGET,
      query: budgetGridQuerySchema,
      answer: budgetGridSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/edits': {
    post: operation({
      summary: 'Apply edits as entered; rejected edits are listed and the others are kept',
      path: BUDGET,
      body: budgetEditRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/basis-preview': {
    post: operation({
      summary: 'Preview a basis for a row',
      path: BUDGET,
      body: basisPreviewRequestSchema,
      answer: basisPreviewSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/state': {
    post: operation({
      summary: 'Change the state of a budget',
      path: BUDGET,
      body: budgetStateChangeSchema,
      answer: budgetSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/worksheet': {
    get: operation({
      summary: 'A budget with the history it is calculated from',
      path: BUDGET,
      query: sessionQuerySchema,
      answer: worksheetSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/balance-plan': {
    get: operation({
      summary: 'Balance sheet and cash of a budget',
      path: BUDGET,
      query: sessionQuerySchema,
      answer: balancePlanSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/balance-plan/rule': {
    put: operation({
      summary: 'Set the method of a balance-sheet account; null resets it to history',
      path: BUDGET,
      body: balanceRuleChangeSchema,
      answer: balancePlanSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/undo': {
    post: operation({
      summary: 'Undo the latest change of a session',
      path: BUDGET,
      body: stepRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/redo': {
    post: operation({
      summary: 'Redo the change that was undone',
      path: BUDGET,
      body: stepRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/recalculate': {
    post: operation({
      summary: 'Recalculate lines from their bases',
      path: BUDGET,
      body: rederiveRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/changes': {
    get: operation({
      summary: 'Changes since a version',
      path: BUDGET,
      query: budgetChangesQuerySchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/history': {
    get: operation({
      summary: 'History, newest first: who, when, from, to',
      path: BUDGET,
      query: budgetHistoryQuerySchema,
      answer: budgetHistorySchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/copies': {
    post: operation({
      summary: 'Copy a budget to a new version',
      path: BUDGET,
      body: copyBudgetSchema,
      answer: budgetSchema,
      status: '201',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/checks': {
    get: operation({ summary: 'Budget checks', path: BUDGET, answer: checkListSchema }),
  },
  '/api/companies/{company}/budgets/{budget}/explanations': {
    post: operation({ summary: 'Explain an item of the budget checks', path: BUDGET, body: explanationSchema, answer: checkListSchema }),
  },
  '/api/companies/{company}/budgets/{budget}/comparison': {
    get: operation({
      summary: 'Compare two versions line by line',
      path: BUDGET,
      query: comparisonQuerySchema,
      answer: comparisonSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/what-ifs': {
    post: operation({
      summary: 'A new version under changed assumptions',
      path: BUDGET,
      body: whatIfVersionSchema,
      answer: budgetSchema,
      status: '201',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/reforecasts': {
    post: operation({
      summary: 'A new version whose posted months are actuals',
      path: BUDGET,
      body: reforecastSchema,
      answer: budgetSchema,
      status: '201',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/export.csv': {
    get: operation({
      summary: 'Account, period, amount and dimensions',
      path: BUDGET,
      query: budgetFileQuerySchema,
      answer: z.string(),
      type: 'text/csv',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/export.xlsx': {
    get: operation({
      summary: 'Budget template as a spreadsheet',
      path: BUDGET,
      query: budgetFileQuerySchema,
      answer: z.string().meta({ format: 'binary' }),
      type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/files': {
    post: operation({
      summary: 'Preview the changes in a completed file; with the field "apply" set to yes they are made (multipart, field "file")',
      path: BUDGET,
      answer: budgetFileEffectSchema,
    }),
  },
  '/api/companies/{company}/nonrecurring-items': {
    get: operation({
      summary: 'Nonrecurring items',
      path: COMPANY,
      query: nonrecurringQuerySchema,
      answer: nonrecurringListSchema,
    }),
    post: operation({
      summary: 'Exclude an entry or a month',
      path: COMPANY,
      body: newNonrecurringItemSchema,
      answer: nonrecurringListSchema,
      status: '201',
    }),
  },
  '/api/companies/{company}/nonrecurring-items/{nonrecurringItem}': {
    delete: operation({ summary: 'Include again', path: ['company', 'nonrecurringItem'], answer: null, status: '204' }),
  },
};
