import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { pino } from 'pino';

import { FolderInUseError } from './database/folder-lock.ts';
import { smtpTransport } from './mail/index.ts';
import { serve, threadPool } from './serve.ts';

const { PORT, SMTP_URL = '', ...settings } = process.env;
const port = Number(PORT ?? 4180);
const directory = settings.WISE_MARGIN_DATA ?? 'data';
const logger = pino({ level: settings.LOG_LEVEL ?? 'warn' });

// files made here are for their owner alone
process.umask(0o077);
// one guard for all background work: what fails is on record, and the server goes on answering
process.on('unhandledRejection', (error) => logger.error(error, 'Background work failed'));
const serving = await serve({
  directory,
  host: settings.WISE_MARGIN_HOST ?? '127.0.0.1',
  port,
  // one that was asked for by name is that one
  nextPort: PORT === undefined,
  webDirectory: settings.WISE_MARGIN_WEB ?? fileURLToPath(new URL('../../web/dist', import.meta.url)),
  hostNames: (settings.WISE_MARGIN_HOSTS ?? '').split(',').filter(Boolean),
  actor: { name: settings.WISE_MARGIN_PERSON ?? 'Analyst', now: () => new Date() },
  mail: {
    transport: SMTP_URL === '' ? null : smtpTransport(SMTP_URL),
    from: settings.MAIL_FROM ?? 'Wise Margin <wise-margin@localhost>',
    url: settings.WISE_MARGIN_URL ?? `http://localhost:${port}`,
  },
  work: threadPool(),
  logger,
}).catch((error: unknown) => {
  if (!(error instanceof FolderInUseError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
process.stdout.write(`Wise Margin is at http://localhost:${serving.port}\nData folder: ${resolve(directory)}\n`);

let stopping = false;
const stop = (): void => {
  if (stopping) return;
  stopping = true;
  void serving.close().then(() => process.exit(0));
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
