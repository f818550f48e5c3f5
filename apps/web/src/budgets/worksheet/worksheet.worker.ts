import type { DeskRequest } from './worksheet-messages.ts';
import { deskWorker } from './worksheet-worker.ts';

const handle = deskWorker((message) => self.postMessage(message));
self.onmessage = ({ data }: MessageEvent<DeskRequest>): void => handle(data);
