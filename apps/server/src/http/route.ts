import type { NextFunction, Request, Response } from 'express';
import type { z } from 'zod';
import { notFound } from './problem.ts';

/** A handler whose failure goes to the error handler, never to nowhere. */
export const handle =
  (work: (request: Request, response: Response) => Promise<unknown>) =>
  (request: Request, response: Response, next: NextFunction): void => {
    work(request, response).catch(next);
  };

/** Parses a query or a body by its schema. @throws z.ZodError, answered as problem details */
export const parse = <Schema extends z.ZodType>(schema: Schema, value: unknown): z.infer<Schema> => schema.parse(value ?? {});

/** A whole number in the address. @throws ProblemError 404 when it is none */
export function numberIn(request: Request, name: string): number {
  const text = String(request.params[name]);
  if (!/^\d{1,12}$/.test(text)) throw notFound(`${name} "${text}"`);
  return Number(text);
}
