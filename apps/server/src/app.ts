import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Problem } from '@wise-margin/contract';
import { ZodError } from 'zod';
import type { Application } from './application.ts';
import { companyRoutes } from './companies/index.ts';
import { AmountOverflowError } from '@wise-margin/core';
import { balancePlanRoutes, budgetRoutes, worksheetRoutes, budgetFileRoutes, nonrecurringRoutes, planRoutes } from './budgets/index.ts';
import { demoRoutes } from './demo/index.ts';
import { importRoutes, ledgerRoutes, statisticsRoutes } from './ledger/index.ts';
import { statementRoutes } from './statements/index.ts';
import { isDiskFull } from './database/disk-full.ts';
import { refuseDeepJson } from './http/json-depth.ts';
import { openApiDocument } from './openapi.ts';
import { ProblemError } from './http/problem.ts';

export type AppOptions = {
  readonly application: Application;
  readonly logger: Logger;
  /** folder of the built web application; null serves the API alone */
  readonly webDirectory: string | null;
  /** names a browser may call this server by, beside 127.0.0.1 and localhost */
  readonly hostNames: readonly string[];
  readonly requestsPerMinute?: number;
};

const REQUESTS_PER_MINUTE = 6000;
const MOST_JSON = 4 * 1024 ** 2;

/** The Express application: hardened headers, the API, and the web application's files. */
export function createApp({ application, logger, webDirectory, hostNames, requestsPerMinute = REQUESTS_PER_MINUTE }: AppOptions): Express {
  const {
    database,
    booksCache,
    ledger,
    imports,
    budgets,
    worksheets,
    budgetHistory,
    nonrecurring,
    plans,
    balancePlans,
    budgetFiles,
    statements,
    statistics,
    views,
    benchmarks,
    logos,
    demo,
    work,
    actor,
  } = application;
  const app = express();
  app.disable('x-powered-by');
  // first of all, so that refused requests are on record too
  app.use(
    pinoHttp({
      logger,
      autoLogging: { ignore: (request) => request.url?.startsWith('/assets/') ?? false },
      customLogLevel: (_request, response, error) =>
        error !== undefined || response.statusCode >= 500 ? 'error' : response.statusCode >= 400 ? 'warn' : 'info',
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          workerSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // A page elsewhere must not reach this server through a name of its own (DNS rebinding).
  const allowed = new Set(['localhost', '127.0.0.1', '[::1]', ...hostNames]);
  app.use((request, _response, next) => {
    const name = (request.headers.host ?? '').replace(/:\d+$/, '');
    next(
      allowed.has(name)
        ? undefined
        : new ProblemError(421, 'Wrong host', `This server does not answer to the name "${name}". Add it to WISE_MARGIN_HOSTS.`),
    );
  });
  // Changes come from our own pages or from scripts; a form on another site sends a foreign origin.
  app.use((request, _response, next) => {
    const { origin, host } = request.headers;
    const foreign =
      !['GET', 'HEAD'].includes(request.method) && origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`;
    next(foreign ? new ProblemError(403, 'Foreign origin', 'Changes are accepted only from this application’s own pages.') : undefined);
  });
  app.use('/api', (_request, response, next) => {
    // figures of a company are not kept by browsers or by what lies between
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  app.use(
    '/api',
    rateLimit({
      windowMs: 60_000,
      limit: requestsPerMinute,
      standardHeaders: true,
      legacyHeaders: false,
      handler: (_request, _response, next) =>
        next(
          new ProblemError(
            429,
            'Too many requests',
            `More than ${requestsPerMinute.toLocaleString('en-US')} requests in a minute. Wait a moment and try again.`,
          ),
        ),
    }),
  );
  app.use('/api', express.json({ limit: MOST_JSON, verify: refuseDeepJson }));
  app.get('/api/health', (_request, response) => void response.json({ ok: true }));
  app.get('/api/openapi.json', (_request, response) => void response.json(openApiDocument()));
  app.use(
    '/api',
    companyRoutes({ database, booksCache, actor }),
    demoRoutes(demo),
    ledgerRoutes(ledger),
    importRoutes({ imports, directory: database.directory, actor }),
    statisticsRoutes({ statistics, directory: database.directory, actor }),
    budgetRoutes({ budgets, plans }, actor),
    planRoutes(plans, actor),
    balancePlanRoutes(balancePlans, actor),
    worksheetRoutes(worksheets, budgetHistory, actor),
    nonrecurringRoutes(nonrecurring, actor),
    budgetFileRoutes({ budgetFiles, directory: database.directory, actor }),
    statementRoutes({ statements, views, benchmarks, logos, work, actor }),
  );
  app.use('/api', (request, _response, next) =>
    next(new ProblemError(404, 'Not found', `There is nothing at ${request.method} /api${request.path}.`)),
  );
  if (webDirectory !== null && existsSync(webDirectory)) {
    app.use('/assets', express.static(join(webDirectory, 'assets'), { immutable: true, maxAge: '1y' }));
    app.use('/assets', (request, _response, next) => next(new ProblemError(404, 'Not found', `There is no file /assets${request.path}.`)));
    app.use(express.static(webDirectory, { index: false }));
    app.get('/{*splat}', (_request, response) => response.sendFile(join(webDirectory, 'index.html')));
  }
  app.use(problemHandler);
  return app;
}

const problemHandler: ErrorRequestHandler = (error: unknown, request, response, next) => {
  if (response.headersSent) return next(error);
  const problem = problemOf(error);
  if (problem.status >= 500) request.log.error(error);
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
};

/** Whether the database could not add amounts up exactly. */
const isOverflow = (error: unknown): boolean => error instanceof Error && /integer overflow/i.test(error.message);

function problemOf(error: unknown): Problem {
  const tell = (status: number, title: string, detail: string, errors?: Problem['errors']): Problem => ({
    type: 'about:blank',
    title,
    status,
    detail,
    ...(errors ? { errors } : {}),
  });
  if (error instanceof ProblemError) return tell(error.status, error.title, error.detail, error.errors ? [...error.errors] : undefined);
  if (error instanceof ZodError) {
    const errors = error.issues.map(({ path, message }) => ({ path: path.join('.'), message }));
    return tell(422, 'Not accepted', errors.map(({ path, message }) => (path === '' ? message : `${path}: ${message}`)).join('; '), errors);
  }
  if (error instanceof AmountOverflowError || isOverflow(error))
    return tell(
      422,
      'Too large',
      'An amount would exceed 90,000,000,000,000, the largest one. Check for extra digits. Nothing was changed.',
    );
  if (isDiskFull(error))
    return tell(507, 'Disk full', 'The disk of the server is full. Nothing was changed. Free some space and try again.');
  if (error instanceof Error && 'type' in error && error.type === 'entity.too.large')
    return tell(413, 'Request too large', `The request is larger than ${MOST_JSON / 1024 ** 2} MB. Send fewer changes at once.`);
  if (error instanceof Error && 'type' in error && error.type === 'entity.parse.failed')
    return tell(400, 'Not accepted', 'The request is not valid JSON.');
  if (error instanceof Error && 'status' in error && typeof error.status === 'number' && error.status < 500)
    return tell(error.status, 'Not accepted', error.message);
  return tell(500, 'Failed', 'The server could not complete the request. Nothing was changed. See the server log for details.');
}
