import { cpSync, rmSync } from 'node:fs';
import { join } from 'node:path';

import { type BrowserContext, type Locator, type Page, test as base } from '@playwright/test';

import { type ServedFolder, serveFolder, startProcess, temporaryFolder } from '../support/process.ts';
import { expect } from './expect.ts';

export { expectAccessible, violationsOn } from './accessible.ts';
export { expect };

type Workers = {
  demo: ServedFolder;
  untouched: ServedFolder;
  bank: ServedFolder;
  packs: ServedFolder;
  companies: ServedFolder;
  empty: ServedFolder;
  ledger: ServedFolder;
  visited: BrowserContext;
  tab: Page;
};

const VIEWPORT = { width: 1280, height: 800 };

/**
 * `page`: the one window of the worker, as somebody has who works in it all day; it remembers no choices of the test before.
 * `demo`: the built application on a fresh copy of the demo data; `untouched`: another, in which no other file's tests correct
 * anything; `bank`: another, which is reconciled with its bank; `packs`: another, whose packs are issued; `companies`: another,
 * whose companies are looked at together; `empty`: with nothing in it, by a process of its own as it is started at work; `ledger`: with the ledger of the kayak company alone.
 */
export const test = base.extend<object, Workers>({
  visited: [
    async ({ browser }, use) => {
      const context = await browser.newContext({ viewport: VIEWPORT });
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  tab: [
    async ({ visited }, use) => {
      await use(await visited.newPage());
    },
    { scope: 'worker' },
  ],
  context: async ({ visited }, use) => {
    await use(visited);
    for (const page of visited.pages().slice(1)) await page.close();
    await visited.clearCookies();
  },
  page: async ({ tab }, use, info) => {
    await use(tab);
    // the page of a test that failed is shown with its report, and the next test gets a new one
    if (info.status !== info.expectedStatus) return;
    tab.removeAllListeners('console');
    tab.removeAllListeners('pageerror');
    await tab.unrouteAll({ behavior: 'ignoreErrors' });
    await tab.emulateMedia({ media: null });
    await tab.setViewportSize(VIEWPORT);
    if (!tab.url().startsWith('http')) return;
    await leave(tab);
    await tab.evaluate(() => {
      localStorage.clear();
      sessionStorage.clear();
    });
  },
  demo: [
    async ({}, use) => {
      await onCopyOf('demo', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  untouched: [
    async ({}, use) => {
      await onCopyOf('demo', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  bank: [
    async ({}, use) => {
      await onCopyOf('demo', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  packs: [
    async ({}, use) => {
      await onCopyOf('demo', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  companies: [
    async ({}, use) => {
      await onCopyOf('demo', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  ledger: [
    async ({}, use) => {
      await onCopyOf('ledger', use);
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  empty: [
    async ({}, use) => {
      const folder = temporaryFolder();
      const server = await startProcess(folder);
      await use(server);
      await server.stop('SIGTERM');
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 60_000 },
  ],
});
/** The built application on a copy of a folder that `global-setup.ts` made. */
async function onCopyOf(made: 'demo' | 'ledger', use: (server: ServedFolder) => Promise<void>): Promise<void> {
  const folder = temporaryFolder();
  cpSync(join(process.env['JOURNEY_DATA']!, made), folder, { recursive: true });
  const server = await serveFolder(process.env['JOURNEY_FOLDERS']!, folder);
  await use(server);
  await server.close();
  rmSync(folder, { recursive: true, force: true });
}

/**
 * Opens an address of a server. A page that shows the application already is led there by its own router, past an address
 * that leads nowhere, so that nothing of the page before is left; the address it is at, and any other server, is loaded.
 */
export async function open(page: Page, server: ServedFolder, path: string): Promise<void> {
  const address = server.base.replace(/\/api$/, path);
  if (page.url() === address || !page.url().startsWith(`${new URL(address).origin}/`)) {
    await page.goto(address);
    return;
  }
  await leave(page);
  await page.evaluate((to) => {
    history.replaceState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
}

/** Leads the application to an address that leads nowhere; again when what a step before had begun led elsewhere meanwhile. */
async function leave(page: Page): Promise<void> {
  await expect(async () => {
    await page.evaluate(() => {
      history.pushState(null, '', '/no/such/page');
      dispatchEvent(new PopStateEvent('popstate'));
    });
    await page.getByText('There is no page at this address').waitFor({ timeout: 5000 });
  }).toPass();
}

/** Figures of a grid by how their label begins. Roles and names of a thousand buttons take a tenth of a second to work out each time one is asked for. */
export const figure = (within: Page | Locator, label: string): Locator => within.locator(`button[aria-label^="${label}"]`);
/** A month of a budget's line, by its account or row and the month's name. A group may have an account's name too, and stands above it. */
export const budgetMonth = (page: Page, name: string, month: string): Locator =>
  page.locator(`button[aria-label^="${name}, Budget, ${month} 202"]:not([aria-label*=" to Mar "])`).last();
