import type { Page } from '@playwright/test';

import { expect, expectAccessible, open, test } from './support.ts';

const rows = (page: Page) => page.getByRole('list', { name: 'Findings' }).locator('[data-row]');
const why = (page: Page) => page.getByRole('region', { name: 'Why', exact: true });

// one after the other, so that one server serves them all
test.describe.configure({ mode: 'default' });

test('October’s findings name their causes; a comment is accepted and a question asked, by keyboard', async ({ page, untouched }) => {
  await open(page, untouched, '/c/1/findings/variances?asOf=2026-10');
  await expect(rows(page).first()).toContainText('Guide wages and permits');
  // each planted case is among the first ten, with its cause in the first sentence
  const PLANTED = [
    ['Guide wages and permits', 'PR-000166 of Sep 3, “Guide payroll, August second half”, for 42,627 belongs to the other month'],
    ['Rent and utilities', 'EL-2607B of Jul 29 from Island Power Cooperative is 22,143, about ten times the usual 2,611'],
    ['Kayaks to dealers', 'Nothing from Brackwater Marine Supply since Jun 27'],
    [
      'Repairs and maintenance',
      'for 12,840 is posted to 6310 Repairs and maintenance; Regional Boat Show Association is usually posted to 6220',
    ],
    ['Freight in', 'Bill D-4471 of Oct 6 from Harbor Freight Lines for 4,890 was posted again as D-4471A on Oct 17'],
  ] as const;
  for (const [line, cause] of PLANTED) {
    const row = rows(page).filter({ hasText: new RegExp(`^${line}`) });
    await expect(row).toContainText(cause);
    expect(Number(await row.getAttribute('data-row'))).toBeLessThan(10);
  }

  await rows(page).first().focus();
  for (let step = 0; step < 6; step += 1) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(why(page).getByRole('heading', { name: 'Freight in, 10,147.90' })).toBeVisible();
  await expect(page).toHaveURL(/line=cost_lines.freight_in/);
  await why(page).getByRole('button', { name: 'Accept comment' }).press('Enter');
  await expect(why(page).getByRole('button', { name: 'Remove comment' })).toBeVisible();
  await expect(rows(page).nth(6)).toContainText('Explained');

  await why(page).getByRole('button', { name: 'Ask the owner' }).press('Enter');
  await page.keyboard.type('Dana Reyes');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Was it delivered twice?');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(why(page).getByText('Dana Reyes is asked:')).toBeVisible();
  await expect(rows(page).nth(6)).toContainText('Dana Reyes, 1 question without an answer');
  await expectAccessible(page);
});

test('a bridge starts and ends on the statement’s figures, and each step leads to what makes it; the entry opens beside the list', async ({
  page,
  untouched,
}) => {
  await open(page, untouched, '/c/1/findings/variances?asOf=2026-10&line=operating_income&month=2026-10');
  await why(page).getByRole('button', { name: 'Show as a bridge' }).click();
  const bridge = why(page).getByRole('group', { name: 'Bridge of Operating income from Budget (45,034) to Actual (50,953)' });
  await expect(bridge.getByText('(5,919)')).toHaveCount(0);
  await bridge.getByRole('link', { name: 'Freight in, (9,466)' }).click();
  await expect(page).toHaveURL(/statements\/income\?asOf=2026-10&figure=cost_lines.freight_in%7Emonth.budget_difference/);
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('9,465.85');
  await page.getByRole('complementary', { name: 'Drill-down' }).getByRole('link', { name: 'Why it differs' }).click();
  await expect(why(page).getByRole('heading', { name: 'Freight in, 9,465.85' })).toBeVisible();
  await page.goBack();
  await page.goBack();

  await rows(page)
    .filter({ hasText: /^Rent and utilities/ })
    .click();
  await why(page).getByRole('button', { name: 'Open entry' }).first().click();
  const panel = page.getByRole('complementary', { name: 'Drill-down' });
  await expect(panel).toContainText('22,143.00');
  await page.keyboard.press('Escape');
  await expect(why(page).getByRole('heading', { name: 'Rent and utilities, 22,183.35' })).toBeVisible();
});

