import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { pino } from 'pino';

import { createApp } from './app.ts';
import { openApplication } from './application.ts';
import { FolderInUseError } from './database/folder-lock.ts';
import { smtpTransport } from './mail/index.ts';
import { threadPool } from './work/work-pool.ts';

const PORTS_TRIED = 20;
const port = Number(process.env.PORT ?? 4180);
const host = process.env.WISE_MARGIN_HOST ?? '127.0.0.1';
const directory = process.env.WISE_MARGIN_DATA ?? 'data';
const webDirectory = process.env.WISE_MARGIN_WEB ?? fileURLToPath(new URL('../../web/dist', import.meta.url));
const logger = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

/** Listens on the port, or on the next free one when it was not asked for by name. */
function listen(server: Server, first: number, tries: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EADDRINUSE' || tries <= 1 || process.env.PORT !== undefined) return reject(error);
      resolve(listen(server, first + 1, tries - 1));
    });
    server.listen(first, host, () => resolve((server.address() as AddressInfo).port));
  });
}

// files made here are for their owner alone
process.umask(0o077);
// one guard for all background work: what fails is on record, and the server goes on answering
process.on('unhandledRejection', (error) => logger.error(error, 'Background work failed'));
const smtpUrl = process.env.SMTP_URL ?? '';
const application = await openApplication({
  directory,
  recover: true,
  work: threadPool(),
  report: (error) => logger.error(error, 'Background work failed'),
  actor: { name: process.env.WISE_MARGIN_PERSON ?? 'Analyst', now: () => new Date() },
  mail: {
    transport: smtpUrl === '' ? null : smtpTransport(smtpUrl),
    from: process.env.MAIL_FROM ?? 'Wise Margin <wise-margin@localhost>',
    url: process.env.WISE_MARGIN_URL ?? `http://localhost:${port}`,
  },
}).catch((error: unknown) => {
  if (!(error instanceof FolderInUseError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
const server = createServer(
  createApp({ application, logger, webDirectory, hostNames: (process.env.WISE_MARGIN_HOSTS ?? '').split(',').filter(Boolean) }),
);
server.requestTimeout = 15 * 60_000;
const taken = await listen(server, port, PORTS_TRIED);
await application.mailSender.start();
application.scheduleClock.start();
process.stdout.write(`Wise Margin is at http://localhost:${taken}\nData folder: ${resolve(directory)}\n`);

let stopping = false;
const stop = (): void => {
  if (stopping) return;
  stopping = true;
  server.close(() => void application.close().then(() => process.exit(0)));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 3000).unref();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
