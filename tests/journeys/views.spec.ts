import type { Locator } from '@playwright/test';
import { type PackedGrid } from '@wise-margin/contract';

// the file alone: the package would bring the core into every worker
import { unpackGrid } from '../../packages/presentation/src/grid/packed-grid.ts';
import { expect, expectAccessible, open, test } from './support.ts';

const choose = (within: Locator, label: string, value: string) => within.getByLabel(label, { exact: true }).selectOption(value);
const fill = async (within: Locator, label: string, text: string) => {
  await within.getByLabel(label, { exact: true }).fill(text);
  await within.getByLabel(label, { exact: true }).press('Enter');
};

test('the view of 36 columns is built by hand from nothing, saved, and moves with the month', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements?asOf=2026-10');
  await page.getByRole('link', { name: 'New view' }).click();
  await page.getByRole('link', { name: 'Blank view' }).click();
  await expect(page.getByRole('heading', { name: 'No lines yet' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Coverage' })).toHaveCount(0);
  await page.getByLabel('Copy lines from another view').selectOption('Income statement');
  await expect(page.getByRole('heading', { name: 'No columns yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByRole('button', { name: 'Add block' }).click();
  const block = page.getByRole('region', { name: 'Block Period' });
  await choose(block, 'Repeat', 'months:year');
  await block.getByLabel('Add a total').check();
  await block.getByRole('button', { name: 'Add column' }).click();
  // the heading follows the scenario, and the formula name the heading
  await choose(block, 'Scenario', 'budget');
  await block.getByRole('button', { name: 'Add column' }).click();
  await choose(block, 'Type', 'percentDifference');
  await expect(block.getByLabel('Heading', { exact: true })).toHaveValue('%');
  await expect(block.getByLabel('Compare', { exact: true })).toHaveValue('actual');
  await expect(block.getByLabel('With', { exact: true })).toHaveValue('budget');
  await expect(page.getByRole('columnheader', { name: 'Apr 2026', exact: true })).toBeVisible();
  // only the columns in view are drawn: the last ones are there when scrolled to
  await expect(async () => {
    // the statement widens when the last column arrives
    await page.getByRole('region', { name: 'Statement' }).evaluate((region) => region.scrollTo({ left: region.scrollWidth }));
    await expect(page.getByRole('columnheader', { name: 'Total, Apr 2026 to Mar 2027' })).toBeVisible({ timeout: 1000 });
    await expect(page.getByRole('columnheader', { name: 'Mar 2027', exact: true })).toBeVisible({ timeout: 1000 });
  }).toPass();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Save as' }).click();
  const form = page.getByRole('form', { name: 'Save as' });
  await form.getByLabel('Name', { exact: true }).fill('Months by hand');
  await form.getByRole('button', { name: 'Save view' }).click();
  await expect(page.getByRole('heading', { name: 'Months by hand' })).toBeVisible();

  // ten of its figures against what the database holds, read by account and month
  const key = new URL(page.url()).pathname.split('/').at(-1)!;
  const grid = unpackGrid(await demo.get<PackedGrid>(`/companies/1/statements/${key}?asOf=2026-10`));
  expect(grid.columns).toHaveLength(39);
  const accounts = await demo.get<{ periods: string[]; accounts: { number: string; months: (number | null)[] }[] }>(
    '/companies/1/accounts?year=2027',
  );
  for (const number of ['4010', '4110', '5010', '6110', '6120']) {
    const line = grid.lines.findIndex(({ account }) => account === number);
    for (const month of ['2026-07', '2026-10']) {
      const cell = grid.cells[line]![grid.columns.findIndex((column) => column.key.endsWith(`${month}.actual`))]!;
      const held = accounts.accounts.find((each) => each.number === number)!.months[accounts.periods.indexOf(month)]!;
      expect([number, month, cell]).toEqual([number, month, { kind: 'amount', value: held }]);
    }
  }
  // in another year every column moves by itself
  await page.keyboard.press(',');
  await expect(page.getByText(/^September 2026;/)).toBeVisible();
  await open(page, demo, `/c/1/statements/${key}?asOf=2026-03`);
  await expect(page.getByRole('columnheader', { name: 'Apr 2025', exact: true })).toBeVisible();
  await open(page, demo, '/c/1/statements');
  await page.getByRole('textbox', { name: 'Find a view' }).fill('by hand');
  await expect(page.getByRole('link', { name: /Months by hand/ })).toBeVisible();
  await page.getByRole('button', { name: 'Star Months by hand' }).click();
  await expect(page.getByRole('heading', { name: 'Starred' })).toBeVisible();

  // changed, it is not left without asking; renamed and shared it is in its folder; deleted it is gone
  await open(page, demo, `/c/1/statements/${key}/edit?asOf=2026-10`);
  await page.getByRole('button', { name: /^Remove column %/ }).click();
  await page.getByRole('link', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Keep editing' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Name and folder' }).click();
  const details = page.getByRole('form', { name: 'Name and folder' });
  await details.getByLabel('Name', { exact: true }).fill('Months of mine');
  await details.getByLabel('Folder').fill('Monthly');
  await details.getByLabel('Share with colleagues').check();
  await details.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('heading', { name: 'Edit Months of mine' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await page.getByRole('button', { name: 'Delete view' }).click();
  await expect(page.getByRole('heading', { name: 'Statements', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: /Months of mine/ })).toHaveCount(0);
});

test('a line is put in the middle, its formula broken and fixed, and steps are undone', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income/edit?asOf=2026-10');
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  const list = page.getByRole('list', { name: 'Lines' });
  await expect(page.getByText('Every account with a balance is on exactly one line.')).toBeVisible();
  await list.getByRole('button', { name: /^Gross margin/ }).click();
  await page.getByLabel('Add line').selectOption('Formula');
  await fill(list, 'Name', 'EBITDA');
  await fill(list, 'Formula', 'operating_income + deprecation_line');
  await expect(page.getByRole('alert')).toContainText(
    'Line EBITDA: There is no line "deprecation_line". Use the formula name of a line in this view.',
  );
  // the rest of the statement still shows
  await expect(page.getByRole('row', { name: /^Gross profit/ })).toContainText('85,421');
  await fill(list, 'Formula', 'operating_income + operating_lines.depreciation');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByRole('row', { name: /^EBITDA/ })).toBeVisible();
  await expectAccessible(page);

  // a formula name that is changed is changed everywhere
  await list.getByRole('button', { name: /^Revenue, net/ }).click();
  await fill(list, 'Formula name', 'net_sales');
  await list.getByRole('button', { name: /^Gross profit/ }).click();
  await expect(list.getByLabel('Formula', { exact: true })).toHaveValue('net_sales - cost_of_sales');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByLabel('Formula', { exact: true })).toHaveValue('revenue - cost_of_sales');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(list.getByLabel('Formula', { exact: true })).toHaveValue('net_sales - cost_of_sales');
  // with the keyboard a line steps past its neighbor
  await list.getByRole('button', { name: /^EBITDA/ }).press('Alt+ArrowDown');
  await expect
    .poll(async () => {
      const texts = await list.getByRole('listitem').allInnerTexts();
      return texts.findIndex((text) => text.startsWith('EBITDA')) > texts.findIndex((text) => text.startsWith('Operating expenses'));
    })
    .toBe(true);
});

test('a block over June to August is chosen in a list, beside percent of budget reached', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/income/edit?asOf=2026-10');
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  const block = page.getByRole('region', { name: 'Block Period', exact: true });
  await block.getByLabel('Repeat').selectOption('Chosen months');
  await block.getByLabel('Chosen months', { exact: true }).selectOption(['2026-06', '2026-07', '2026-08']);
  await expect(page.getByRole('columnheader', { name: 'Jun 2026', exact: true })).toBeVisible();
  // every block has nine columns, and only those in view are drawn
  for (const column of ['Chg. %', 'Change', 'Prior year', '% of revenue'])
    await block
      .getByRole('button', { name: `Remove column ${column}`, exact: true })
      .last()
      .click();
  await block.getByLabel(/^Add a ready-made column to block/).selectOption('Percent of budget reached');
  await expect(page.getByRole('columnheader', { name: '% of budget' }).first()).toBeVisible();
  await page.getByRole('region', { name: 'Statement' }).evaluate((region) => region.scrollTo({ left: 900 }));
  await expect(page.getByRole('columnheader', { name: 'Aug 2026', exact: true })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expectAccessible(page);
});

test('a view starts as a copy; lines move by key, a used line says so, and columns are resized', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/new?asOf=2026-10');
  await page.getByRole('link', { name: /^Income statement/ }).click();
  await expect(page.getByText('Copy of Income statement')).toBeVisible();
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  const list = page.getByRole('list', { name: 'Lines' });
  // nothing but names outside formula fields
  await expect(page.getByRole('complementary', { name: 'Editor' })).not.toContainText(/\{|_section/);

  // into the section above, out again, and to one by menu
  const profit = list.getByRole('button', { name: /^Gross profit/ });
  await profit.click();
  await profit.press('Alt+ArrowRight');
  await expect(list.getByLabel('In section')).toHaveValue('cost_section');
  await profit.press('Alt+ArrowLeft');
  await expect(list.getByLabel('In section')).toHaveValue('');
  await list.getByLabel('In section').selectOption('Revenue');
  await expect(list.getByLabel('In section')).toHaveValue('revenue_section');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByLabel('In section')).toHaveValue('');

  // rules of a line's own
  await list.getByLabel('Rule below').selectOption('Double');
  await expect(
    page
      .getByRole('row', { name: /^Gross profit/ })
      .locator('.rule-below-double')
      .first(),
  ).toBeVisible();

  // what others use is not removed without asking
  await list.getByRole('button', { name: 'Remove Gross profit' }).click();
  const prompt = page.getByRole('alertdialog', { name: 'Remove Gross profit' });
  await expect(prompt).toContainText('Gross profit is used by Gross margin and Operating income.');
  await expectAccessible(page, prompt);
  await prompt.getByRole('button', { name: 'Cancel' }).click();
  await expect(list.getByRole('button', { name: 'Remove Gross profit' })).toBeFocused();
  await page.keyboard.press('Enter');
  await prompt.getByRole('button', { name: 'Hide it and keep their amounts' }).click();
  await expect(page.getByRole('row', { name: /^Gross profit/ })).toHaveCount(0);
  await expect(page.getByRole('row', { name: /^Gross margin/ })).toContainText('38.9%');
  await expect(page.getByRole('alert')).toHaveCount(0);

  // a formula starts empty and without an error
  await page.getByLabel('Add line').selectOption('Formula');
  await expect(list.getByLabel('Name', { exact: true })).toHaveValue('Formula');
  await expect(list.getByLabel('Formula', { exact: true })).toHaveValue('');
  await expect(page.getByRole('alert')).toHaveCount(0);

  // widths, by the pointer and by key
  const edge = page.getByRole('separator', { name: 'Width of Actual' }).first();
  const heading = page.getByRole('columnheader', { name: 'Actual' }).first();
  const before = (await heading.boundingBox())!;
  await edge.hover();
  await page.mouse.down();
  await page.mouse.move(before.x + before.width + 80, before.y + 10, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await heading.boundingBox())!.width).toBeGreaterThan(before.width + 40);
  const wide = Number(await edge.getAttribute('aria-valuenow'));
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await expect(edge).toHaveAttribute('aria-valuenow', String(wide + 1));
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('separator', { name: 'Width of Budget' }).first()).toBeFocused();
});

