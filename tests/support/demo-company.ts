import { ternIslandFiles } from '@wise-margin/demo';
import type { ImportDto } from '@wise-margin/contract';
import type { TestServer } from './server.ts';

/** The kayak company of the demo with an approved budget for FY2027; its number. */
export async function loadDemoCompany(server: TestServer): Promise<number> {
  const { accounts, ledger } = ternIslandFiles();
  const made = await server.upload(
    { name: 'Tern Island', currency: 'USD', startMonth: '4', hasAdjustmentPeriod: 'true' },
    { accounts, ledger },
  );
  const { companyId } = (await server.send('POST', `/imports/${made.id}/post`, {})).body as ImportDto;
  await server.send('POST', `/companies/${companyId}/budgets`, {
    name: 'Plan',
    year: 2027,
    from: 2026,
    change: '3',
    changeByClass: {},
    roundTo: 100,
  });
  await server.send('POST', `/companies/${companyId}/budgets/1/state`, { state: 'approved', anyway: true });
  return companyId!;
}
