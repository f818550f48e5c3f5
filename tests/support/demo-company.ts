import { inject } from 'vitest';

import { startTestServer, type TestServer } from './server.ts';

/** A server on a copy of the demo data: company 1 is Tern Island with an approved budget for FY2027, company 2 Gannet Rock with one for FY2026. */
export const demoServer = (options: Omit<Parameters<typeof startTestServer>[0] & object, 'from'> = {}): Promise<TestServer> =>
  startTestServer({ ...options, from: inject('demoFolder') });
