import { monthCalendar, periodOfYear, type PeriodState, shortPeriodName } from '@wise-margin/core';
import type { Transaction } from 'sequelize';

import type { Database } from '../database/database.ts';
import { ProblemError } from '../http/problem.ts';

/** A period as it is stored: fiscal year times 100 and period number. */
type PeriodCode = number;

/** The periods of a company that are not open. */
export async function periodStates(
  database: Database,
  companyId: number,
  transaction?: Transaction,
): Promise<ReadonlyMap<PeriodCode, PeriodState>> {
  const rows = await database.select<{ period_code: number; state: PeriodState }>(
    'SELECT period_code, state FROM period_states WHERE company_id = $1',
    [companyId],
    transaction,
  );
  return new Map(rows.map(({ period_code, state }) => [period_code, state]));
}

/** People who may post in soft-closed periods. */
export async function periodPeople(database: Database, companyId: number, transaction?: Transaction): Promise<string[]> {
  const rows = await database.select<{ person: string }>(
    'SELECT person FROM period_people WHERE company_id = $1 ORDER BY person',
    [companyId],
    transaction,
  );
  return rows.map(({ person }) => person);
}

type Asked = { readonly companyId: number; readonly person: string };

/** The periods in which a person may not post. */
export async function closedTo(
  database: Database,
  { companyId, person }: Asked,
  transaction?: Transaction,
): Promise<ReadonlyMap<PeriodCode, PeriodState>> {
  const states = await periodStates(database, companyId, transaction);
  const isAllowed = (await periodPeople(database, companyId, transaction)).includes(person);
  return new Map([...states].filter(([, state]) => state === 'closed' || !isAllowed));
}

/** `Oct 2026`, `adjustment period of FY2026` */
export function periodName(startMonth: number, code: PeriodCode): string {
  const [year, number] = [Math.floor(code / 100), code % 100];
  if (number === 13) return `adjustment period of FY${year}`;
  const calendar = monthCalendar({ startMonth, firstYear: year, lastYear: year });
  return shortPeriodName(calendar, periodOfYear(calendar, year, number)!);
}

/** @throws ProblemError 409 naming the first of the periods in which the person may not post */
export async function refuseClosedPeriods(
  database: Database,
  { codes, ...asked }: Asked & { readonly codes: Iterable<PeriodCode> },
  transaction?: Transaction,
): Promise<void> {
  const closed = await closedTo(database, asked, transaction);
  const found = [...codes].filter((code) => closed.has(code)).sort((a, b) => a - b)[0];
  if (found === undefined) return;
  const [company] = await database.select<{ start_month: number }>(
    'SELECT start_month FROM companies WHERE id = $1',
    [asked.companyId],
    transaction,
  );
  const name = periodName(company!.start_month, found);
  throw new ProblemError(
    409,
    'Period closed',
    closed.get(found) === 'closed'
      ? `${name} is closed. Post in an open period, or reopen it with a reason.`
      : `${name} is soft-closed, and ${asked.person} is not among those who may post in it. Post in an open period, or ask one of them.`,
  );
}
