import type { DeskRequest } from './desk-messages.ts';
import { deskWorker } from './desk-worker.ts';

const handle = deskWorker((message) => self.postMessage(message));
self.onmessage = ({ data }: MessageEvent<DeskRequest>): void => handle(data);
