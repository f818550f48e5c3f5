import {
  bankFileAnswerSchema,
  bankFileFieldsSchema,
  clearLinesSchema,
  explainDifferenceSchema,
  forceDifferenceSchema,
  markOutstandingSchema,
  postAdjustmentSchema,
  reconciliationQuerySchema,
  reconciliationSchema,
} from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import { type Route, route } from '../http/route.ts';
import { requiredUpload } from '../http/upload.ts';
import type { ClearingService } from './clearing-service.ts';
import type { ReconciliationService } from './reconciliation-service.ts';
import type { StatementImport } from './statement-import.ts';

const MOST_BYTES = 20 * 1024 ** 2;
const PATH = '/companies/:company/reconciliation';
type Services = {
  readonly reconciliation: ReconciliationService;
  readonly clearings: ClearingService;
  readonly statementImport: StatementImport;
  readonly directory: string;
  readonly actor: Actor;
};

/** Bank reconciliation: statements, what is cleared with what, and entries for what the ledger lacks. */
export const reconciliationRoutes = ({ reconciliation, clearings, statementImport, directory, actor }: Services): readonly Route[] => [
  route({
    method: 'get',
    path: PATH,
    summary: 'A cash account against its bank statements as of a day, with proposals for what is the same money',
    request: { query: reconciliationQuerySchema },
    response: reconciliationSchema,
    handle: ({ path, query }) => reconciliation.describe(path.company, query),
  }),
  route({
    method: 'post',
    path: `${PATH}/statements`,
    summary: 'Preview a bank statement (CSV, OFX or camt.053), or import it with the fingerprint of its preview',
    request: { form: { files: ['statement'], directory, mostBytes: MOST_BYTES }, body: bankFileFieldsSchema },
    response: bankFileAnswerSchema,
    handle: ({ path, body, uploads }) => {
      const file = requiredUpload(uploads, 'statement', 'Choose a bank statement.');
      return statementImport.take(path.company, body, { ...file, actor });
    },
  }),
  route({
    method: 'delete',
    path: `${PATH}/statements/:bankStatement`,
    summary: 'Remove a bank statement and what was cleared with it; entries stay',
    response: null,
    handle: ({ path }) => statementImport.remove(path.company, path.bankStatement, actor),
  }),
  route({
    method: 'post',
    path: `${PATH}/clearings`,
    summary: 'Mark lines of the statement and of the ledger as the same money',
    request: { body: clearLinesSchema },
    response: null,
    handle: ({ path, body }) => clearings.clear(path.company, body, actor),
  }),
  route({
    method: 'delete',
    path: `${PATH}/clearings/:clearing`,
    summary: 'Take a clearing back; an entry posted with it stays',
    response: null,
    handle: ({ path }) => clearings.unclear(path.company, path.clearing, actor),
  }),
  route({
    method: 'post',
    path: `${PATH}/adjustments`,
    summary: 'Post a line of the statement that the ledger lacks, and clear it',
    request: { body: postAdjustmentSchema },
    response: null,
    handle: ({ path, body }) => clearings.postAdjustment(path.company, body, actor),
  }),
  route({
    method: 'post',
    path: `${PATH}/differences`,
    summary: 'Clear lines that do not add up, and post the difference to its watched account',
    request: { body: forceDifferenceSchema },
    response: null,
    handle: ({ path, body }) => clearings.force(path.company, body, actor),
  }),
  route({
    method: 'put',
    path: `${PATH}/differences/:clearing`,
    summary: 'Explain a forced difference',
    request: { body: explainDifferenceSchema },
    response: null,
    handle: ({ path, body }) => clearings.explain(path.company, path.clearing, { ...body, actor }),
  }),
  route({
    method: 'put',
    path: `${PATH}/outstanding`,
    summary: 'Mark a line before the first statement as outstanding, or no longer',
    request: { body: markOutstandingSchema },
    response: null,
    handle: ({ path, body }) => clearings.mark(path.company, body, actor),
  }),
];
