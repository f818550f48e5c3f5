import { readFileSync, writeFileSync } from 'node:fs';

import type { Page } from '@playwright/test';
import type { EntryDto, EntryListDto } from '@wise-margin/contract';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

import { contentOf } from '../support/entry-content.ts';
import { expect, expectAccessible, open, test } from './support.ts';

const PACK = '/c/1/packs/monthly-review?asOf=2026-10';
const previewOf = (page: Page) => page.getByRole('region', { name: 'Preview' });
const outlineOf = (page: Page) => page.getByRole('list', { name: 'Sections' });

/** The pages of a PDF: whether each is upright, and its characters in order of the alphabet, since print draws in another order. */
async function sheetsOf(bytes: Uint8Array): Promise<{ readonly isUpright: boolean; readonly words: string }[]> {
  const pdf = await getDocument({ data: new Uint8Array(bytes), useSystemFonts: true }).promise;
  return Promise.all(
    Array.from({ length: pdf.numPages }, async (_, at) => {
      const sheet = await pdf.getPage(at + 1);
      const { width, height } = sheet.getViewport({ scale: 1 });
      const { items } = await sheet.getTextContent();
      const characters = items.flatMap((item) => ('str' in item ? [...item.str.replaceAll(/\s/g, '')] : []));
      return { isUpright: height > width, words: characters.sort().join('') };
    }),
  );
}

// each step starts from what the one before it left
test.describe.configure({ mode: 'serial', timeout: 240_000 });
// four files are written; beside other tests, and for the first time, that takes a while
const ISSUED = { timeout: 90_000 };

test('the monthly review is written on its page, checked, issued, and its web page loads nothing', async ({ page, packs }, info) => {
  await open(page, packs, '/c/1');
  await page.getByRole('link', { name: 'Packs', exact: true }).click();
  await expect(page.getByRole('link', { name: /^Monthly management review/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: /^Monthly management review/ }).click();
  await expect(previewOf(page).getByRole('img', { name: /^Page 1 of \d+$/ })).toBeVisible();
  await expect(outlineOf(page)).toContainText('As of the meeting');
  await expectAccessible(page);

  await page.getByRole('button', { name: /^Summary/ }).click();
  const text = page.getByRole('textbox', { name: 'Summary' });
  await text.click();
  await page.keyboard.type('Operating income was ');
  await page.getByRole('button', { name: 'Insert figure' }).click();
  await page.getByLabel('Line', { exact: true }).last().selectOption('operating_income');
  await page.getByRole('button', { name: /^Insert \(/ }).click();
  await page.keyboard.type(' because of freight.');
  await expectAccessible(page);
  // at once, with the last words not saved yet: both arrive
  await page.getByRole('button', { name: 'Submit for review' }).click();
  await expect(page.getByRole('button', { name: 'Return to draft' })).toBeVisible();
  await expect(page.getByText('Text saved')).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(previewOf(page)).toContainText('because');
  await expect(outlineOf(page).getByText('The text is a draft that nobody accepted yet.')).toHaveCount(0);

  await page.getByRole('button', { name: 'Issue…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Issue pack' });
  await expect(dialog).toContainText('October 2026 is not closed.');
  await expectAccessible(page, dialog);
  await dialog.getByRole('button', { name: /^Issue/ }).click();
  await expect(page.getByText(/Checksum ([0-9A-F]{4} ){7}[0-9A-F]{4}/)).toBeVisible(ISSUED);
  await expectAccessible(page);

  // printed from its page, it has the sheets of its PDF, upright and across
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'PDF' }).click()]);
  const sheets = await sheetsOf(readFileSync(await pdf.path()));
  expect(new Set(sheets.map(({ isUpright }) => isUpright))).toEqual(new Set([true, false]));
  const printed = await sheetsOf(await page.pdf({ preferCSSPageSize: true }));
  expect(printed.map(({ isUpright }) => isUpright)).toEqual(sheets.map(({ isUpright }) => isUpright));
  for (const [at, { words }] of printed.entries()) expect(words, `sheet ${at + 1}`).toEqual(sheets[at]!.words);

  // the web page is read as it is sent: from a file, on a phone, and nothing is asked for outside
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'HTML' }).click()]);
  const file = info.outputPath('pack.html');
  writeFileSync(file, readFileSync(await download.path()));
  const reader = await page.context().newPage();
  const outside: string[] = [];
  reader.on('request', (request) => {
    if (!request.url().startsWith('file:') && !request.url().startsWith('data:')) outside.push(request.url());
  });
  await reader.setViewportSize({ width: 390, height: 844 });
  await reader.goto(`file://${file}`);
  await expect(reader.getByRole('heading', { name: 'Income statement' })).toBeVisible();
  expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await expectAccessible(reader);
  expect(outside).toEqual([]);
  await reader.close();
});

