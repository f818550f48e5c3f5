import {
  asNonrecurringItems,
  type BudgetDto,
  type BudgetProposalDto,
  type CheckListDto,
  type NonrecurringItemDto,
} from '@wise-margin/contract';
import { afterAll, beforeAll, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type TestServer } from './support/server.ts';

let server: TestServer;
let company: string;
beforeAll(async () => {
  server = await demoServer();
  company = '/companies/1';
});
afterAll(() => server.close());
const fromFiscal2026 = { year: 2027, from: 2026, change: '3' };
const still = async (id: number) => {
  const { items } = await server.get<CheckListDto>(`${company}/budgets/${id}/checks`);
  return items.filter(({ key }) => key.startsWith('nonrecurring ')).map(({ account }) => account);
};

it('what may not recur is proposed, named while it is in the base, and gone once it is left out', async () => {
  const { candidates, methods } = await server.get<BudgetProposalDto>(`${company}/budgets/proposal?from=2026`);
  const proposed = candidates.filter(({ isProposed }) => isProposed);
  expect(proposed.map(({ account }) => account)).toEqual(expect.arrayContaining(['7810', '7110', '7120']));
  expect(methods.find(({ account }) => account === '4010')).toMatchObject({ repeats: 100 });
  const included = (await server.send('POST', `${company}/budgets`, { ...fromFiscal2026, name: 'Kept in' })).body as BudgetDto;
  expect(await still(included.id)).toEqual(expect.arrayContaining(['7810', '7110']));
  const exclude = asNonrecurringItems(proposed);
  const made = await server.send('POST', `${company}/budgets`, { ...fromFiscal2026, name: 'Left out', exclude });
  expect(made.status).toBe(201);
  const left = made.body as BudgetDto;
  expect(await still(left.id)).not.toContain('7810');
  expect((await server.get<NonrecurringItemDto[]>(`${company}/nonrecurring-items`)).length).toBe(proposed.length);
  // the storm has no line in the plan that leaves it out, and one in the other
  const storm = async (id: number) =>
    (await server.get<{ rows: { account: string; total: number }[] }>(`${company}/budgets/${id}`)).rows.find(
      ({ account }) => account === '7810',
    )?.total;
  const posted = proposed.filter(({ account }) => account === '7810').reduce((sum, { amount }) => sum + amount, 0);
  expect(await storm(included.id)).toBe(Math.round(posted * 1.03));
  expect((await storm(left.id)) ?? 0).toBe(0);
  // a name in use is refused before anything is marked
  const again = await server.send('POST', `${company}/budgets`, { ...fromFiscal2026, name: 'Left out', exclude });
  expect(again.status).toBe(422);
  expect(
    (await server.get<BudgetProposalDto>(`${company}/budgets/proposal?from=2026`)).candidates.some(({ isProposed }) => isProposed),
  ).toBe(false);
});
