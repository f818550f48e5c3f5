import { problemSchema } from '@wise-margin/contract';
import { z } from 'zod';
import type { ZodOpenApiOperationObject } from 'zod-openapi';

const problem = { description: 'Problem details (RFC 9457)', content: { 'application/problem+json': { schema: problemSchema } } };
export type Parts = {
  readonly summary: string;
  readonly path?: readonly string[];
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  readonly answer: z.ZodType | null;
  readonly status?: '200' | '201' | '202' | '204';
  readonly type?: string;
};

/** An operation with its parameters, body and answers. */
export function operation({
  summary,
  path = [],
  query,
  body,
  answer,
  status = '200',
  type = 'application/json',
}: Parts): ZodOpenApiOperationObject {
  return {
    summary,
    requestParams: {
      ...(path.length > 0 ? { path: z.object(Object.fromEntries(path.map((name) => [name, z.string()]))) } : {}),
      ...(query ? { query } : {}),
    },
    ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } } : {}),
    responses: { [status]: { description: 'Done', ...(answer ? { content: { [type]: { schema: answer } } } : {}) }, '4XX': problem },
  };
}
