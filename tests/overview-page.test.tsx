import { fireEvent, waitFor } from '@testing-library/react';
import type { MeasuresDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1/overview-measures';
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
beforeEach(() => server.send('PUT', AT, { measures: null }));
afterEach(closePage);
afterAll(() => server.close());

const saved = async () => (await server.get<MeasuresDto>(AT)).measures;
const open = async (between?: Between) => {
  const page = openPage(server, '/c/1?asOf=2026-10', between);
  fireEvent.click(await page.findByRole('button', { name: 'Measures' }));
  await page.findByRole('checkbox', { name: 'Current ratio' });
  const box = (name: string) => page.getByRole<HTMLInputElement>('checkbox', { name });
  return { page, box };
};

describe('the measures of the overview', () => {
  it('are ticked at the click, before they are saved', async () => {
    const { box } = await open();
    fireEvent.click(box('Current ratio'));
    expect(box('Current ratio').checked).toBe(true);
    fireEvent.click(box('Days payables'));
    expect(box('Days payables').checked).toBe(false);
    await waitFor(async () => expect(await saved()).toEqual(['cash', 'receivable_days', 'inventory_days', 'current_ratio']));
  });

  it('are eight at most: a ninth cannot be ticked, and none is dropped for it', async () => {
    const { page, box } = await open();
    for (const name of ['Revenue, net', 'Gross margin', 'Operating income', 'Operating margin']) fireEvent.click(box(name));
    expect(page.getByText('At most 8. Clear one to choose another.')).toBeTruthy();
    expect([box('Net income').disabled, box('Cash').disabled]).toEqual([true, false]);
    fireEvent.click(box('Cash'));
    expect(box('Net income').disabled).toBe(false);
    const income = ['revenue', 'gross_margin', 'operating_income', 'operating_margin'];
    await waitFor(async () => expect(await saved()).toEqual(['receivable_days', 'inventory_days', 'payable_days', ...income]));
  });

  it('that could not be saved are as they were, and the panel says why', async () => {
    const { page, box } = await open((method, path) =>
      method === 'PUT' && path === AT ? failed(507, 'The disk is full. Free some space.') : undefined,
    );
    fireEvent.click(box('Current ratio'));
    expect(await page.findByText('The disk is full. Free some space.')).toBeTruthy();
    expect([box('Current ratio').checked, await saved()]).toEqual([false, null]);
  });
});
