import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

import type { Logger } from 'pino';

import { createApp } from './app.ts';
import { type Application, type ApplicationOptions, openApplication } from './application.ts';

// what whoever serves has to bring
export { threadPool } from './work/work-pool.ts';

const PORTS_TRIED = 20;
const MINUTES_OF_AN_UPLOAD = 15;
const SECONDS_IDLE = 65;
const MILLISECONDS_TO_FINISH = 3000;

export type ServeOptions = Required<Pick<ApplicationOptions, 'directory' | 'actor' | 'mail' | 'work'>> & {
  readonly host: string;
  /** 0 for any that is free */
  readonly port: number;
  /** takes the next free port when the one asked for is taken */
  readonly nextPort: boolean;
  /** the built pages */
  readonly webDirectory: string;
  /** names of the host that requests may come by, besides the local ones */
  readonly hostNames: readonly string[];
  readonly logger: Logger;
};

export type Serving = {
  readonly port: number;
  /** Answers what was asked, refuses more, and lets go of the folder. */
  readonly close: () => Promise<void>;
};

/**
 * The application over one data folder, with its pages, answering requests.
 * @throws FolderInUseError when another server has the folder; EADDRINUSE when the port is taken. The folder is let go of then.
 */
export async function serve(options: ServeOptions): Promise<Serving> {
  const { directory, webDirectory, logger, hostNames, actor, mail, work } = options;
  const application = await openApplication({
    directory,
    recover: true,
    work,
    report: (error) => logger.error(error, 'Background work failed'),
    actor,
    mail,
  });
  const server = createServer(createApp({ application, logger, webDirectory, hostNames: [...hostNames] }));
  server.requestTimeout = MINUTES_OF_AN_UPLOAD * 60_000;
  // a connection that is given up just as it is used again loses a request
  server.keepAliveTimeout = SECONDS_IDLE * 1000;
  const port = await listen(server, options).catch(async (error: unknown) => {
    await application.close();
    throw error;
  });
  await application.mailSender.start();
  application.scheduleClock.start();
  return { port, close: () => closed(server, application) };
}

async function listen(server: Server, { host, port, nextPort }: ServeOptions): Promise<number> {
  for (let next = port; ; next += 1)
    try {
      server.listen(next, host);
      // rejects at an error
      await once(server, 'listening');
      return (server.address() as AddressInfo).port;
    } catch (error) {
      const isLast = !nextPort || next - port === PORTS_TRIED - 1;
      if (isLast || (error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    }
}

function closed(server: Server, application: Application): Promise<void> {
  const done = new Promise((resolve) => server.close(resolve));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), MILLISECONDS_TO_FINISH).unref();
  return done.then(() => application.close());
}
