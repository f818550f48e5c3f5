// npm run bench:packs: a review pack of the demo company, on the built server through HTTP, in its worker threads. Nothing here asserts.

import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import type { CompanyRunDto, ImportDto } from '@wise-margin/contract';
import { shippedPack } from '@wise-margin/core';

import { gannetRockFiles } from '../demo/src/index.ts';
import { startProcess } from '../tests/support/process.ts';
import { say } from './large-server.ts';

const FOLDER = process.argv[2] ?? 'demo-data';
const PACK = shippedPack('monthly-review')!;
const TURNS = 5;
const COMPANIES = 30;
const LOOKING = 3000;
const folder = mkdtempSync(join(tmpdir(), 'wise-margin-bench-'));
cpSync(FOLDER, folder, { recursive: true });
const server = await startProcess(folder);
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};
/** How long other requests wait while work runs. */
async function beside(work: () => Promise<unknown>): Promise<{ readonly took: number; readonly longest: number }> {
  let longest = 0;
  let isDone = false;
  const took = timed(work).finally(() => (isDone = true));
  while (!isDone) {
    longest = Math.max(longest, await timed(async () => (await fetch(`${server.base}/companies`)).text()));
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  return { took: await took, longest };
}
const body = (title: string) =>
  JSON.stringify({
    ...PACK,
    sections: PACK.sections.map((section) => (section.id === 'summary' ? { ...section, title } : section)),
    month: '2026-10',
  });
const preview = async (title: string): Promise<void> => {
  const response = await fetch(`${server.base}/companies/1/pack-preview`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: body(title),
  });
  if (response.status !== 200) throw new Error(await response.text());
  await response.text();
};
const file = (format: string) => async (): Promise<void> => {
  await (await fetch(`${server.base}/companies/1/packs/monthly-review/months/2026-10/export.${format}`)).arrayBuffer();
};
const words = ({ took, longest }: { readonly took: number; readonly longest: number }): string =>
  `${took.toFixed(0)} ms, another request waited at most ${longest.toFixed(0)} ms`;
/** Further companies with the ledger of the second demo company. */
async function makeCompanies(count: number): Promise<void> {
  const { accounts, ledger } = gannetRockFiles();
  const [accountsFile, ledgerFile] = [join(folder, 'accounts.csv'), join(folder, 'ledger.csv')];
  writeFileSync(accountsFile, accounts);
  writeFileSync(ledgerFile, ledger);
  for (let at = 1; at <= count; at += 1) {
    const target = { name: `Gannet Rock ${at}`, currency: 'USD', startMonth: '1' };
    const { id } = await server.upload(target, { accounts: accountsFile, ledger: ledgerFile });
    await fetch(`${server.base}/imports/${id}/post`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' });
    while ((await server.get<ImportDto>(`/imports/${id}`)).state !== 'posted') await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

try {
  const month = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ month: '2026-10' }) };
  await (await fetch(`${server.base}/companies/1/pack-preview/ready`, month)).text();
  await new Promise((resolve) => setTimeout(resolve, LOOKING));
  say(
    `preview of ${PACK.sections.length} sections, the first after a start, three seconds after the list of packs: ${words(await beside(() => preview('First')))}`,
  );
  await new Promise((resolve) => setTimeout(resolve, LOOKING));
  for (const format of ['pdf', 'docx', 'xlsx', 'html']) {
    const first = await beside(file(format));
    const turns: number[] = [];
    for (let turn = 0; turn < TURNS; turn += 1) turns.push(await timed(file(format)));
    say(`${format}: ${words(first)} at first; ${Math.min(...turns).toFixed(0)} to ${Math.max(...turns).toFixed(0)} ms again`);
  }
  const edits: number[] = [];
  for (let turn = 0; turn < 10; turn += 1) edits.push(await timed(() => preview(`Edit ${turn}`)));
  say(`preview after an edit: ${Math.min(...edits).toFixed(0)} to ${Math.max(...edits).toFixed(0)} ms`);
  const issue = () =>
    fetch(`${server.base}/companies/1/packs/monthly-review/months/2026-10/issues`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
  say(`issued with its four files: ${words(await beside(issue))}`);
  await makeCompanies(COMPANIES - 2);
  const companies = (await server.get<{ id: number }[]>('/companies')).map(({ id }) => id);
  const run = async (): Promise<void> => {
    const request = { key: `bench ${Date.now()}`, pack: 'monthly-review', month: '2026-10', companies };
    const started = await fetch(`${server.base}/company-runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(request),
    });
    let state = (await started.json()) as CompanyRunDto;
    while (state.finishedAt === null) {
      await new Promise((resolve) => setTimeout(resolve, 250));
      state = await server.get<CompanyRunDto>(`/company-runs/${state.id}`);
    }
    const failed = state.results.filter(({ state: of }) => of !== 'done');
    if (failed.length > 0) throw new Error(JSON.stringify(failed));
  };
  say(`${companies.length} companies issued in one run: ${words(await beside(run))}`);
  const group = (await (
    await fetch(`${server.base}/company-groups`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'All', currency: 'USD', lead: 1, members: companies.map((company) => ({ company, intercompany: [] })) }),
    })
  ).json()) as { id: number };
  const combined = () => server.get(`/company-groups/${group.id}/statements/income?asOf=2026-10`);
  say(`${companies.length} companies combined: ${words(await beside(combined))}; ${(await timed(combined)).toFixed(0)} ms again`);
} finally {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
}
