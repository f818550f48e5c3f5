import { createHash } from 'node:crypto';

import type { RequestHandler, Response } from 'express';

import type { Database } from '../database/database.ts';
import { type RequestKey, underKey } from '../database/request-key.ts';
import { ProblemError } from './problem.ts';

const HEADER = 'idempotency-key';
const DAYS_KEPT = 30;
const KEY = /^[\w-]{8,100}$/;
type Kept = { readonly request: string; readonly status: number | null; readonly answer: string | null };

/**
 * A request that changes something may carry a key of its own. Asked again with the same key, whether its answer was lost
 * or a button was pressed twice, it gets the first answer and changes nothing. The key is stored in the transaction of the
 * change; a request that failed may be tried again.
 */
export function requestKeys(database: Database, now: () => Date): RequestHandler {
  /** the last request under way, by key; each ends when its answer is stored */
  const underWay = new Map<string, Promise<void>>();
  let pruned = '';
  return async (request, response, next) => {
    const key = request.get(HEADER);
    if (key === undefined || request.method === 'GET') return next();
    if (!KEY.test(key)) throw new ProblemError(422, 'Not accepted', 'The idempotency key has 8 to 100 letters, digits, - or _.');
    const day = now().toISOString().slice(0, 10);
    if (pruned !== day) {
      pruned = day;
      await prune(database, now());
    }
    // files are told apart by the key alone: they are not read yet
    const asked = createHash('sha256').update(`${request.method} ${request.originalUrl} ${JSON.stringify(request.body ?? null)}`);
    const digest = asked.digest('hex');
    // a second click waits for the answer to the first
    const before = underWay.get(key) ?? Promise.resolve();
    let finish = (): void => undefined;
    const turn = before.then(() => new Promise<void>((resolve) => (finish = resolve)));
    underWay.set(key, turn);
    void turn.then(() => (underWay.get(key) === turn ? underWay.delete(key) : false));
    await before;
    const [kept] = await database
      .select<Kept>('SELECT request, status, answer FROM request_keys WHERE key = $1', [key])
      .catch((error: unknown) => {
        finish();
        throw error;
      });
    if (kept) {
      finish();
      return replay(response, kept, digest);
    }
    const own: RequestKey = { key, request: digest, at: now().toISOString(), isWritten: false };
    void storeAnswer(database, response, own).then(finish);
    underKey(own, next);
  };
}

function replay(response: Response, { request, status, answer }: Kept, digest: string): void {
  if (request !== digest)
    throw new ProblemError(422, 'Key used before', 'This idempotency key was used for another request. Send the request with a new key.');
  if (status === null)
    throw new ProblemError(409, 'Done already', 'This was carried out, and its answer was lost. Reload the page to see the result.');
  response.status(status);
  if (answer === null) response.end();
  else response.type('application/json').send(answer);
}

/** How long a request goes on after its connection was cut, at most, before another one with its key is looked at. */
const MOST_AFTER_CUT = 60_000;

/**
 * Keeps the answer of a request that changed something; one that changed nothing may be asked again. The answer is kept
 * when it is given, also where the connection was cut before.
 */
function storeAnswer(database: Database, response: Response, own: RequestKey): Promise<void> {
  let answer: string | null = null;
  const [json, end] = [response.json.bind(response), response.end.bind(response)];
  response.json = (body: unknown) => {
    answer = JSON.stringify(body);
    return json(body);
  };
  return new Promise((resolve) => {
    let late: NodeJS.Timeout | undefined;
    let isGiven = false;
    const given = (): void => {
      if (isGiven) return;
      isGiven = true;
      clearTimeout(late);
      if (!own.isWritten || response.statusCode >= 400) return resolve();
      const values = [response.statusCode, answer, own.key];
      database
        .write((transaction) => database.run('UPDATE request_keys SET status = $1, answer = $2 WHERE key = $3', values, transaction))
        // the change and its key are stored: asked again, it says that it was done
        .then(resolve, () => resolve());
    };
    response.end = ((...parts: Parameters<typeof end>) => {
      given();
      return end(...parts);
    }) as typeof response.end;
    // an answer that is never given, such as a file whose reader went away
    response.once('close', () => {
      if (!isGiven) late = setTimeout(resolve, MOST_AFTER_CUT).unref();
    });
  });
}

const prune = (database: Database, now: Date): Promise<void> =>
  database.write((transaction) =>
    database.run('DELETE FROM request_keys WHERE at < $1', [new Date(now.getTime() - DAYS_KEPT * 86_400_000).toISOString()], transaction),
  );
