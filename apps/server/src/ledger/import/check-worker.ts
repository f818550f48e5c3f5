import { parentPort } from 'node:worker_threads';

import { checkImport } from './check.ts';
import type { CheckJob, CheckMessage } from './check-job.ts';

const send = (message: CheckMessage): void => parentPort?.postMessage(message);

parentPort?.on('message', (job: CheckJob) => {
  checkImport(job, (rowsRead) => send({ kind: 'progress', rowsRead })).then(
    (result) => send({ kind: 'done', result }),
    (error: unknown) => send({ kind: 'failed', message: error instanceof Error ? error.message : String(error) }),
  );
});
