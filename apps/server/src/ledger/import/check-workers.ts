import { Worker } from 'node:worker_threads';

import type { CheckJob, CheckMessage, CheckResult } from './check-job.ts';

// The built application has the worker beside it as JavaScript; from source, a loader starts it.
const WORKER = new URL(import.meta.url.endsWith('.ts') ? './check-worker.source.mjs' : './check-worker.js', import.meta.url);

export type RunningCheck = {
  /** rejects when the check failed or was stopped */
  readonly done: Promise<CheckResult>;
  readonly stop: () => Promise<void>;
};

// after a large file a worker goes: it would keep the memory that the posting needs
const MOST_ROWS_TO_STAY = 50_000;

type Turn = {
  readonly onProgress: (rowsRead: number) => void;
  readonly resolve: (result: CheckResult) => void;
  readonly reject: (error: Error) => void;
};
/** A worker and the check it is at, if any. */
type Member = { readonly worker: Worker; turn: Turn | null };

/** Runs checks in workers, and keeps one idle worker ready, since starting one takes longer than checking a small file. */
export class CheckWorkers {
  #idle: Member | null = null;
  readonly #members = new Set<Member>();

  start(job: CheckJob, onProgress: (rowsRead: number) => void): RunningCheck {
    const member = this.#idle ?? this.#hire();
    this.#idle = null;
    member.worker.ref();
    const done = new Promise<CheckResult>((resolve, reject) => {
      member.turn = { onProgress, resolve, reject };
    });
    done.then(
      ({ rowsRead }) => this.#release(member, rowsRead <= MOST_ROWS_TO_STAY),
      () => this.#release(member, false),
    );
    member.worker.postMessage(job);
    return { done, stop: () => this.#dismiss(member) };
  }

  async close(): Promise<void> {
    await Promise.all([...this.#members].map((member) => this.#dismiss(member)));
  }

  #hire(): Member {
    const member: Member = { worker: new Worker(WORKER), turn: null };
    this.#members.add(member);
    member.worker.on('message', (message: CheckMessage) => {
      if (message.kind === 'progress') member.turn?.onProgress(message.rowsRead);
      else if (message.kind === 'done') member.turn?.resolve(message.result);
      else member.turn?.reject(new Error(message.message));
    });
    member.worker.on('error', (error) => this.#lose(member, error instanceof Error ? error : new Error(String(error))));
    member.worker.on('exit', () => this.#lose(member, new Error('The check was stopped')));
    return member;
  }

  /** A worker that finished waits for the next check, unless another waits already. */
  #release(member: Member, mayStay: boolean): void {
    member.turn = null;
    if (!this.#members.has(member)) return;
    if (this.#idle || !mayStay) return void this.#dismiss(member);
    this.#idle = member;
    member.worker.unref();
  }

  #lose(member: Member, reason: Error): void {
    this.#members.delete(member);
    if (this.#idle === member) this.#idle = null;
    member.turn?.reject(reason);
  }

  async #dismiss(member: Member): Promise<void> {
    this.#members.delete(member);
    if (this.#idle === member) this.#idle = null;
    await member.worker.terminate();
  }
}
