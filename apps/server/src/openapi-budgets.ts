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
/** The paths of budgets and of what is not recurring. */
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
      summary: 'What a new budget from a year would start with: amounts that may not recur, a method for each account',
      path: COMPANY,
      query: budgetProposalQuerySchema,
      answer: budgetProposalSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}': {
    get: operation({
      summary: 'A budget as a month grid',
      path: BUDGET,
      query: budgetGridQuerySchema,
      answer: budgetGridSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/edits': {
    post: operation({
      summary: 'Edits as they were typed; those that cannot be done are told and the rest stands',
      path: BUDGET,
      body: budgetEditRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/basis-preview': {
    post: operation({
      summary: 'What a basis would give a row',
      path: BUDGET,
      body: basisPreviewRequestSchema,
      answer: basisPreviewSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/state': {
    post: operation({
      summary: 'Take a budget to another state',
      path: BUDGET,
      body: budgetStateChangeSchema,
      answer: budgetSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/worksheet': {
    get: operation({ summary: 'A budget with all it draws on', path: BUDGET, query: sessionQuerySchema, answer: worksheetSchema }),
  },
  '/api/companies/{company}/budgets/{budget}/balance-plan': {
    get: operation({
      summary: 'A budget carried into balance sheet and cash',
      path: BUDGET,
      query: sessionQuerySchema,
      answer: balancePlanSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/balance-plan/rule': {
    put: operation({
      summary: 'How a balance-sheet account moves; null takes it back to what history gives',
      path: BUDGET,
      body: balanceRuleChangeSchema,
      answer: balancePlanSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/undo': {
    post: operation({
      summary: 'Take the newest change of a session back',
      path: BUDGET,
      body: stepRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/redo': {
    post: operation({
      summary: 'Make the change that was taken back again',
      path: BUDGET,
      body: stepRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/recalculate': {
    post: operation({
      summary: 'Derive lines from their bases anew',
      path: BUDGET,
      body: rederiveRequestSchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/changes': {
    get: operation({
      summary: 'What was saved since a version',
      path: BUDGET,
      query: budgetChangesQuerySchema,
      answer: worksheetAnswerSchema,
    }),
  },
  '/api/companies/{company}/budgets/{budget}/history': {
    get: operation({
      summary: 'What happened to it, the newest first: who, when, from, to',
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
    get: operation({ summary: 'What of a budget wants a second look', path: BUDGET, answer: checkListSchema }),
  },
  '/api/companies/{company}/budgets/{budget}/explanations': {
    post: operation({ summary: 'Answer a finding of the checks list', path: BUDGET, body: explanationSchema, answer: checkListSchema }),
  },
  '/api/companies/{company}/budgets/{budget}/comparison': {
    get: operation({
      summary: 'Two versions line by line with the reasons',
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
      summary: 'A spreadsheet to be filled in',
      path: BUDGET,
      query: budgetFileQuerySchema,
      answer: z.string().meta({ format: 'binary' }),
      type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    }),
  },
  '/api/companies/{company}/budgets/{budget}/files': {
    post: operation({
      summary: 'What a file that was filled in would change; with the field "apply" set to yes it is changed (multipart, field "file")',
      path: BUDGET,
      answer: budgetFileEffectSchema,
    }),
  },
  '/api/companies/{company}/nonrecurring-items': {
    get: operation({
      summary: 'What of the ledger is not recurring',
      path: COMPANY,
      query: nonrecurringQuerySchema,
      answer: nonrecurringListSchema,
    }),
    post: operation({
      summary: 'Leave an entry or a month out',
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
