import type { Page } from '@playwright/test';

import { expect, expectAccessible, figure, open, test } from './support.ts';

const focused = (page: Page) =>
  page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? '');

test('by keyboard: a skip link to the figures, one tab stop for each grid, focus back where a drill-down began', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income?asOf=2026-10');
  await expect(figure(page, 'Net income, Actual, Oct 2026: ')).toBeVisible();
  await page.keyboard.press('Tab');
  expect(await focused(page)).toBe('Skip to content');
  await page.keyboard.press('Enter');
  const first = await focused(page);
  expect(first).toContain('Kayaks to dealers, Actual, Oct 2026');
  // the grid is one stop: the next one lies outside it
  await page.keyboard.press('Tab');
  expect(await page.evaluate(() => document.activeElement?.closest('table') === null)).toBe(true);
  await page.keyboard.press('Shift+Tab');
  expect(await focused(page)).toBe(first);

  await page.keyboard.press('Control+End');
  const corner = await focused(page);
  expect(corner).toContain('Net income');
  await page.keyboard.press('Home');
  expect(await focused(page)).toContain('Net income, Actual, Oct 2026');
  await page.keyboard.press('PageUp');
  expect(await focused(page)).toContain('Actual, Oct 2026');
  const opened = await focused(page);
  await page.keyboard.press('Enter');
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await expect(panel).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  expect(await focused(page)).toBe(opened);
  await page.keyboard.press('Enter');
  await panel.getByRole('button', { name: 'Close', exact: true }).click();
  expect(await focused(page)).toBe(opened);

  // the month strip: one stop, arrows inside
  await page.getByRole('button', { name: 'Show month strip' }).click();
  const strip = page.getByRole('group', { name: /As-of month/ });
  await strip.getByRole('button', { pressed: true }).focus();
  await page.keyboard.press('ArrowLeft');
  expect(await focused(page)).toContain('Sep 2026');
  await page.keyboard.press('Home');
  expect(await focused(page)).toContain('Apr 2024');
  expect(await strip.locator('[tabindex="0"]').count()).toBe(1);

  // shown or hidden, it is remembered
  await page.reload();
  await expect(strip).toBeVisible();
  await page.getByRole('button', { name: 'Hide month strip' }).click();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Show month strip' })).toBeVisible();
  await expect(strip).toBeHidden();
});

test('a link, a saved form and another company leave the focus on the page, and Enter opens the list of companies', async ({
  page,
  demo,
}) => {
  const isOnPage = () => page.evaluate(() => document.activeElement?.closest('main') !== null);
  await open(page, demo, '/c/1/packs?asOf=2026-10');
  await page.getByRole('link', { name: 'Schedules', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Schedules' })).toBeVisible();
  await expect.poll(isOnPage).toBe(true);
  await page.getByRole('button', { name: 'New schedule' }).first().focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of the schedule' })).toBeFocused();
  await page.getByRole('textbox', { name: 'To', exact: true }).fill('ines@example.com');
  await page.getByRole('button', { name: 'Create schedule' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Next: /)).toBeVisible();
  await expect(page.getByRole('region', { name: 'Schedules' })).toBeFocused();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await page.getByRole('button', { name: 'Delete schedule' }).click();

  await page.getByRole('button', { name: /^Company: Tern Island/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Company: Gannet Rock/ })).toBeVisible();
  await page.getByRole('button', { name: /^Company: Gannet Rock/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Company: Tern Island/ })).toBeVisible();
});

test('the trial balance gives focus back too, and its entries are named by date, party and amount', async ({ page, demo }) => {
  await open(page, demo, '/c/1/ledger/reports/trial-balance?asOf=2026-10');
  const figure = page.getByRole('button', { name: /^1100, Trade receivables, Opening/ });
  await figure.focus();
  await page.keyboard.press('Enter');
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await expect(panel.getByRole('button', { name: /^Oct \d+, 2026, .+, \d[\d,]*\.\d\d, entry [A-Z]+-\d+$/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(figure).toBeFocused();
  await figure.click();
  await panel.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(figure).toBeFocused();
});

test.describe('in a small window', () => {
  const figureShare = async (page: Page) => {
    const box = (await page.getByRole('region', { name: 'Statement' }).boundingBox())!;
    const size = page.viewportSize()!;
    return { width: box.width / size.width, height: box.height / size.height };
  };
  test('at 200% zoom and beside a drill-down the figures keep half of it', async ({ page, demo }) => {
    await page.setViewportSize({ width: 640, height: 400 });
    await open(page, demo, '/c/1/statements/income?asOf=2026-10');
    await expect(figure(page, 'Kayaks to dealers, Actual, Oct 2026: ')).toBeVisible();
    expect((await figureShare(page)).height).toBeGreaterThanOrEqual(0.5);
    await page.setViewportSize({ width: 1024, height: 768 });
    await figure(page, 'Kayaks to dealers, Actual, Oct 2026: ').click();
    await expect(page.getByRole('complementary', { name: 'Drill-down' })).toBeVisible();
    expect((await figureShare(page)).width).toBeGreaterThanOrEqual(0.5);
  });
  test('a phone reads every station: nothing runs past its width, the stations at its foot, the month to choose', async ({
    page,
    demo,
  }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    for (const path of [
      '',
      '/statements',
      '/statements/income?asOf=2026-10',
      '/statements/balance?asOf=2026-10',
      '/ledger/reports/trial-balance',
      '/ledger/reports/aging',
      '/ledger/accounts',
      '/budgets',
      '/budgets/1',
    ]) {
      await open(page, demo, `/c/1${path}`);
      await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible();
      expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 390]);
    }
    const stations = (await page.getByRole('navigation', { name: 'Main' }).boundingBox())!;
    expect(stations.y).toBeGreaterThan(740);
    await open(page, demo, '/c/1/statements/income?asOf=2026-10');
    await page.getByLabel('As-of month').selectOption('2026-09');
    await expect(figure(page, 'Kayaks to dealers, Actual, Sep 2026: ')).toBeVisible();
    await expectAccessible(page);
  });
});

test('with the company menu open, and where a company or a page is not there, nothing is inaccessible', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income?asOf=2026-10');
  await page.getByRole('button', { name: /^Company:/ }).click();
  await expect(page.getByRole('option', { name: 'Gannet Rock Sea Salt' })).toBeVisible();
  await expectAccessible(page);
  await open(page, demo, '/c/99');
  await expect(page.getByRole('heading', { name: 'The company cannot be opened' })).toBeVisible();
  await expectAccessible(page);
  await open(page, demo, '/no/such/page');
  await expect(page.getByText('There is no page at this address')).toBeVisible();
  await expect(page.getByText('[object')).toHaveCount(0);
  await expectAccessible(page);
});
