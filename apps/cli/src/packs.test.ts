import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { openApplication } from '@wise-margin/server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { run } from './main.ts';

let folder: string;
const wm = async (...args: string[]) => {
  let [out, error] = ['', ''];
  const write = { out: (text: string) => (out += text), error: (text: string) => (error += text) };
  return { code: await run([...args, '--data', join(folder, 'data')], write), out, error };
};

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wise-margin-packs-'));
  const [accounts, ledger] = [join(folder, 'accounts.csv'), join(folder, 'ledger.csv')];
  writeFileSync(accounts, 'account,name,class\n1000,Cash,Cash\n4000,Sales,Revenue\n6000,Wages,Operating expenses\n');
  const rows = ['2025', '2026'].flatMap((year) =>
    Array.from({ length: 10 }, (_, at) => `${year}-${String(at + 1).padStart(2, '0')}`).flatMap((month) => [
      `S${month},${month}-05,1000,900.00,,Sale`,
      `S${month},${month}-05,4000,,900.00,Sale`,
      `W${month},${month}-20,6000,300.00,,Wages`,
      `W${month},${month}-20,1000,,300.00,Wages`,
    ]),
  );
  writeFileSync(ledger, `entry,date,account,debit,credit,memo\n${rows.join('\n')}\n`);
  const imported = await wm(
    'import',
    '--accounts',
    accounts,
    '--ledger',
    ledger,
    '--company',
    'Small',
    '--currency',
    'USD',
    '--year-starts',
    '1',
  );
  expect(imported.error).toBe('');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('a run over companies from a script', () => {
  it('issues for every company, writes one ZIP, and says in its exit code when one failed', async () => {
    const file = join(folder, 'run.zip');
    const done = await wm('run-companies', '--pack', 'lender-pack', '--as-of', '2026-09', '--file', file, '--format', 'csv');
    expect([done.code, done.error]).toEqual([0, '']);
    expect(done.out).toContain('Small,done,USD,900.00,600.00,0,');
    // ZIP local file header
    expect(readFileSync(file).subarray(0, 4)).toEqual(Buffer.from([0x50, 0x4b, 3, 4]));
    const failed = await wm('run-companies', '--pack', 'lender-pack', '--as-of', '2030-01');
    expect(failed.code).toBe(1);
    expect(failed.error).toContain('Small: failed. 2030-01 is outside the fiscal years of Small, FY2025 to FY2026.');
    expect((await wm('run-companies', '--as-of', '2026-09')).code).toBe(2);
  });
});

describe('schedules from a script', () => {
  it('run what was due up to a day, each time once, and are listed with what they did', async () => {
    const application = await openApplication({
      directory: join(folder, 'data'),
      recover: false,
      actor: { name: 'Tester', now: () => new Date('2026-10-31T12:00:00Z') },
    });
    await application.schedules.save(1, null, {
      ...{ name: 'Drafts', what: { kind: 'view', view: 'income' }, of: 'monthBefore', day: { kind: 'dayOfMonth', number: 5 } },
      ...{
        minutes: 420,
        zone: 'UTC',
        condition: { kind: 'always' },
        to: ['ann@bank.com'],
        lists: [],
        subject: '{name}, {month}',
        text: '',
      },
      ...{ formats: ['csv'], isHeld: false },
    });
    await application.close();
    const trial = ['schedules', 'run', '--from', '2026-01-31', '--until', '2026-04-30'];
    expect((await wm(...trial)).out).toContain('1 schedule, 3 runs');
    // each time once, however often the script runs
    expect((await wm(...trial)).out).toContain('1 schedule, 0 runs');
    const listed = await wm('schedules', 'list', '--format', 'csv');
    expect(listed.out).toContain('"done: Income statement, March 2026"');
    const outbox = await wm('outbox', '--format', 'csv');
    for (const month of ['January', 'February', 'March']) expect(outbox.out).toContain(`"Income statement, ${month} 2026"`);
    expect((await wm('schedules', 'run', '--until', 'soon')).code).toBe(2);
  });
});

describe('packs from a script', () => {
  it('are previewed and written, issued, and mailed once, however often the script runs', async () => {
    const file = join(folder, 'pack.pdf');
    const preview = await wm('pack', 'preview', '--pack', 'lender-pack', '--as-of', '2026-10', '--file', file);
    expect([preview.code, preview.error]).toEqual([0, '']);
    expect(preview.out).toContain('Statement of cash flows');
    expect(readFileSync(file).subarray(0, 5).toString()).toBe('%PDF-');
    expect(await wm('pack', 'send', '--pack', 'lender-pack', '--as-of', '2026-10', '--to', 'a@b.com')).toMatchObject({
      code: 2,
      error: expect.stringContaining('the pack has no issue for 2026-10') as unknown,
    });
    const refused = await wm('pack', 'issue', '--pack', 'Lender pack', '--as-of', '2026-10');
    expect([refused.code, refused.error]).toEqual([1, expect.stringMatching(/open:\n- [^]*Issue it with --anyway/)]);
    const issued = await wm('pack', 'issue', '--pack', 'Lender pack', '--as-of', '2026-10', '--anyway', '--format', 'json');
    expect(JSON.parse(issued.out)).toMatchObject({ issue: { number: 1, month: '2026-10' }, changes: [] });
    for (let time = 0; time < 2; time += 1)
      expect((await wm('pack', 'send', '--pack', 'lender-pack', '--as-of', '2026-10', '--to', 'a@b.com,c@d.com')).code).toBe(0);
    const outbox = await wm('outbox', '--format', 'csv');
    expect(outbox.out.match(/Lender pack/g)).toHaveLength(2);
    expect(outbox.out).toContain('Lender pack, October 2026');
    expect((await wm('pack', 'list')).out).toContain('October 2026, issue 1');
  });
  it('say what is missing or wrong', async () => {
    expect(await wm('pack', 'preview')).toMatchObject({ code: 2, error: expect.stringContaining('pack preview needs --pack') as unknown });
    expect((await wm('pack', 'issue', '--pack', 'none')).error).toContain('there is no pack "none". Packs: monthly-review');
    expect((await wm('pack', 'preview', '--pack', 'lender-pack', '--file', 'pack.doc')).error).toContain('--file ends with one of .pdf');
    expect(await wm('pack', 'send', '--pack', 'lender-pack', '--as-of', '2026-10', '--to', 'joe')).toMatchObject({
      code: 1,
      error: expect.stringContaining('is not an email address. Enter one such as name@company.com') as unknown,
    });
  });
});
