import { readFileSync } from 'node:fs';

import workbooks from 'exceljs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

import { expect, expectAccessible, open, test } from './support.ts';

const AT = '/c/1/statements';

test('a statement is written for the board: thousands that foot, red negatives, two sides; the next run offers them', async ({
  page,
  demo,
}) => {
  await open(page, demo, `${AT}/balance?asOf=2026-10`);
  await page.getByLabel('Units').selectOption('thousands');
  await page.getByRole('button', { name: 'Display' }).click();
  const display = page.getByLabel('Display', { exact: true }).last();
  await display.getByLabel('Negatives').selectOption('red');
  await display.getByLabel('Form').selectOption('account');
  await display.getByLabel('Adjust rounding so totals add up').check();
  await display.getByLabel('Currency sign on first lines and totals').check();
  await expectAccessible(page, display);
  await page.keyboard.press('Escape');
  const left = page.getByRole('region', { name: 'Statement, side 1' });
  const right = page.getByRole('region', { name: 'Statement, side 2' });
  await expect(left.getByRole('row', { name: /^Total assets/ })).toContainText('$3,739');
  await expect(right.getByRole('row', { name: /^Total liabilities and equity/ })).toContainText('$3,739');
  // the four lines add up to their total as they are shown
  const shown = await Promise.all(
    ['Cash', 'Receivables', 'Inventory', 'Prepaid expenses', 'Current assets'].map(async (name) => {
      const text = await left
        .getByRole('row')
        .filter({ has: page.getByRole('rowheader', { name, exact: true }) })
        .getByRole('button', { name: /, Actual, balance at the end of Oct 2026:/ })
        .innerText();
      return Number(text.replace(/[$,]/g, ''));
    }),
  );
  expect(shown.slice(0, 4).reduce((sum, value) => sum + value, 0)).toBe(shown[4]);
  // from the library it opens as it was saved, and what was chosen is offered
  await page.getByRole('link', { name: 'Statements', exact: true }).first().click();
  await page.getByRole('link', { name: /^Balance sheet Against/ }).click();
  await expect(page.getByLabel('Units')).toHaveValue('dollars');
  await page.getByRole('link', { name: 'Continue with your display settings, in thousands' }).click();
  await expect(page.getByRole('region', { name: 'Statement, side 2' })).toBeVisible();
  await expect(page.getByLabel('Units')).toHaveValue('thousands');
});

test('filters at run time: accounts typed, a source journal found by typing; what matches nothing is reported', async ({ page, demo }) => {
  await open(page, demo, `${AT}/income?asOf=2026-10`);
  await page.getByRole('button', { name: 'Filters' }).click();
  await page.getByLabel('Accounts', { exact: true }).fill('4000-4999, 61l0');
  await page.getByRole('button', { name: 'Limit to these' }).click();
  await expect(page.getByRole('alert')).toContainText('No account is 61l0. Near: 6110');
  await page.getByLabel('Accounts', { exact: true }).fill('4000-4999, 6110');
  await page.getByRole('button', { name: 'Limit to these' }).click();
  await expect(page.getByRole('row', { name: /^Rent and utilities/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^Materials/ })).toHaveCount(0);
  await expect(page.getByText('accounts 4000-4999, 6110')).toBeVisible();
  await page.getByRole('button', { name: 'Source journal: All' }).click();
  await page.getByLabel('Find among Source journal').fill('boo');
  await page.getByRole('checkbox', { name: 'bookings' }).check();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByText(/source bookings/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^Tours/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^Kayaks to dealers/ })).toHaveCount(0);
});

test('a benchmark is typed for a ratio and for a share, and compared', async ({ page, demo }) => {
  await open(page, demo, `${AT}/ratios?asOf=2026-10`);
  await page.getByRole('button', { name: 'Display' }).click();
  await page.getByRole('button', { name: 'Benchmarks…' }).click();
  const typed = page.getByLabel('Benchmark of Current ratio', { exact: true });
  await typed.fill('two');
  await typed.press('Enter');
  await expect(page.getByText('Enter a number such as 38.5')).toBeVisible();
  await typed.fill('2.5');
  await typed.press('Enter');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('columnheader', { name: 'Benchmark' }).first()).toBeVisible();
  await expect(page.getByRole('row', { name: /^Current ratio/ })).toContainText('2.50');
});

test('every line as a small chart; a chart opens the drill-down of its line', async ({ page, demo }) => {
  await open(page, demo, `${AT}/income?asOf=2026-10`);
  await page.getByRole('button', { name: 'Charts' }).click();
  const charts = page.getByRole('region', { name: 'Charts' });
  await expect(charts.getByRole('img', { name: /^Revenue, net by month. Apr 2026: actual/ })).toBeVisible();
  await charts.getByLabel('One scale for all amounts').check();
  await expectAccessible(page, charts);
  await charts.getByRole('button', { name: 'Revenue, net' }).click();
  await expect(page.getByRole('complementary', { name: 'Drill-down' })).toBeVisible();
});