test('an issued pack is mailed: without a mail server it is read in the outbox, attachment and all', async ({ page, packs }) => {
  await open(page, packs, '/c/1/packs');
  await page.getByRole('link', { name: /^October 2026, issue 1/ }).click();
  await page.getByRole('button', { name: 'Mail…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Mail Monthly management review' });
  await expect(dialog).toContainText('No mail server is set');
  await dialog.getByLabel('To', { exact: true }).fill('ann@company.com, joe');
  await dialog.getByRole('button', { name: 'Put 2 in the outbox' }).click();
  await expect(dialog.getByRole('alert')).toContainText('is not an email address. Enter one such as name@company.com');
  await dialog.getByLabel('To', { exact: true }).fill('ann@company.com, bo@company.com');
  await dialog.getByLabel('Spreadsheet').check();
  await expectAccessible(page, dialog);
  await dialog.getByRole('button', { name: 'Put 2 in the outbox' }).click();
  await expect(page.getByText('2 in the outbox')).toBeVisible();
  await page.getByRole('link', { name: 'Mail', exact: true }).click();
  await page.getByRole('button', { name: 'ann@company.com' }).click();
  const message = page.getByRole('region', { name: 'Message', exact: true });
  await expect(message).toContainText('The Monthly management review of Tern Island Kayak Works for October 2026 is attached.');
  await expect(message).toContainText('monthly-review-2026-10.pdf');
  await expect(message).toContainText('monthly-review-2026-10.xlsx');
  await expectAccessible(page);
  const [download] = await Promise.all([page.waitForEvent('download'), message.getByRole('link', { name: 'Download message' }).click()]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('Subject: Monthly management review, October 2026');
});

test('a correction after the issue changes nothing that was issued, and shows in the reissue', async ({ page, packs }) => {
  const api = packs.base;
  const { lines } = (await (
    await page.request.get(`${api}/companies/1/entries?limit=50&accounts=6110&from=2026-10&to=2026-10`)
  ).json()) as EntryListDto;
  const entries = await Promise.all(
    lines.map(async ({ entryId }) => (await (await page.request.get(`${api}/companies/1/entries/${entryId}`)).json()) as EntryDto),
  );
  const entry = entries.find(({ state, lines: own }) => state === 'posted' && own.length === 2)!;
  const content = contentOf(entry);
  content.lines = content.lines.map((line) => ({ ...line, amount: line.amount + Math.sign(line.amount) * 300_00 }));
  const correction = await page.request.post(`${api}/companies/1/entries/${entry.id}/correction`, {
    data: { version: entry.version, content, reason: 'Bill misread' },
  });
  expect(correction.status()).toBe(204);

  await open(page, packs, PACK);
  await page.getByRole('button', { name: 'Reissue…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Issue/ })
    .click();
  const changes = page.getByRole('region', { name: 'Changes' });
  await expect(changes.getByRole('row', { name: /Rent and utilities Income statement, October 2026, Actual/ })).toContainText(
    '300.00',
    ISSUED,
  );
  await expect(changes.getByRole('heading')).toContainText('Changed since issue 1');
  await expectAccessible(page);
});

test('the next month is prepared by one step, and the same pack opens for the other company', async ({ page, packs }) => {
  await open(page, packs, PACK);
  await expect(outlineOf(page)).toContainText('Statement; October 2026');
  await page.getByRole('button', { name: 'Next month, Nov 2026' }).click();
  await expect(outlineOf(page)).toContainText('Statement; November 2026');
  await expect(outlineOf(page).getByText('The text is a draft that nobody accepted yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Switch to Gannet Rock Sea Salt' }).click();
  await expect(page.getByRole('heading', { name: 'Monthly management review' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Company: Gannet Rock/ })).toBeVisible();
  await expect(previewOf(page).getByRole('img', { name: /^Page 1 of \d+$/ })).toBeVisible();
});

test('sections are moved by keyboard, duplicated, hidden, added; the design is saved for one company', async ({ page, packs }) => {
  await open(page, packs, '/c/1/packs/board-summary?asOf=2026-10');
  const titles = () => outlineOf(page).getByRole('button', { expanded: false }).allInnerTexts();
  await expect(previewOf(page).getByRole('img', { name: /^Page 1 of \d+$/ })).toBeVisible();
  // what a screen reader hears says when the list is ready for the next key
  const heard = page.getByRole('status').filter({ hasText: 'summary' });
  await expect(async () => {
    // a list that is drawn again, such as when the month’s texts arrive, lets go of what was picked up
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Move Summary' }).focus();
    await page.keyboard.press('Space');
    await expect(heard).toContainText('over droppable area summary', { timeout: 2000 });
  }).toPass();
  await page.keyboard.press('ArrowDown');
  await expect(heard).toContainText('over droppable area measures');
  await page.keyboard.press('Space');
  await expect(async () => {
    const names = (await titles()).map((words) => words.split('\n')[0]);
    expect(names.slice(0, 3)).toEqual(['Board summary', 'Key measures', 'Summary']);
  }).toPass();
  await page.getByRole('button', { name: 'Hide Trends' }).click();
  await expect(outlineOf(page)).toContainText('not included: hidden');
  await page.getByLabel('Add').selectOption('aging');
  await expect(outlineOf(page)).toContainText('Aging; As of the meeting');
  await page.getByLabel('Title').fill('Who owes us');
  await page.getByRole('button', { name: /^Save for Tern Island/ }).click();
  await expect(page.getByText('Unsaved changes')).toHaveCount(0);
  await page.reload();
  await expect(outlineOf(page)).toContainText('Who owes us');
  await page.getByRole('link', { name: 'Packs', exact: true }).first().click();
  await expect(page.getByRole('row', { name: /^Board summary/ })).toContainText('This company');
  // and taken back to the one that comes with the application
  await page.getByRole('link', { name: /^Board summary/ }).click();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Delete changes' }).click();
  await page.getByRole('alertdialog', { name: 'Delete changes' }).getByRole('button', { name: 'Delete changes' }).click();
  await expect(page.getByRole('row', { name: /^Board summary/ })).toContainText('Built-in');
});

test('a report for each department is issued in one go', async ({ page, packs }) => {
  await open(page, packs, '/c/1/packs/department-report?asOf=2026-10');
  await expect(page.getByText(/reports are issued together/)).toBeVisible();
  await page.getByLabel('Report for').selectOption('Tours');
  await expect(previewOf(page)).toContainText('Tours, October 2026');
  await page.getByRole('button', { name: 'Issue…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Issue/ })
    .click();
  await page.waitForURL(/department-report\/\d+/, ISSUED);
  // four departments at least
  await expect(page.getByRole('combobox', { name: 'Report for' }).getByRole('option').nth(3)).toBeAttached();
});

test('a schedule is a sentence: it shows its next runs, is run now, and mails what it issued', async ({ page, packs }) => {
  await open(page, packs, '/c/1/packs');
  await page.getByRole('link', { name: 'Schedules', exact: true }).click();
  await expect(page.getByText('No schedules yet')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New schedule' }).first().click();
  await page.getByLabel('Day', { exact: true }).selectOption({ label: 'fourth business day' });
  await page.getByLabel('Time', { exact: true }).fill('07:30');
  await page.getByLabel('Time zone').selectOption('America/New_York');
  await page.getByLabel('What', { exact: true }).selectOption('pack lender-pack');
  await page.getByRole('button', { name: 'Create schedule' }).click();
  await expect(page.getByRole('alert')).toContainText('No recipients. Enter at least one address, or choose a list.');
  await page.getByLabel('To', { exact: true }).fill('ann@bank.com, bo@bank.com');
  await page.getByRole('button', { name: 'Create schedule' }).click();
  const schedule = page.getByRole('region', { name: 'Monthly review' });
  await expect(schedule.getByText(/^Next: .+; .+; .+\.$/)).toBeVisible();
  await expectAccessible(page);
  await schedule.getByRole('button', { name: 'Run now' }).click();
  // a schedule is of the month before the day it runs on, in its time zone
  const today = new Date(new Date().toLocaleDateString('en-US', { timeZone: 'America/New_York' }));
  const before = new Date(today.getFullYear(), today.getMonth() - 1, 1).toLocaleDateString('en-US', { month: 'long', year: 'numeric' });
  await expect(schedule).toContainText(`Mailed, ${before}, issue `, ISSUED);
  await schedule.getByRole('button', { name: 'Hold' }).click();
  await expect(schedule).toContainText('On hold.');
  await page.getByRole('link', { name: 'Outbox', exact: true }).click();
  await expect(page.getByRole('row', { name: new RegExp(`^ann@bank\\.com Lender pack, ${before} .* In the outbox`) })).toBeVisible();
});