test('a statement from blank: a heading, accounts that are not neighbors, all revenue but tours, a subtotal with a double rule', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/c/1/statements/new?from=blank&asOf=2026-10');
  const list = page.getByRole('list', { name: 'Lines' });
  const add = (kind: string) => page.getByLabel('Add line').selectOption(kind);
  await add('Section');
  // what was added is named next
  await expect(list.getByLabel('Name', { exact: true })).toBeFocused();
  await fill(list, 'Name', 'Selected revenue');
  // its formula name follows, and the field keeps the focus
  await expect(list.getByLabel('Name', { exact: true })).toBeFocused();
  // by keyboard the list acts on Enter, once
  await page.getByLabel('Add line').focus();
  await page.keyboard.type('Accounts on one line', { delay: 10 });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await fill(list, 'Name', 'Dealers, online and repairs');
  await fill(list, 'By number or range', '4010, 4040, 4310');
  await add('Accounts on one line');
  await fill(list, 'Name', 'Revenue except tours');
  await list.getByText(/^By class/).click();
  await list.getByLabel('Revenue', { exact: true }).check();
  await fill(list, 'Excluding', '4110-4120');
  await add('Total of a section');
  await fill(list, 'Name', 'Selected revenue');
  await list.getByLabel('Rule below').selectOption('Double');
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByRole('button', { name: 'Add block' }).click();
  const row = (name: string) => page.getByRole('row').filter({ has: page.getByRole('rowheader', { name, exact: true }) });
  await expect(row('Dealers, online and repairs')).toContainText('115,195');
  await expect(row('Revenue except tours')).toContainText('171,719');
  await expect(row('Selected revenue').last()).toContainText('286,914');
  await expect(page.locator('.rule-below-double')).not.toHaveCount(0);
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('percents of the row’s total and of the grand total over a repeat', async ({ page, demo }) => {
  await open(page, demo, '/c/1/statements/new?from=departments&asOf=2026-10');
  const block = page.getByRole('region', { name: /^Block / }).first();
  await block.getByLabel(/^Add a ready-made column to block/).selectOption('Percent of the row’s total');
  await expect(page.getByRole('columnheader', { name: '% of row' }).first()).toBeVisible();
  await block.getByLabel(/^Add a ready-made column to block/).selectOption('Percent of the grand total');
  await expect(page.getByRole('columnheader', { name: '% of grand total' }).first()).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('lines are defined once for all companies: views that take them follow, until they get their own', async ({ page, demo }) => {
  const saveAs = async (name: string): Promise<string> => {
    await page.getByRole('button', { name: 'Save as' }).click();
    const form = page.getByRole('form', { name: 'Save as' });
    await form.getByLabel('Name', { exact: true }).fill(name);
    await form.getByLabel('Share with colleagues').check();
    await form.getByRole('combobox', { name: 'For' }).selectOption('All companies');
    await form.getByRole('button', { name: 'Save view' }).click();
    await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
    return new URL(page.url()).pathname.split('/').at(-1)!;
  };
  await open(page, demo, '/c/1/statements/new?from=income&asOf=2026-10');
  const lines = await saveAs('Lines of all companies');
  await open(page, demo, '/c/1/statements/new?from=blank&asOf=2026-10');
  await page.getByLabel('Lines of').selectOption('Lines of all companies');
  await expect(page.getByText('These lines are those of Lines of all companies and change with it.')).toBeVisible();
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByLabel('Columns of').selectOption('Income statement');
  await expect(page.getByRole('columnheader', { name: 'Budget', exact: true }).first()).toBeVisible();
  await expectAccessible(page);
  const board = await saveAs('Board statement');

  // a name changed in one place is read in both companies
  await open(page, demo, `/c/1/statements/${lines}/edit?asOf=2026-10`);
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  await expect(page.getByText('A change here also changes Board statement.')).toBeVisible();
  await page.getByRole('button', { name: /^Gross profit/ }).click();
  await fill(page.getByRole('complementary', { name: 'Editor' }), 'Name', 'Gross profit before freight');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  for (const company of [1, 2]) {
    await open(page, demo, `/c/${company}/statements/${board}?asOf=2026-10`);
    await expect(page.getByRole('rowheader', { name: 'Gross profit before freight' })).toBeVisible();
  }

  // with lines of its own it no longer follows; the first view says what stays when it goes
  await open(page, demo, `/c/1/statements/${board}/edit?asOf=2026-10`);
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  await page.getByRole('button', { name: 'Edit a copy here' }).click();
  await expect(page.getByLabel('Lines of')).toHaveValue('');
  await expect(page.getByRole('button', { name: /^Gross profit before freight/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Lines of')).toHaveValue(lines);
  await open(page, demo, `/c/1/statements/${lines}/edit?asOf=2026-10`);
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('alertdialog', { name: 'Delete the view' })).toContainText('Board statement keeps the lines it has now.');
  await page.getByRole('button', { name: 'Delete view' }).click();
  await expect(page.getByRole('heading', { name: 'Statements', exact: true })).toBeVisible();
  await open(page, demo, `/c/2/statements/${board}?asOf=2026-10`);
  await expect(page.getByRole('rowheader', { name: 'Gross profit before freight' })).toBeVisible();
});
