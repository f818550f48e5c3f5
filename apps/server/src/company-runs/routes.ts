import { companyRunFilesQuerySchema, companyRunListSchema, companyRunRequestSchema, companyRunSchema } from '@wise-margin/contract';

import { download, type Route, route } from '../http/route.ts';
import type { CompanyRuns } from './run-service.ts';

const RUNS = '/company-runs';
const RUN = `${RUNS}/:companyRun` as const;

/** One pack issued for several companies. */
export const companyRunRoutes = ({
  companyRuns,
  mailSender,
}: {
  readonly companyRuns: CompanyRuns;
  readonly mailSender: { readonly wake: () => void };
}): readonly Route[] => [
  route({
    method: 'get',
    path: RUNS,
    summary: 'Runs over several companies, the latest first',
    response: companyRunListSchema,
    handle: () => companyRuns.list(),
  }),
  route({
    method: 'post',
    path: RUNS,
    summary: 'Issue a pack for several companies',
    request: { body: companyRunRequestSchema },
    response: companyRunSchema,
    status: 202,
    handle: async ({ body }) => {
      const run = await companyRuns.start(body);
      void companyRuns.settled(run.id).then(() => mailSender.wake());
      return run;
    },
  }),
  route({
    method: 'get',
    path: RUN,
    summary: 'A run with what became of each company',
    response: companyRunSchema,
    handle: ({ path }) => companyRuns.of(path.companyRun),
  }),
  download({
    method: 'get',
    path: `${RUN}/files.zip`,
    summary: 'The files of a run, a folder for each company',
    request: { query: companyRunFilesQuerySchema },
    type: 'application/zip',
    handle: ({ path, query }) => companyRuns.zip(path.companyRun, query.format),
  }),
];
