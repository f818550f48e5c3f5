// npm run bench:packs: a review pack of the demo company, on the built server through HTTP, in its worker threads. Nothing here asserts.

import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { shippedPack } from '@wise-margin/core';

import { startProcess } from '../tests/support/process.ts';
import { say } from './large-server.ts';

const FOLDER = process.argv[2] ?? 'demo-data';
const PACK = shippedPack('monthly-review')!;
const TURNS = 5;
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
try {
  say(`preview of ${PACK.sections.length} sections, the first after a start: ${words(await beside(() => preview('First')))}`);
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
} finally {
  await server.stop('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
}
