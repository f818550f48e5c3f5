import type { WorksheetRequest } from './worksheet-messages.ts';
import { worksheetWorker } from './worksheet-worker.ts';

const handle = worksheetWorker((message) => self.postMessage(message));
self.onmessage = ({ data }: MessageEvent<WorksheetRequest>): void => handle(data);