test('a suspected posting is opened by keyboard, its entry looked at, and answered', async ({ page, untouched }) => {
  await open(page, untouched, '/c/1/findings/postings');
  const list = page.getByLabel('Unusual postings');
  const first = list.locator('[data-row="0"]');
  await expect(first).toHaveText('PU-001243');
  await first.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('complementary', { name: 'Reasons' });
  await expect(panel).toContainText('About ten times the usual 2,611');
  await panel.getByRole('button', { name: 'Open entry' }).press('Enter');
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('22,143.00');
  await page.keyboard.press('Escape');
  await panel.getByLabel('Reason', { exact: true }).fill('Power company is asked');
  await panel.getByRole('button', { name: 'Needs correction' }).press('Enter');
  await expect(panel).toHaveCount(0);
  await expect(list.getByText('PU-001163')).toHaveCount(0);
  await page.getByLabel('Show', { exact: true }).selectOption('answered');
  await expect(list).toContainText('Needs correction');
});

test('tie-outs all agree but for the receivable without a customer; its link leads to the aging, and the overview says so', async ({
  page,
  untouched,
}) => {
  await open(page, untouched, '/c/2/findings/tie-outs?asOf=2026-10');
  await expect(page.getByRole('status').filter({ hasText: '1 of 11 pairs' })).toBeVisible();
  const row = page.getByRole('row', { name: /Receivables agree with open invoices/ });
  await expect(row).toContainText('1 line names no customer');
  await expect(row).toContainText('Differs');
  await page.getByRole('button', { name: 'Run again' }).click();
  await expect(page.getByRole('button', { name: 'Run again' })).toBeEnabled();
  await row.getByRole('link').click();
  await expect(page).toHaveURL(/reports\/aging\?kind=receivables&day=2026-10-31/);
  await open(page, untouched, '/c/2?asOf=2026-10');
  await page.getByRole('region', { name: 'Open tasks' }).getByRole('link', { name: '1 tie-out failing' }).click();
  await expect(page).toHaveURL(/findings\/tie-outs/);
});

test('the overview names the five findings that matter, and a step of its bridge leads to the drill-down', async ({ page, untouched }) => {
  await open(page, untouched, '/c/1?asOf=2026-10');
  const findings = page.getByRole('region', { name: 'Open findings' });
  await expect(findings.getByRole('listitem')).toHaveCount(5);
  await findings.getByRole('link', { name: /Kayaks to dealers/ }).click();
  await expect(why(page).getByRole('heading', { name: 'Kayaks to dealers, (17,449.00)' })).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'Rent and utilities, (22,183)' }).click();
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toContainText('22,183.35');
});

test('a drafted comment is rejected and brought back; a bridge has the steps a person chose', async ({ page, untouched }) => {
  await open(page, untouched, '/c/1/findings/variances?asOf=2026-10&line=operating_income&month=2026-10&span=yearToDate');
  await why(page).getByRole('button', { name: 'Reject' }).press('Enter');
  await expect(why(page).getByText('The drafted comment was rejected.')).toBeVisible();
  await why(page).getByRole('button', { name: 'Show it again' }).click();
  await expect(why(page).getByRole('button', { name: 'Accept comment' })).toBeVisible();
  await why(page).getByRole('button', { name: 'Show as a bridge' }).last().click();
  const bridge = why(page).getByRole('group', { name: /^Bridge of Operating income/ });
  await expect(bridge.getByRole('link', { name: /^Freight in, / })).toBeVisible();
  await why(page).getByRole('button', { name: 'Steps' }).click();
  await page.getByRole('checkbox', { name: 'Freight in' }).uncheck();
  await page.keyboard.press('Escape');
  await expect(bridge.getByRole('link', { name: /^Freight in, / })).toHaveCount(0);
  // printed, its bars and the list are there
  await page.emulateMedia({ media: 'print' });
  expect((await bridge.locator('rect.fill-ink').boundingBox())!.height).toBeGreaterThan(8);
  await expect(rows(page).first()).toBeVisible();
  await page.emulateMedia({ media: null });
  // the ends stay on the statement's figures
  await expect(bridge.getByText('701,297')).toBeVisible();
  await expectAccessible(page);
});

