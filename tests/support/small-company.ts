import type { ImportDto } from '@wise-margin/contract';

import type { TestServer } from './server.ts';
import { ACCOUNTS, HEADER, NEW_COMPANY, row } from './small-ledger.ts';

/**
 * A company of one year, calendar 2025: sales in the north that grow by a dollar a month from 1,000, wages of 300
 * in the south.
 * @param options.later months of 2026 that are posted too
 * @returns its number
 */
export async function loadSmallCompany(
  server: TestServer,
  { name = NEW_COMPANY.name, later = 0 }: { readonly name?: string; readonly later?: number } = {},
): Promise<number> {
  const months = Array.from(
    { length: 12 + later },
    (_, month) => `${2025 + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, '0')}-10`,
  );
  const ledger = months.flatMap((date, month) => [
    row(`S${month}`, date, '1000', `${1000 + month}.00`, '', 'Sale', 'North'),
    row(`S${month}`, date, '4000', '', `${1000 + month}.00`, 'Sale', 'North'),
    row(`W${month}`, date, '6000', '300.00', '', 'Pay', 'South'),
    row(`W${month}`, date, '1000', '', '300.00', 'Pay', 'South'),
  ]);
  const checked = await server.upload({ ...NEW_COMPANY, name }, { accounts: ACCOUNTS, ledger: [HEADER, ...ledger, ''].join('\n') });
  return ((await server.send('POST', `/imports/${checked.id}/post`, {})).body as ImportDto).companyId!;
}
