import { type FilterDto, filterParameters, type Problem, problemSchema } from '@wise-margin/contract';

import { newKey } from './new-key.ts';

/** The server refused a request, or could not be reached (`status` 0). */
export class ApiProblem extends Error {
  override readonly name = 'ApiProblem';
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get isConnection(): boolean {
    return this.problem.status === 0;
  }
}

const connectionLost: Problem = {
  type: 'about:blank',
  title: 'No connection',
  status: 0,
  detail: 'Wise Margin is not running. Start it again with npm start or npm run demo, then try again.',
};

async function send(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch (error) {
    if (init?.signal?.aborted) throw error;
    throw new ApiProblem(connectionLost);
  }
  if (response.ok) return response;
  const body: unknown = await response.json().catch(() => null);
  const problem = problemSchema.safeParse(body);
  throw new ApiProblem(
    problem.success
      ? problem.data
      : {
          ...connectionLost,
          title: response.statusText,
          status: response.status,
          detail: `The server answered ${response.status} ${response.statusText}.`,
        },
  );
}

/** Whether a request says itself how often it counts, as edits of a budget do. */
const hasOwnKey = (body: unknown): boolean => typeof body === 'object' && body !== null && 'key' in body;

/** Keys of requests without an answer yet, by what they ask. */
const unanswered = new Map<string, string>();

/**
 * Sends a request under a key that stays with it until an answer comes: sent again after a lost connection, or by a second
 * click, it is carried out once.
 */
async function sendOnce(asked: string, sending: (key: Record<string, string>) => Promise<Response>): Promise<Response> {
  const key = unanswered.get(asked) ?? newKey();
  unanswered.set(asked, key);
  try {
    const response = await sending({ 'idempotency-key': key });
    unanswered.delete(asked);
    return response;
  } catch (error) {
    if (!(error instanceof ApiProblem && error.isConnection)) unanswered.delete(asked);
    throw error;
  }
}

/** Reads JSON from the API. The server's answers follow the contract; a test parses each by its schema. */
export async function getJson<Answer>(path: string, signal?: AbortSignal): Promise<Answer> {
  return (await send(path, signal ? { signal } : undefined)).json() as Promise<Answer>;
}

export async function sendJson<Answer>(method: 'POST' | 'PUT', path: string, body: unknown): Promise<Answer> {
  const text = JSON.stringify(body);
  const response = await sendOnce(`${method} ${path} ${text}`, (key) =>
    send(path, {
      method,
      headers: { 'content-type': 'application/json', ...(method === 'POST' && !hasOwnKey(body) ? key : {}) },
      body: text,
    }),
  );
  return (response.status === 204 ? null : await response.json()) as Answer;
}

/** Asks for what needs more words than an address has; the answer may be given up. */
export async function askJson<Answer>(path: string, body: unknown, signal: AbortSignal): Promise<Answer> {
  const request = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body), signal };
  return (await send(path, request)).json() as Promise<Answer>;
}

export async function sendForm<Answer>(path: string, form: FormData, method: 'POST' | 'PUT' = 'POST'): Promise<Answer> {
  const parts = [...form].map(([name, value]) => [name, typeof value === 'string' ? value : [value.name, value.size, value.lastModified]]);
  const answer = await sendOnce(`${method} ${path} ${JSON.stringify(parts)}`, (key) => send(path, { method, body: form, headers: key }));
  return answer.json() as Promise<Answer>;
}

export async function sendDelete(path: string): Promise<void> {
  await send(path, { method: 'DELETE' });
}

/** A query string of the given values; undefined and empty ones are left out, a filter is one parameter for each of its values. */
export function queryText(values: Readonly<Record<string, string | number | boolean | FilterDto | undefined>>): string {
  const pairs = Object.entries(values).flatMap(([name, value]): [string, string][] => {
    if (value === undefined || value === '') return [];
    return typeof value === 'object' ? filterParameters(value, name) : [[name, String(value)]];
  });
  return pairs.length === 0 ? '' : `?${new URLSearchParams(pairs).toString()}`;
}
