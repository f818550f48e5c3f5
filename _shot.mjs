import { chromium } from '@playwright/test';
const [, , out, path, ...actions] = process.argv;
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const p = await b.newPage({ viewport: { width: Number(process.env.W ?? 1280), height: 800 } });
p.on('console', (m) => {
  if (['error', 'warning'].includes(m.type())) console.log('CONSOLE', m.text());
});
p.on('pageerror', (e) => console.log('PAGEERROR', e.message));
await p.goto((process.env.BASE ?? 'http://localhost:4180') + path);
await p.waitForLoadState('networkidle');
for (const a of actions) {
  const [k, ...r] = a.split('::');
  const v = r.join('::');
  if (k === 'click') await p.locator(v).first().click();
  else if (k === 'text') await p.getByText(v, { exact: false }).first().click();
  else if (k === 'role') {
    const [role, name] = v.split('|');
    await p.getByRole(role, { name }).first().click();
  } else if (k === 'key') await p.keyboard.press(v);
  else if (k === 'type') await p.keyboard.type(v);
  else if (k === 'file') {
    const [sel, f] = v.split('|');
    await p.locator(sel).setInputFiles(f);
  } else if (k === 'fill') {
    const [sel, t] = v.split('|');
    await p.locator(sel).fill(t);
  } else if (k === 'select') {
    const [sel, t] = v.split('|');
    await p.locator(sel).selectOption(t);
  } else if (k === 'eval') console.log(JSON.stringify(await p.evaluate(v)));
  else if (k === 'wait') await p.waitForTimeout(Number(v));
  await p.waitForTimeout(150);
}
await p.waitForLoadState('networkidle');
await p.waitForTimeout(200);
await p.screenshot({ path: out });
console.log(p.url());
await b.close();
