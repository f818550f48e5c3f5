import { problemSchema } from '@wise-margin/contract';
import { z } from 'zod';
import type { ZodOpenApiOperationObject } from 'zod-openapi';

import type { Form } from './upload.ts';

const problem = { description: 'Problem details (RFC 9457)', content: { 'application/problem+json': { schema: problemSchema } } };
const text = z.string();
const binary = z.string().meta({ format: 'binary' });
type Parts = {
  readonly summary: string;
  /** with parts such as `:company` */
  readonly path: string;
  readonly query?: z.ZodType;
  readonly body?: z.ZodType;
  readonly form?: Form;
  /** a schema of JSON, the media type of a file, or null for an answer without a body */
  readonly response: z.ZodType | string | null;
  readonly status: 200 | 201 | 202 | 204;
};

/** The description of an operation: its parameters, body and answers. */
export function operation({ summary, path, query, body, form, response, status }: Parts): ZodOpenApiOperationObject {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!);
  return {
    summary,
    requestParams: {
      ...(names.length > 0 ? { path: z.object(Object.fromEntries(names.map((name) => [name, text]))) } : {}),
      ...(query instanceof z.ZodObject ? { query } : {}),
    },
    ...(form ? formOf(form, body) : body ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } } : {}),
    responses: { [status]: { description: 'Done', ...contentOf(response) }, '4XX': problem },
  };
}

function contentOf(response: Parts['response']): object {
  if (response === null) return {};
  if (typeof response !== 'string') return { content: { 'application/json': { schema: response } } };
  return { content: { [response]: { schema: response.startsWith('text/') ? text : binary } } };
}

function formOf({ files }: Form, fields: z.ZodType | undefined): Pick<ZodOpenApiOperationObject, 'requestBody'> {
  const uploads = z.object(Object.fromEntries(files.map((name) => [name, binary.optional()])));
  const schema = fields instanceof z.ZodObject ? uploads.extend(fields.shape) : uploads;
  return { requestBody: { required: true, content: { 'multipart/form-data': { schema } } } };
}
