import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

import { isFilterParameter, readFilter } from '@wise-margin/contract';
import { type Request, type RequestHandler, type Response, Router } from 'express';
import type { z } from 'zod';
import type { ZodOpenApiOperationObject } from 'zod-openapi';

import { operation } from './openapi-operation.ts';
import { notFound } from './problem.ts';
import { type Form, removeUploads, uploadOf, type Uploads, uploadsOf } from './upload.ts';

export type Method = 'get' | 'post' | 'put' | 'delete';
/** A path of the API with what answers it and how it is described. */
export type Route = {
  readonly method: Method;
  readonly path: string;
  readonly operation: ZodOpenApiOperationObject;
  readonly handlers: readonly RequestHandler[];
};

/** Parts of a path that are whole numbers; the others are text. */
const NUMBERED = [
  'company',
  'budget',
  'import',
  'entry',
  'change',
  'event',
  'savedFilter',
  'template',
  'nonrecurringItem',
  'bankStatement',
  'clearing',
  'packIssue',
  'mailMessage',
  'schedule',
  'companyGroup',
  'companyRun',
  'share',
] as const;
type Numbered = (typeof NUMBERED)[number];
type NamesIn<Path extends string> = Path extends `${string}:${infer Rest}`
  ? Rest extends `${infer Name}/${infer After}`
    ? Name | NamesIn<`/${After}`>
    : Rest
  : never;
/** The parts a path names: `/companies/:company/views/:view` has a number and a text. */
export type PathParts<Path extends string> = { readonly [Name in NamesIn<Path>]: Name extends Numbered ? number : string };

/** What a handler receives: parsed already, and removed afterwards in the case of uploads. */
export type Incoming<Path extends string, Query, Body> = {
  readonly path: PathParts<Path>;
  readonly query: Query;
  /** of a JSON body, or the text fields of a form */
  readonly body: Body;
  readonly uploads: Uploads;
  /** aborted when nobody waits for the answer any more */
  readonly signal: AbortSignal;
};
type RequestSchemas<Query, Body> = {
  readonly query?: z.ZodType<Query>;
  readonly body?: z.ZodType<Body>;
  /** files sent with the fields of `body` */
  readonly form?: Form;
};
type Declaration<Path extends string, Query, Body> = {
  readonly method: Method;
  /** below `/api`, with parts such as `:company` */
  readonly path: Path;
  readonly summary: string;
  readonly request?: RequestSchemas<Query, Body>;
};

/** A file to answer with: its content, a stream, or a chain of streams that are piped. */
export type Download = {
  readonly content: string | Buffer | readonly [AsyncIterable<unknown>, ...NodeJS.ReadWriteStream[]];
  /** the name it is saved under; shown in the browser when left out */
  readonly name?: string;
  /** when it is not the type declared */
  readonly type?: string;
};

/** Declares a path answered with JSON; a `response` of null answers 204 without a body. */
export function route<const Path extends string, Query = unknown, Body = unknown, Answer = void>(
  declaration: Declaration<Path, Query, Body> & {
    readonly response: z.ZodType<Answer> | null;
    readonly status?: 201 | 202;
    readonly handle: (incoming: Incoming<Path, Query, Body>) => Promise<NoInfer<Answer>> | NoInfer<Answer>;
  },
): Route {
  const { method, path, summary, request = {}, response: schema } = declaration;
  const status = schema === null ? 204 : (declaration.status ?? 200);
  return {
    method,
    path,
    operation: operation({ summary, path, ...request, response: schema, status }),
    handlers: handlersOf(declaration, async (incoming, response) => {
      const answer = await declaration.handle(incoming);
      if (schema === null) response.status(status).end();
      else response.status(status).json(answer);
    }),
  };
}

/** Declares a path answered with a file. */
export function download<const Path extends string, Query = unknown, Body = unknown>(
  declaration: Declaration<Path, Query, Body> & {
    /** the media type */
    readonly type: string;
    readonly handle: (incoming: Incoming<Path, Query, Body>) => Promise<Download>;
  },
): Route {
  const { method, path, summary, request = {}, type } = declaration;
  return {
    method,
    path,
    operation: operation({ summary, path, ...request, response: type, status: 200 }),
    handlers: handlersOf(declaration, async (incoming, response) => {
      const file = await declaration.handle(incoming);
      if (file.name !== undefined) response.attachment(file.name);
      response.type(file.type ?? type);
      if (typeof file.content === 'string' || Buffer.isBuffer(file.content)) response.send(file.content);
      else
        await pipeline([...file.content, response] as unknown as readonly [Readable, ...NodeJS.ReadWriteStream[]]).catch(
          (error: unknown) => {
            // whoever asked went away: nobody is there to be told
            if (!isPrematureClose(error)) throw error;
          },
        );
    }),
  };
}

const isPrematureClose = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ERR_STREAM_PREMATURE_CLOSE';

/** The routes as Express serves them, in the order given. */
export function routerOf(routes: readonly Route[]): Router {
  const router = Router();
  for (const { method, path, handlers } of routes) router[method](path, ...handlers);
  return router;
}

function handlersOf<Path extends string, Query, Body>(
  { path, request = {} }: Declaration<Path, Query, Body>,
  answer: (incoming: Incoming<Path, Query, Body>, response: Response) => Promise<void>,
): readonly RequestHandler[] {
  const { query, body, form } = request;
  const handler: RequestHandler = async (incoming, response) => {
    const canceled = new AbortController();
    response.on('close', () => canceled.abort());
    const uploads = uploadsOf(incoming.files);
    try {
      const parsed: Incoming<Path, Query, Body> = {
        path: pathParts(path, incoming),
        query: parsedBy(query, queryOf(incoming)),
        body: parsedBy(body, incoming.body),
        uploads,
        signal: canceled.signal,
      };
      await answer(parsed, response);
    } finally {
      await removeUploads(uploads);
    }
  };
  return form ? [uploadOf(form), handler] : [handler];
}

/** The parameters of a request; those of a filter together as `filter`. */
function queryOf({ query }: Request): Readonly<Record<string, unknown>> {
  const parameters = Object.entries(query).flatMap(([name, value]) =>
    [value].flat().flatMap((each) => (typeof each === 'string' ? [[name, each] as const] : [])),
  );
  const filter = readFilter(parameters);
  const others = Object.fromEntries(Object.entries(query).filter(([name]) => !isFilterParameter(name)));
  return Object.keys(filter).length > 0 ? { ...others, filter } : others;
}

/** @throws z.ZodError, answered as problem details */
const parsedBy = <Value>(schema: z.ZodType<Value> | undefined, value: unknown): Value =>
  schema ? schema.parse(value ?? {}) : (undefined as Value);

/** @throws ProblemError 404 when a part that is a whole number is none */
function pathParts<Path extends string>(path: Path, request: Request): PathParts<Path> {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!);
  return Object.fromEntries(
    names.map((name) => {
      const text = String(request.params[name]);
      if (!(NUMBERED as readonly string[]).includes(name)) return [name, text];
      if (!/^\d{1,12}$/.test(text)) throw notFound(`${name} "${text}"`);
      return [name, Number(text)];
    }),
  ) as PathParts<Path>;
}