test('the overview has the measures a person chose, and the projection for the year', async ({ page, untouched }) => {
  await open(page, untouched, '/c/1?asOf=2026-10');
  const measures = page.getByRole('region', { name: 'Measures' });
  await expect(measures.getByRole('link', { name: 'Cash: 411,820' })).toBeVisible();
  await expect(measures.getByRole('link', { name: 'Operating income, full year: projected 524,387' })).toBeVisible();
  await page.getByRole('button', { name: 'Measures' }).click();
  await page.getByRole('checkbox', { name: 'Current ratio' }).check();
  // a choice is saved after the one before it; a page that is loaded again sooner does not send it
  const saved = page.waitForResponse(
    (answer) => answer.request().method() === 'PUT' && !answer.request().postData()!.includes('payable_days'),
  );
  await page.getByRole('checkbox', { name: 'Days payables' }).uncheck();
  await saved;
  await page.keyboard.press('Escape');
  await expect(measures.getByRole('link', { name: /^Current ratio: / })).toBeVisible();
  await page.reload();
  await expect(measures.getByRole('link', { name: /^Current ratio: / })).toBeVisible();
  await expect(measures.getByRole('link', { name: /^Days payables: / })).toHaveCount(0);
  await expectAccessible(page);
  await measures.getByRole('link', { name: /^Days sales outstanding: / }).click();
  await expect(page).toHaveURL(/statements\/ratios\?asOf=2026-10&figure=receivable_days(~|%7E)month.actual/);
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toBeVisible();
  await open(page, untouched, '/c/1?asOf=2026-10');
  await expect(page.getByText('Recently viewed:')).toContainText('Ratios');
});

test('findings come from any statement, with limits of its own; a step of a bridge leads to why that line differs', async ({
  page,
  untouched,
}) => {
  await open(page, untouched, '/c/1/findings/variances?asOf=2026-10&comparison=priorMonth');
  await page.getByLabel('Statement').selectOption('Balance sheet');
  await expect(page).toHaveURL(/view=balance/);
  await expect(
    rows(page)
      .filter({ hasText: /^Receivables/ })
      .first(),
  ).toBeVisible();
  await expect(rows(page).filter({ hasText: /^Revenue, net/ })).toHaveCount(0);
  await open(page, untouched, '/c/1/findings/variances?asOf=2026-10&comparison=priorMonth&line=operating_income&month=2026-10&span=month');
  await why(page).getByRole('button', { name: 'Show as a bridge' }).last().click();
  await why(page)
    .getByRole('link', { name: /^Tours, / })
    .click();
  await expect(why(page).getByRole('heading', { name: /^Tours, / })).toBeVisible();
  await open(page, untouched, '/c/1/findings/limits?asOf=2026-10');
  await page.getByLabel('Add limits for').selectOption('The statement Balance sheet');
  await page.getByRole('button', { name: 'Save limits' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Remove the limits of The statement Balance sheet' }).click();
  await page.getByRole('button', { name: 'Save limits' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
});

test('a line goes by a statistic, and its variance is split by volume and price', async ({ page, untouched }) => {
  await open(
    page,
    untouched,
    '/c/1/findings/variances?asOf=2026-10&comparison=priorYear&line=revenue_lines.tours&month=2026-10&span=yearToDate',
  );
  await why(page).getByLabel('Volume', { exact: true }).selectOption('tour guests');
  await why(page).getByRole('button', { name: 'Split by volume' }).click();
  const split = why(page).getByRole('table', { name: 'Price and volume' });
  await expect(split.getByRole('row', { name: /^Apr to Oct 2025 at the new volume/ })).toBeVisible();
  await expect(split.getByRole('row', { name: /^Price or rate/ })).toBeVisible();
  await why(page).getByRole('button', { name: 'Show as a bridge' }).first().click();
  await expect(why(page).getByRole('group', { name: /^Bridge of Tours from Apr to Oct 2025/ })).toContainText('Volume');
  await expectAccessible(page, why(page));
});

test('limits are seen to give fewer findings before they are saved; what cannot be read says what to enter', async ({
  page,
  untouched,
}) => {
  await open(page, untouched, '/c/1/findings/limits?asOf=2026-10');
  const month = page.getByRole('group', { name: 'A month' });
  const october = page.getByRole('table', { name: 'Findings by month' }).getByRole('cell').last();
  await expect(october).toHaveText('10');
  await month.getByLabel('Amount', { exact: true }).fill('none');
  await expect(page.getByRole('alert')).toHaveText('Month: enter the amount as a number above zero.');
  await month.getByLabel('Amount', { exact: true }).fill('50,000');
  await month.getByLabel('Percent', { exact: true }).fill('');
  await expect(october).not.toHaveText('10');
  await page.getByRole('button', { name: 'Save limits' }).click();
  await expect(page.getByRole('button', { name: 'Save limits' })).toBeDisabled();
  await page.getByRole('link', { name: 'Variances' }).click();
  await expect(rows(page).filter({ hasText: /^Guide wages/ })).toHaveCount(0);
});
