import type { BudgetDto, WorksheetDto } from '@wise-margin/contract';

import type { TestServer } from './server.ts';

/** A budget of 2026 from 2025, unchanged: where it stands in the API, and at which address. */
export type TestBudget = {
  readonly id: number;
  readonly api: string;
  readonly address: string;
  readonly worksheet: () => Promise<WorksheetDto>;
};

/** Makes a budget of its own for a test, so that none sees another's edits. */
export function budgetMaker(server: () => TestServer, company: () => number): () => Promise<TestBudget> {
  let made = 0;
  return async () => {
    made += 1;
    const request = { name: `Plan ${made}`, year: 2026, from: 2025 };
    const { id } = (await server().send('POST', `/companies/${company()}/budgets`, request)).body as BudgetDto;
    const api = `/companies/${company()}/budgets/${id}`;
    return { id, api, address: `/c/${company()}/budgets/${id}`, worksheet: () => server().get<WorksheetDto>(`${api}/worksheet`) };
  };
}
