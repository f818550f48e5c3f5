import { Journal } from '../journal.ts';
import { dateIn, demoMonths } from '../months.ts';
import { seededRandom } from '../random.ts';
import { ternIslandAccountsCsv } from './accounts.ts';
import { bankStatements } from './bank.ts';
import { finance, openingBalances } from './finance.ts';
import { overheads } from './overheads.ts';
import { payroll } from './payroll.ts';
import { planted } from './planted.ts';
import { production } from './production.ts';
import { sales } from './sales.ts';
import { LAST_DATE, type Setting } from './setting.ts';
import { ternIslandStatisticsCsv } from './statistics.ts';

export { BANK_STATEMENT_NAMES } from './bank.ts';

/** Tern Island Kayak Works: accounts, ledger, statistics and bank statements as files, the same on every run. */
export function ternIslandFiles(): { accounts: string; ledger: string; statistics: string; bank: Record<string, string> } {
  const setting: Setting = {
    journal: new Journal({ lastDate: LAST_DATE, dimensions: ['department', 'location', 'project'] }),
    random: seededRandom(20261109),
  };
  const months = demoMonths({ firstYear: 2024, years: 4, startMonth: 4 }).filter((month) => dateIn(month, 1) <= LAST_DATE);
  openingBalances(setting);
  for (const month of months) {
    production(setting, month);
    sales(setting, month);
    payroll(setting, month);
    overheads(setting, month);
    finance(setting, month);
  }
  planted(setting);
  return {
    accounts: ternIslandAccountsCsv(),
    ledger: setting.journal.toCsv(),
    statistics: ternIslandStatisticsCsv(months, seededRandom(7)),
    bank: bankStatements(setting),
  };
}
