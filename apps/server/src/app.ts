import { existsSync } from 'node:fs';
import { join } from 'node:path';

import express, { type Express } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

import type { Application } from './application.ts';
import { isDiskFull } from './database/disk-full.ts';
import { uniqueConflict } from './database/unique-conflict.ts';
import { knownHostsOnly, limitedTo, notStored, ownOriginOnly, secureHeaders } from './http/guards.ts';
import { refuseDeepJson } from './http/json-depth.ts';
import { ProblemError } from './http/problem.ts';
import { MOST_JSON, problemHandler } from './http/problem-handler.ts';
import { requestKeys } from './http/request-keys.ts';
import { routerOf } from './http/route.ts';
import { routesOf } from './routes.ts';

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

/** The Express application: hardened headers, the API, and the web application's files. */
export function createApp({ application, logger, webDirectory, hostNames, requestsPerMinute = REQUESTS_PER_MINUTE }: AppOptions): Express {
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
  app.use(secureHeaders(), knownHostsOnly(hostNames), ownOriginOnly);
  app.use('/api', notStored, limitedTo(requestsPerMinute), express.json({ limit: MOST_JSON, verify: refuseDeepJson }));
  app.use(
    '/api',
    requestKeys(application.database, () => application.actor.now()),
  );
  app.use('/api', routerOf(routesOf(application)));
  app.use('/api', (request) => {
    throw new ProblemError(404, 'Not found', `There is nothing at ${request.method} /api${request.path}.`);
  });
  if (webDirectory !== null && existsSync(webDirectory)) servePages(app, webDirectory);
  app.use(problemHandler({ isDiskFull, uniqueConflict }));
  return app;
}

function servePages(app: Express, directory: string): void {
  app.use('/assets', express.static(join(directory, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use('/assets', (request) => {
    throw new ProblemError(404, 'Not found', `There is no file /assets${request.path}.`);
  });
  app.use(express.static(directory, { index: false }));
  app.get('/{*splat}', (_request, response) => response.sendFile(join(directory, 'index.html')));
}
