import { type FindingsDto, findingsSchema, type ImportDto } from '@wise-margin/contract';
import { afterAll, beforeAll, expect, it } from 'vitest';

import { startTestServer, type TestServer } from './support/server.ts';
import { NEW_COMPANY } from './support/small-ledger.ts';

const ACCOUNTS = 640;
let server: TestServer;
let company: number;
beforeAll(async () => {
  server = await startTestServer();
  const numbers = Array.from({ length: ACCOUNTS }, (_, at) => String(6000 + at));
  const accounts = [
    'account,name,class,active,group',
    '1000,Cash,Cash,yes,Cash',
    ...numbers.map((number) => `${number},Cost ${number},Operating expenses,yes,Cost ${number}`),
  ];
  // each cost doubles from one year to the next
  const entry = (name: string, date: string, amount: number) => [
    ...numbers.map((number) => `${name},${date},${number},${amount.toFixed(2)}`),
    `${name},${date},1000,${(-amount * ACCOUNTS).toFixed(2)}`,
  ];
  const ledger = ['entry,date,account,amount', ...entry('A', '2025-03-10', 50), ...entry('B', '2026-03-10', 100)];
  const made = await server.upload(
    { ...NEW_COMPANY, name: 'Many costs' },
    { accounts: `${accounts.join('\n')}\n`, ledger: `${ledger.join('\n')}\n` },
  );
  company = ((await server.send('POST', `/imports/${made.id}/post`)).body as ImportDto).companyId!;
});
afterAll(() => server.close());

it('a limit that makes every line a finding lists the five hundred largest, and says how many there are', async () => {
  const limit = { amount: 1, percent: null, passes: 'either', least: 0 };
  expect(await server.send('PUT', `/companies/${company}/materiality`, { month: limit, yearToDate: limit, overrides: [] })).toMatchObject({
    status: 200,
  });
  const { findings, count }: FindingsDto = findingsSchema.parse(
    await server.get(`/companies/${company}/findings?asOf=2026-03&comparison=priorYear`),
  );
  expect([findings.length, count >= ACCOUNTS]).toEqual([500, true]);
  expect(findings.every(({ spans }) => spans[0]!.variance !== 0)).toBe(true);
});
it('limits of zero or of text are refused, with what to enter', async () => {
  const limit = { amount: 0, percent: null, passes: 'either', least: 0 };
  const send = (month: object) => server.send('PUT', `/companies/${company}/materiality`, { month, yearToDate: month, overrides: [] });
  expect(await send(limit)).toMatchObject({
    status: 422,
    body: { errors: [{ message: 'A limit is more than zero' }, { message: 'A limit is more than zero' }] },
  });
  expect(await send({ ...limit, amount: 'much' })).toMatchObject({ status: 422 });
  expect(await send({ ...limit, amount: null })).toMatchObject({
    status: 422,
    body: { detail: expect.stringContaining('Enter an amount, a percent, or both') as unknown },
  });
});
