// Serves data folders, each at a port of its own, all from one process: it is ready at once with the second one.
// POST / with a folder's path as the body opens it, and answers its port; DELETE /<port> closes it.
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';

import { pino } from 'pino';

import { serve, threadPool } from '../../apps/server/dist/serve.js';

const host = '127.0.0.1';
// refusals are part of what is tried; what fails is told
const logger = pino({ level: 'error' });
process.on('unhandledRejection', (error) => logger.error(error, 'Background work failed'));
// threads that know their work by now stay for the folders to come
const work = { ...threadPool(), close: () => Promise.resolve() };
const open = new Map();

async function opened(directory) {
  const serving = await serve({
    ...{ directory, host, port: 0, nextPort: false, hostNames: [], work, logger },
    webDirectory: fileURLToPath(new URL('../../apps/web/dist', import.meta.url)),
    actor: { name: 'Analyst', now: () => new Date() },
    mail: { transport: null, from: 'Wise Margin <wise-margin@localhost>', url: 'http://localhost' },
  });
  open.set(serving.port, serving);
  return String(serving.port);
}

async function closed(port) {
  await open.get(port).close();
  open.delete(port);
  return '';
}

async function answer(request, response) {
  try {
    const body = (await request.toArray()).join('');
    response.end(await (request.method === 'DELETE' ? closed(Number(request.url.slice(1))) : opened(body)));
  } catch (error) {
    response.writeHead(500).end(error.stack);
  }
}
const control = createServer((request, response) => void answer(request, response));
control.listen(0, host, () => process.send({ port: control.address().port }));
// ends with the process that began it
process.on('disconnect', () => process.exit(0));
