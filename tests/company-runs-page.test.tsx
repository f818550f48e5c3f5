import { fireEvent, waitFor, within } from '@testing-library/react';
import type { CompanyRunDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';
import { makeTinyPack } from './support/tiny-pack.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
  await makeTinyPack(server, 'all');
});
afterEach(closePage);
afterAll(() => server.close());

const open = async (between?: Between) => {
  const page = openPage(server, '/c/1/packs/companies?asOf=2026-10', between);
  const form = within(await page.findByRole('form', { name: 'New run' }));
  await form.findByRole('checkbox', { name: 'Gannet Rock' });
  await form.findByRole('option', { name: 'Bank letter' });
  fireEvent.change(form.getByRole('combobox', { name: 'Pack' }), { target: { value: 'pack-1' } });
  const submit = () => form.getByRole<HTMLButtonElement>('button', { name: /^Issue for/ });
  return { page, form, submit };
};

describe('a run for companies', () => {
  it('is for those that are ticked, and for none cannot begin', async () => {
    const { form, submit } = await open();
    expect(submit().textContent).toBe('Issue for 2 companies');
    fireEvent.click(form.getByRole('checkbox', { name: 'Gannet Rock' }));
    expect(submit().textContent).toBe('Issue for 1 company');
    fireEvent.click(form.getByRole('button', { name: 'Clear' }));
    expect([submit().textContent, submit().disabled]).toEqual(['Issue for 0 companies', true]);
    fireEvent.click(form.getByRole('button', { name: 'Select all' }));
    expect([submit().textContent, submit().disabled]).toEqual(['Issue for 2 companies', false]);
  });

  it('names an address that is none, and keeps what was chosen', async () => {
    const { form, submit } = await open();
    const to = form.getByRole<HTMLInputElement>('textbox', { name: /^Mail each as PDF/ });
    fireEvent.change(to, { target: { value: 'ines.example.com' } });
    fireEvent.click(submit());
    expect(await form.findByText('mail, to 1: ines.example.com is not an email address. Enter one such as name@company.com')).toBeTruthy();
    expect([to.value, await server.get<CompanyRunDto[]>('/company-runs')]).toEqual(['ines.example.com', []]);
  });

  it('begins once where its answer is lost and it is sent again, on a page that came without TLS, too', async () => {
    const whole = Object.getOwnPropertyDescriptor(Crypto.prototype, 'randomUUID')!;
    // what browsers leave out of such a page
    Reflect.deleteProperty(Crypto.prototype, 'randomUUID');
    try {
      let isLost = true;
      const { page, form, submit } = await open((method, path) => {
        if (method !== 'POST' || path !== '/company-runs' || !isLost) return undefined;
        isLost = false;
        return new Response('', { status: 502, statusText: 'Bad Gateway' });
      });
      fireEvent.click(submit());
      expect(await form.findByText('The server answered 502 Bad Gateway.')).toBeTruthy();
      fireEvent.click(submit());
      const run = within(await page.findByRole('region', { name: 'Bank letter, 2026-10' }));
      await waitFor(() => expect(run.getByRole('status').textContent).toMatch(/^2 of 2 issued/));
      expect(run.getAllByRole('link', { name: 'Issue 1' })).toHaveLength(2);
      expect(run.getByRole('link', { name: 'spreadsheets' }).getAttribute('href')).toMatch(/files\.zip\?format=xlsx$/);
      expect(await server.get<CompanyRunDto[]>('/company-runs')).toHaveLength(1);
    } finally {
      Object.defineProperty(Crypto.prototype, 'randomUUID', whole);
    }
  });
});
