import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { MulterError } from 'multer';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Problem } from '@wise-margin/contract';
import { ZodError } from 'zod';
import type { Application } from '../application.ts';
import { companyRoutes } from '../companies/routes.ts';
import { AmountOverflowError } from '@wise-margin/core';
import { balancePlanRoutes, budgetRoutes, deskRoutes, exchangeRoutes, oneOffRoutes, planRoutes } from '../budgets/index.ts';
import { importRoutes, ledgerRoutes, statisticsRoutes } from '../ledger/index.ts';
import { statementRoutes } from '../statements/index.ts';
import { openApiDocument } from './openapi.ts';
import { ProblemError } from './problem.ts';

export type AppOptions = {
  readonly application: Application;
  readonly logger: Logger;
  /** folder of the built web application; null serves the API alone */
  readonly webDirectory: string | null;
  /** names a browser may call this server by, beside 127.0.0.1 and localhost */
  readonly hostNames: readonly string[];
};

const REQUESTS_PER_MINUTE = 6000;

/** The Express application: hardened headers, the API, and the web application's files. */
export function createApp({ application, logger, webDirectory, hostNames }: AppOptions): Express {
  const {
    database,
    keeper,
    ledger,
    imports,
    budgets,
    desks,
    budgetHistory,
    oneOffs,
    plans,
    balancePlans,
    exchange,
    statements,
    statistics,
    views,
    benchmarks,
    logos,
    actor,
  } = application;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          workerSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(pinoHttp({ logger, autoLogging: { ignore: (request) => request.url?.startsWith('/assets/') ?? false } }));
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
    next(foreign ? new ProblemError(403, 'Foreign origin', 'Changes are taken from this application’s own pages only.') : undefined);
  });
  app.use('/api', rateLimit({ windowMs: 60_000, limit: REQUESTS_PER_MINUTE, standardHeaders: true, legacyHeaders: false }));
  app.use('/api', express.json({ limit: '4mb' }));
  app.get('/api/health', (_request, response) => void response.json({ ok: true }));
  app.get('/api/openapi.json', (_request, response) => void response.json(openApiDocument()));
  app.use(
    '/api',
    companyRoutes({ database, keeper, actor }),
    ledgerRoutes(ledger),
    importRoutes({ imports, directory: database.directory, actor }),
    statisticsRoutes({ statistics, directory: database.directory, actor }),
    budgetRoutes({ budgets, plans }, actor),
    planRoutes(plans, actor),
    balancePlanRoutes(balancePlans, actor),
    deskRoutes(desks, budgetHistory, actor),
    oneOffRoutes(oneOffs, actor),
    exchangeRoutes({ exchange, directory: database.directory, actor }),
    statementRoutes({ statements, views, benchmarks, logos, actor }),
  );
  app.use('/api', (request, _response, next) =>
    next(new ProblemError(404, 'Not found', `There is nothing at ${request.method} /api${request.path}.`)),
  );
  if (webDirectory !== null && existsSync(webDirectory)) {
    app.use('/assets', express.static(join(webDirectory, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
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
  if (error instanceof MulterError)
    return tell(
      413,
      'Upload refused',
      error.code === 'LIMIT_FILE_SIZE' ? 'The file is larger than 1 GiB. Split it by year.' : error.message,
    );
  if (error instanceof AmountOverflowError)
    return tell(
      422,
      'Too large',
      'An amount would be past the largest one that is held, 90,000,000,000,000. Check for extra digits. Nothing was changed.',
    );
  if (error instanceof Error && 'status' in error && typeof error.status === 'number' && error.status < 500)
    return tell(error.status, 'Not accepted', error.message);
  return tell(500, 'Failed', 'The server could not do this; its log says why. Nothing was changed.');
}
