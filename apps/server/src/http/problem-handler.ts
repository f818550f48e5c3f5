import type { Problem } from '@wise-margin/contract';
import { AmountOverflowError } from '@wise-margin/core';
import type { ErrorRequestHandler } from 'express';
import { ZodError } from 'zod';

import { ProblemError } from './problem.ts';

/** The largest JSON body, in bytes. */
export const MOST_JSON = 4 * 1024 ** 2;

/** What the database knows of a failure. */
type FailureWords = {
  readonly isDiskFull: (error: unknown) => boolean;
  /** in words, where the same was added at that moment; null for any other failure */
  readonly uniqueConflict: (error: unknown) => string | null;
};

/** Answers what went wrong as problem details (RFC 9457); what is ours is logged. */
export function problemHandler(known: FailureWords): ErrorRequestHandler {
  // Express knows an error handler by its four parameters
  // oxlint-disable-next-line max-params
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = problemOf(error, known);
    if (problem.status >= 500) request.log.error(error);
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}

/** Whether the database could not add amounts up exactly. */
const isOverflow = (error: unknown): boolean => error instanceof Error && /integer overflow/i.test(error.message);
const problem = (status: number, title: string, detail: string): Problem => ({ type: 'about:blank', title, status, detail });

/** A place in a request as it reads in a message, counted from one: `sections 4, title`. */
const pathWords = (path: readonly PropertyKey[]): string =>
  path
    .map((part) => (typeof part === 'number' ? ` ${part + 1}` : `, ${String(part)}`))
    .join('')
    .replace(/^, /, '');

function problemOf(error: unknown, { isDiskFull, uniqueConflict }: FailureWords): Problem {
  if (error instanceof ProblemError) {
    const { status, title, detail, faults } = error;
    return { ...problem(status, title, detail), ...(faults.length > 0 ? { errors: [...faults] } : {}) };
  }
  if (error instanceof ZodError) {
    const errors = error.issues.map(({ path, message }) => ({ path: path.join('.'), message }));
    const detail = error.issues
      .map(({ path, message }) => (path.length === 0 ? message : `${pathWords(path)}: ${message}`))
      .reduce((before, message) => `${before}${before.endsWith('.') ? '' : ';'} ${message}`);
    return { ...problem(422, 'Not accepted', detail), errors };
  }
  if (error instanceof AmountOverflowError || isOverflow(error))
    return problem(
      422,
      'Too large',
      'An amount would exceed 90,000,000,000,000, the largest one. Check for extra digits. Nothing was changed.',
    );
  const conflict = uniqueConflict(error);
  if (conflict !== null) return problem(409, 'Added at the same moment', `${conflict} Nothing was changed.`);
  if (isDiskFull(error))
    return problem(507, 'Disk full', 'The disk of the server is full. Nothing was changed. Free some space and try again.');
  if (error instanceof Error && 'type' in error && error.type === 'entity.too.large')
    return problem(413, 'Request too large', `The request is larger than ${MOST_JSON / 1024 ** 2} MB. Send fewer changes at once.`);
  if (error instanceof Error && 'type' in error && error.type === 'entity.parse.failed')
    return problem(400, 'Not accepted', 'The request is not valid JSON.');
  if (error instanceof Error && 'status' in error && typeof error.status === 'number' && error.status < 500)
    return problem(error.status, 'Not accepted', error.message);
  return problem(500, 'Failed', 'The server could not complete the request. Nothing was changed. See the server log for details.');
}
