import type { WorksheetReply, WorksheetRequest } from '../../apps/web/src/budgets/worksheet/worksheet-messages.ts';
import { worksheetWorker } from '../../apps/web/src/budgets/worksheet/worksheet-worker.ts';

/** The worker of a budget without a thread of its own; messages are copied as between threads. */
export class InlineWorker {
  onmessage: ((event: { data: WorksheetReply }) => void) | null = null;
  readonly #handle = worksheetWorker((data) => this.onmessage?.({ data: structuredClone(data) }));
  postMessage(request: WorksheetRequest): void {
    this.#handle(structuredClone(request));
  }
  terminate(): void {
    this.onmessage = null;
  }
}
