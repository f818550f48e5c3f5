import type { DeskReply, DeskRequest } from '../../apps/web/src/budgets/worksheet/worksheet-messages.ts';
import { deskWorker } from '../../apps/web/src/budgets/worksheet/worksheet-worker.ts';

/** The worker of a budget without a thread of its own; messages are copied as between threads. */
export class InlineWorker {
  onmessage: ((event: { data: DeskReply }) => void) | null = null;
  readonly #handle = deskWorker((data) => this.onmessage?.({ data: structuredClone(data) }));
  postMessage(request: DeskRequest): void {
    this.#handle(structuredClone(request));
  }
  terminate(): void {
    this.onmessage = null;
  }
}
