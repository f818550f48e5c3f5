import {
  accountListSchema,
  companyListSchema,
  companySchema,
  demoSchema,
  draftEntriesSchema,
  entriesQuerySchema,
  exportQuerySchema,
  entryLinesSchema,
  entrySchema,
  packedGridSchema,
  importSchema,
  openYearSchema,
  statementQuerySchema,
  stripSchema,
  drillDownQuerySchema,
  lineTrendQuerySchema,
  lineTrendsSchema,
  benchmarkChangeSchema,
  benchmarkListSchema,
  choicesSchema,
  dimensionValuesSchema,
  statisticsAnswerSchema,
  statisticsSchema,
  drillDownSchema,
  newViewSchema,
  previewRequestSchema,
  previewSchema,
  viewChangeSchema,
  viewListSchema,
  viewSchema,
  trialBalanceQuerySchema,
  trialBalanceSchema,
} from '@wise-margin/contract';
import { z } from 'zod';
import { createDocument, type ZodOpenApiPathsObject } from 'zod-openapi';
import { BUDGET_PATHS } from './openapi-budgets.ts';
import { operation } from './http/openapi-operation.ts';

const VIEW = ['company', 'view'] as const;
const COMPANY = ['company'] as const;
const text = z.string();
const upload = z.object({
  accounts: text.optional().meta({ format: 'binary' }),
  ledger: text.optional().meta({ format: 'binary' }),
  company: text.optional(),
  name: text.optional(),
  currency: text.optional(),
  startMonth: text.optional(),
  hasAdjustmentPeriod: text.optional(),
});
/** Every path the server answers; a test compares it with the routes. */
export const OPENAPI_PATHS: ZodOpenApiPathsObject = {
  '/api/demo-companies': {
    get: operation({ summary: 'The demo companies, whether they are there or being added', answer: demoSchema }),
    post: operation({ summary: 'Add the demo companies, in the background', answer: demoSchema, status: '202' }),
    delete: operation({ summary: 'Remove the demo companies with their ledgers, budgets and views', answer: null, status: '204' }),
  },
  '/api/sample-files/{name}': {
    get: operation({ summary: 'A sample import file as CSV: accounts or ledger', path: ['name'], answer: text, type: 'text/csv' }),
  },
  '/api/companies': { get: operation({ summary: 'Companies', answer: companyListSchema }) },
  '/api/companies/{company}': {
    get: operation({ summary: 'A company with its calendar and dimensions', path: COMPANY, answer: companySchema }),
  },
  '/api/companies/{company}/fiscal-years': {
    post: operation({ summary: 'Add the next fiscal year', path: COMPANY, body: openYearSchema, answer: companySchema, status: '201' }),
  },
  '/api/companies/{company}/dimensions/{dimension}': {
    get: operation({ summary: 'The values of a dimension', path: ['company', 'dimension'], answer: dimensionValuesSchema }),
  },
  '/api/companies/{company}/logo': {
    get: operation({ summary: 'The logo', path: COMPANY, answer: text.meta({ format: 'binary' }), type: 'image/*' }),
    put: operation({ summary: 'Set the logo, PNG or JPEG (multipart, field "logo")', path: COMPANY, answer: companySchema }),
    delete: operation({ summary: 'Remove the logo', path: COMPANY, answer: null, status: '204' }),
  },
  '/api/companies/{company}/accounts': {
    get: operation({
      summary: 'Accounts with totals by month',
      path: COMPANY,
      query: z.object({ year: z.number().int() }),
      answer: accountListSchema,
    }),
  },
  '/api/companies/{company}/trial-balance': {
    get: operation({ summary: 'Trial balance at a month end', path: COMPANY, query: trialBalanceQuerySchema, answer: trialBalanceSchema }),
  },
  '/api/companies/{company}/accounts/{number}/entries': {
    get: operation({
      summary: 'Posted lines of an account over a span',
      path: ['company', 'number'],
      query: entriesQuerySchema,
      answer: entryLinesSchema,
    }),
  },
  '/api/companies/{company}/draft-entries': {
    get: operation({ summary: 'Entries in draft, latest first', path: COMPANY, answer: draftEntriesSchema }),
  },
  '/api/companies/{company}/entries/{entry}': {
    get: operation({ summary: 'An entry with its two sides', path: ['company', 'entry'], answer: entrySchema }),
  },
  '/api/companies/{company}/imports': {
    get: operation({ summary: 'Imports, newest first', path: COMPANY, answer: z.array(importSchema) }),
  },
  '/api/imports': {
    post: {
      ...operation({ summary: 'Upload files; they are checked, not posted', answer: importSchema, status: '202' }),
      requestBody: { required: true, content: { 'multipart/form-data': { schema: upload } } },
    },
  },
  '/api/imports/{import}': {
    get: operation({ summary: 'An import with its preview and rejected rows', path: ['import'], answer: importSchema }),
    delete: operation({ summary: 'Discard an import that was not posted', path: ['import'], answer: null, status: '204' }),
  },
  '/api/imports/{import}/post': {
    post: operation({ summary: 'Post a checked import, all or nothing', path: ['import'], answer: importSchema }),
  },
  '/api/imports/{import}/issues.csv': {
    get: operation({ summary: 'Every rejected row', path: ['import'], answer: text, type: 'text/csv' }),
  },
  ...BUDGET_PATHS,
  '/api/companies/{company}/statistics': {
    get: operation({ summary: 'Statistics by month', path: COMPANY, answer: statisticsSchema }),
    post: operation({
      summary: 'Preview a statistics file, or import it with the fingerprint of its preview (multipart, field "statistics")',
      path: COMPANY,
      answer: statisticsAnswerSchema,
    }),
  },
  '/api/companies/{company}/views': {
    get: operation({ summary: 'The views of the library', path: COMPANY, answer: viewListSchema }),
    post: operation({ summary: 'Save a view', path: COMPANY, body: newViewSchema, answer: viewSchema, status: '201' }),
  },
  '/api/companies/{company}/views/{view}': {
    get: operation({ summary: 'The lines and columns of a view', path: VIEW, answer: viewSchema }),
    put: operation({ summary: 'Change or star a view', path: VIEW, body: viewChangeSchema, answer: viewSchema }),
    delete: operation({ summary: 'Remove a saved view', path: VIEW, answer: null, status: '204' }),
  },
  '/api/companies/{company}/views/{view}/choices': {
    put: operation({ summary: 'Save the latest choices for a view', path: VIEW, body: choicesSchema, answer: null, status: '204' }),
  },
  '/api/companies/{company}/statement-preview': {
    post: operation({ summary: 'A statement that is not saved', path: COMPANY, body: previewRequestSchema, answer: previewSchema }),
  },
  '/api/companies/{company}/period-strip': {
    get: operation({ summary: 'Operating income by month', path: COMPANY, query: statementQuerySchema, answer: stripSchema }),
  },
  '/api/companies/{company}/statements/{view}': {
    get: operation({ summary: 'A view', path: VIEW, query: statementQuerySchema, answer: packedGridSchema }),
  },
  '/api/companies/{company}/statements/{view}/drill-down': {
    get: operation({ summary: 'Drill-down of an amount', path: VIEW, query: drillDownQuerySchema, answer: drillDownSchema }),
  },
  '/api/companies/{company}/statements/{view}/line-trends': {
    get: operation({ summary: 'Lines by month', path: VIEW, query: lineTrendQuerySchema, answer: lineTrendsSchema }),
  },
  '/api/companies/{company}/statements/{view}/export.pdf': {
    get: operation({
      summary: 'A view as PDF',
      path: VIEW,
      query: exportQuerySchema,
      answer: text.meta({ format: 'binary' }),
      type: 'application/pdf',
    }),
  },
  '/api/companies/{company}/benchmarks': {
    get: operation({ summary: 'Benchmarks by line', path: COMPANY, answer: benchmarkListSchema }),
    put: operation({
      summary: 'Set or remove a benchmark',
      path: COMPANY,
      body: benchmarkChangeSchema,
      answer: benchmarkListSchema,
    }),
  },
  '/api/companies/{company}/statements/{view}/export.csv': {
    get: operation({ summary: 'A view as CSV', path: VIEW, query: exportQuerySchema, answer: text, type: 'text/csv' }),
  },
  '/api/companies/{company}/statements/{view}/export.xlsx': {
    get: operation({
      summary: 'A view as a spreadsheet with live formulas',
      path: VIEW,
      query: exportQuerySchema,
      answer: text.meta({ format: 'binary' }),
      type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    }),
  },
  '/api/openapi.json': { get: operation({ summary: 'This document', answer: z.object({}) }) },
  '/api/health': { get: operation({ summary: 'Health check', answer: z.object({ ok: z.boolean() }) }) },
};

/** The OpenAPI document, made from the schemas that parse the requests. */
export function openApiDocument(): object {
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Wise Margin',
      version: '0.1.0',
      description: 'Amounts are whole minor units of the company currency; ratios are fractions.',
    },
    paths: OPENAPI_PATHS,
  });
}
