import { expect, expectAccessible, open, test, violationsOn } from './support.ts';

// Every screen, looked at with axe and at three widths.

const SCREENS: readonly (readonly [string, string, string])[] = [
  ['overview', '/c/1', 'Tern Island Kayak Works'],
  ['imports', '/c/1/ledger/imports', 'Ledger'],
  ['new import', '/c/1/ledger/imports/new', 'Import files'],
  ['import', '/c/1/ledger/imports/1', 'Import 1'],
  ['entries', '/c/1/ledger/entries', 'Ledger'],
  ['audit trail', '/c/1/ledger/audit', 'Ledger'],
  ['accounts', '/c/1/ledger/accounts', 'Ledger'],
  ['trial balance', '/c/1/ledger/reports/trial-balance?compare=budget', 'Ledger'],
  ['account detail', '/c/1/ledger/reports/account-detail?accounts=6100-6199', 'Ledger'],
  ['aging', '/c/1/ledger/reports/aging?day=Nov+9%2C+2026&percents=1%2C4%2C10%2C20%2C40', 'Ledger'],
  ['periods', '/c/1/ledger/periods', 'Ledger'],
  ['draft entries', '/c/1/ledger/drafts', 'Ledger'],
  ['statistics', '/c/1/ledger/statistics', 'Ledger'],
  ['budgets', '/c/1/budgets', 'Budgets'],
  ['budget grid', '/c/1/budgets/3?row=6110', 'Working draft, FY2028'],
  ['library of views', '/c/1/statements', 'Statements'],
  ['income statement', '/c/1/statements/income', 'Income statement'],
  ['balance sheet', '/c/1/statements/balance', 'Balance sheet'],
  ['ratios', '/c/1/statements/ratios', 'Ratios'],
  ['sales by customer', '/c/1/statements/customers', 'Sales by customer'],
  ['drill-down', '/c/1/statements/income?figure=revenue~month.actual', 'Revenue, net, 219,617.48'],
  ['findings', '/c/1/findings/variances', 'Findings'],
  ['materiality limits', '/c/1/findings/limits', 'Findings'],
  ['tie-outs', '/c/2/findings/tie-outs', 'Findings'],
  ['posting checks', '/c/1/findings/postings?posting=entry+1', 'Findings'],
  ['packs', '/c/1/packs', 'Packs'],
];
for (const [name, path, heading] of SCREENS) {
  test(`the ${name} has no accessibility violation and no page scrolls sideways`, async ({ page, demo }) => {
    const errors: string[] = [];
    page.on('console', (message) => (message.type() === 'error' ? errors.push(message.text()) : undefined));
    page.on('pageerror', (error) => errors.push(error.message));
    await open(page, demo, path);
    await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
    await expect(page.getByText(/^Loading /)).toHaveCount(0);
    await page.evaluate(() => document.fonts.ready);
    await expectAccessible(page);
    for (const width of [1024, 1280, 1920]) {
      await page.setViewportSize({ width, height: 800 });
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= document.documentElement.clientWidth)).toBe(true);
    }
    expect(errors).toEqual([]);
  });
}

test('a faint figure among many alike, the same color on another ground, and a button without a name are found', async ({ context }) => {
  const page = await context.newPage();
  const figures = '<p>1,204.50</p>'.repeat(8);
  const show = (content: string): Promise<void> =>
    page.setContent(`<html lang="en"><title>Figures</title><main><h1>Figures</h1>${figures}${content}</main></html>`);
  await show('<p>980.00</p>');
  await expectAccessible(page);
  for (const [content, rule] of [
    ['<p style="color: #bbb">980.00</p>', 'color-contrast: <p style="color: #bbb">'],
    ['<div style="background: #222"><p>980.00</p></div>', 'color-contrast: <p>980.00</p>'],
    ['<div style="opacity: 0.3"><p>980.00</p></div>', 'color-contrast: <p>980.00</p>'],
    ['<button></button>', 'button-name: <button>'],
  ] as const) {
    await show(content);
    expect(await violationsOn(page)).toEqual([expect.stringContaining(rule)]);
  }
  // the seventh row of a table is the last that is looked at
  await show(`<table>${'<tr><td>980.00</td></tr>'.repeat(6)}<tr><td><img></td></tr><tr><td><img></td></tr></table>`);
  expect(await violationsOn(page)).toEqual(['image-alt: <img>']);
  // a rule that fails itself has not found that all is well
  await page.evaluate(() => {
    const { axe } = window as unknown as { axe: { configure: (spec: object) => void } };
    const evaluate = (): boolean => {
      throw new Error('the check is broken');
    };
    axe.configure({ checks: [{ id: 'has-alt', evaluate }] });
  });
  await expect(violationsOn(page)).rejects.toThrow('the check is broken');
});