test('what is on screen leaves as PDF, spreadsheet and print', async ({ page, demo }) => {
  await open(page, demo, `${AT}/income-months?asOf=2026-10&unit=thousands&decimals=1`);
  const revenue = page.getByRole('row', { name: /^Revenue, net/ }).getByRole('button', { name: /Actual, Apr 2026:/ });
  const shown = await revenue.innerText();
  const save = async (name: string): Promise<Buffer> => {
    await page.getByRole('button', { name: 'Download' }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name, exact: true }).click();
    return readFileSync(await (await download).path());
  };
  const pdf = await getDocument({ data: new Uint8Array(await save('PDF')), verbosity: 0 }).promise;
  const { items } = await (await pdf.getPage(1)).getTextContent();
  expect(items.map((item) => ('str' in item ? item.str : ''))).toContain(shown);
  const workbook = new workbooks.Workbook();
  await workbook.xlsx.load((await save('Spreadsheet')) as unknown as ArrayBuffer);
  const sheet = workbook.worksheets[0]!;
  const row = sheet.getColumn(2).values.findIndex((value) => value === 'Revenue, net');
  const held = sheet.getCell(row, 3);
  expect(held.formula).toMatch(/^C\d+/);
  expect((Number(held.result) / 1000).toFixed(1)).toBe(shown);
  const csv = (await save('CSV')).toString('utf8');
  const exact = Number(
    csv
      .split('\r\n')
      .find((line) => line.startsWith('revenue,'))!
      .match(/^revenue,[^,]*,"[^"]*",([-\d.]+),/)![1],
  );
  expect((exact / 1000).toFixed(1)).toBe(shown);
  expect(exact).toBe(Number(held.result));
  // printing draws everything, without the frame
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeHidden();
  await expect(page.getByRole('row', { name: /^Net income/ })).toBeVisible();
  const printed = await getDocument({ data: new Uint8Array(await page.pdf({ format: 'Letter', landscape: true })), verbosity: 0 }).promise;
  expect(printed.numPages).toBeGreaterThan(0);
});

test('the income statement prints both blocks on one page, net income at its foot, over the width of the paper', async ({ demo }) => {
  const file = await fetch(`${demo.base}/companies/1/statements/income/export.pdf?asOf=2026-10`);
  const pdf = await getDocument({ data: new Uint8Array(await file.arrayBuffer()), verbosity: 0 }).promise;
  expect(pdf.numPages).toBe(1);
  for (const number of [1]) {
    const page = await pdf.getPage(number);
    const items = (await page.getTextContent()).items.flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item] : []));
    expect(items.map(({ str }) => str).join(' ')).toContain('Net income');
    const [, , width] = page.view as [number, number, number, number];
    const rightmost = Math.max(...items.map((item) => (item.transform[4] as number) + item.width));
    expect(rightmost).toBeGreaterThan(width - 45);
    // no type beneath 7 points but the marks of favor, which are 6
    expect(Math.min(...items.filter(({ str }) => str !== 'F' && str !== 'U').map((item) => item.height))).toBeGreaterThanOrEqual(6.99);
  }
});

test('titles, footnotes and filters are saved in a view of one’s own', async ({ page, demo }) => {
  await open(page, demo, `${AT}/income?asOf=2026-10&filter.department=Tours`);
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.getByRole('button', { name: 'Page', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Page' });
  for (const [label, text] of [
    ['Title', 'Tours of {company}'],
    ['Subtitle', 'to {as_of}'],
    ['Footnotes', 'Unaudited. {auditor}'],
  ] as const) {
    await panel.getByLabel(label, { exact: true }).fill(text);
    await panel.getByLabel(label, { exact: true }).blur();
  }
  await expect(page.getByRole('alert')).toContainText('There is no field "auditor". Insert one of these: Company, As-of month,');
  await panel.getByLabel('Footnotes').fill('Unaudited.');
  await panel.getByLabel('Footnotes').blur();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save as' }).click();
  await page.getByRole('form', { name: 'Save as' }).getByLabel('Name').fill('Tours for the board');
  await page.getByRole('button', { name: 'Save view' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tours of Tern Island Kayak Works');
  await expect(page.getByText(/October 2026; to October 2026/)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Footnotes' })).toHaveText('Unaudited.');
  await expect(page.getByLabel('Department', { exact: true })).toHaveValue('Tours');
  // the view's own filter is taken off for once
  await page.getByLabel('Department', { exact: true }).selectOption('');
  await expect(page.getByRole('row', { name: /^Kayaks to dealers/ })).toBeVisible();
});
