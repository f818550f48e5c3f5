import { fileURLToPath } from 'node:url';

import { Piscina } from 'piscina';

import { ProblemError } from '../http/problem.ts';
import type { Outcome, Task } from './task.ts';

const MEGABYTES = 1024;
const THREADS = 2;
// to start one takes seconds: it stays while somebody may come back to what it did
const IDLE_MILLISECONDS = 10 * 60_000;
const MOST_WAITING = 60;
// the built application has the worker beside it as JavaScript; from source, a loader starts it
const WORKER = new URL(import.meta.url.endsWith('.ts') ? '../task-worker.source.mjs' : './task-worker.js', import.meta.url);

export type WorkLimits = {
  /** what the work is, for the message when it is stopped: `The PDF` */
  readonly what: string;
  readonly milliseconds: number;
  /** stops the work, such as when whoever asked went away */
  readonly signal?: AbortSignal;
};
/** Runs long work apart from the thread that answers requests, within a time limit. */
export type WorkPool = {
  readonly run: <Input, Result>(task: Task<Input, Result>, input: Input, limits: WorkLimits) => Promise<Result>;
  /** Starts a thread, or what a task needs in it, for work that is likely to be asked for soon, so that nobody waits for it then. */
  readonly ready: (task: Task<null, null>) => void;
  readonly close: () => Promise<void>;
};

/** A pool of worker threads, started when first needed; a task past its time is stopped with its thread. */
export function threadPool(): WorkPool {
  const pool = new Piscina({
    filename: fileURLToPath(WORKER),
    minThreads: 0,
    maxThreads: THREADS,
    maxQueue: MOST_WAITING,
    idleTimeout: IDLE_MILLISECONDS,
    resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
  });
  const ready = new Set<string>();
  return {
    run: async ({ name }, input, { what, milliseconds, signal }) => {
      const limit = AbortSignal.timeout(milliseconds);
      const stop = signal ? AbortSignal.any([limit, signal]) : limit;
      let outcome: Outcome;
      try {
        outcome = (await pool.run({ name, input }, { signal: stop })) as Outcome;
      } catch (error) {
        if (limit.aborted)
          throw new ProblemError(
            503,
            'Took too long',
            `${what} took longer than ${milliseconds / 1000} seconds and was stopped. Ask for fewer lines or columns.`,
          );
        if (signal?.aborted) throw new ProblemError(499, 'Canceled', `${what} was canceled.`);
        if (error instanceof Error && error.message === 'Task queue is at limit')
          throw new ProblemError(503, 'Busy', 'The server is busy with other exports. Try again in a minute.');
        if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new ProblemError(413, 'Too large', `${what} needs more memory than is allowed. Ask for fewer lines or columns.`);
        throw error;
      }
      if (!outcome.ok) throw new ProblemError(outcome.problem.status, outcome.problem.title, outcome.problem.detail);
      return asBuffer(outcome.result) as never;
    },
    ready: ({ name }) => {
      if (pool.queueSize > 0 || ready.has(name)) return;
      ready.add(name);
      // a thread without work goes after a while, and is started again then
      setTimeout(() => ready.delete(name), IDLE_MILLISECONDS).unref();
      // whatever keeps a thread from starting is told to whoever asks for work
      pool.run({ name, input: null }).catch(() => ready.delete(name));
    },
    close: () => pool.destroy(),
  };
}

/** Runs tasks where it is called, for scripts and tests. */
export function inlinePool(): WorkPool {
  return { run: (task, input) => task.run(input), ready: () => undefined, close: () => Promise.resolve() };
}

/** A Buffer arrives from a thread as plain bytes. */
const asBuffer = (result: unknown): unknown =>
  result instanceof Uint8Array ? Buffer.from(result.buffer, result.byteOffset, result.byteLength) : result;
