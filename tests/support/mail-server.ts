import type { AddressInfo } from 'node:net';

import { SMTPServer, type SMTPServerOptions } from 'smtp-server';

/** A message as a mail server took it. */
export type TakenMail = { readonly from: string; readonly to: readonly string[]; readonly raw: string };
export type TestMailServer = {
  readonly url: string;
  readonly taken: TakenMail[];
  /** how many times somebody began to hand over a message */
  readonly tries: () => number;
  readonly close: () => Promise<void>;
};

/** A general-purpose SMTP server (smtp-server, from the npm registry) on 127.0.0.1 that keeps what it takes. */
export async function startMailServer(options: SMTPServerOptions = {}, login = ''): Promise<TestMailServer> {
  const taken: TakenMail[] = [];
  let tries = 0;
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: options.secure ? [] : ['STARTTLS'],
    closeTimeout: 500,
    logger: false,
    onMailFrom: (_address, _session, done) => {
      tries += 1;
      done();
    },
    onData: (stream, session, done) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        const { mailFrom, rcptTo } = session.envelope;
        taken.push({
          from: mailFrom ? mailFrom.address : '',
          to: rcptTo.map(({ address }) => address),
          raw: Buffer.concat(chunks).toString('utf8'),
        });
        done();
      });
    },
    ...options,
  });
  server.on('error', () => undefined);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.server.address() as AddressInfo;
  return {
    url: `${options.secure ? 'smtps' : 'smtp'}://${login}127.0.0.1:${port}${options.secure ? '?tls.rejectUnauthorized=false' : ''}`,
    taken,
    tries: () => tries,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
