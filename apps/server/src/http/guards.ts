import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';

import { ProblemError } from './problem.ts';

/** Headers that let pages load from this server alone. */
export const secureHeaders = (): RequestHandler =>
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
  });

/** Refuses names that are not this server's: a page elsewhere must not reach it through a name of its own (DNS rebinding). */
export function knownHostsOnly(hostNames: readonly string[]): RequestHandler {
  const allowed = new Set(['localhost', '127.0.0.1', '[::1]', ...hostNames]);
  return (request, _response, next) => {
    const name = (request.headers.host ?? '').replace(/:\d+$/, '');
    next(
      allowed.has(name)
        ? undefined
        : new ProblemError(421, 'Wrong host', `This server does not answer to the name "${name}". Add it to WISE_MARGIN_HOSTS.`),
    );
  };
}

/** Refuses changes from other sites: a form there sends a foreign origin; our pages and scripts do not. */
export const ownOriginOnly: RequestHandler = (request, _response, next) => {
  const { origin, host } = request.headers;
  const foreign =
    !['GET', 'HEAD'].includes(request.method) && origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`;
  next(foreign ? new ProblemError(403, 'Foreign origin', 'Changes are accepted only from this application’s own pages.') : undefined);
};

/** Figures of a company are not stored by browsers or by what lies between. */
export const notStored: RequestHandler = (_request, response, next) => {
  response.setHeader('Cache-Control', 'no-store');
  next();
};

/** At most so many requests in a minute from one address. */
export const limitedTo = (requestsPerMinute: number): RequestHandler =>
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
  });
