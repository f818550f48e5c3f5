// npm test: installs what the tests need, then types, lint, unit tests and browser journeys; ends with the count.
import { readFileSync, rmSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, compileDatabase, ensureChromium, installPackages, node, root, run, say } from './steps.mjs';

await installPackages();
const chromium = await ensureChromium();
// sqlite3 is compiled beside the steps that read no data
const database = compileDatabase();
await build();
const results = join(root, '.cache', 'results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;
const count = (good, bad) => {
  passed += good;
  failed += bad;
};
async function step(name, command, args, read) {
  say(`\n== ${name}`);
  const code = await run(node, [command, ...args], { env: { ...process.env, CHROMIUM_PATH: chromium } });
  const told = read?.();
  if (told) count(told.passed, told.failed);
  // A runner that fails outside its tests (a type error, a crash) counts as one failure.
  if (!told) count(code === 0 ? 1 : 0, code === 0 ? 0 : 1);
  else if (code !== 0 && told.failed === 0) count(0, 1);
}
const json = (name, read) => () => {
  try {
    return read(JSON.parse(readFileSync(join(results, name), 'utf8')));
  } catch (error) {
    say(`No result from ${name}: ${error.message}`);
    return { passed: 0, failed: 1 };
  }
};
await step('Types', bin('typescript/bin/tsc'), ['-b']);
await step('Format', bin('prettier/bin/prettier.cjs'), ['--check', '.', '--log-level', 'warn']);
await step('Lint', bin('eslint/bin/eslint.js'), ['.']);
await step('Dependency rule', bin('dependency-cruiser/bin/dependency-cruise.mjs'), [
  '--config',
  '.dependency-cruiser.cjs',
  'packages',
  'apps',
  'demo',
]);
await database;
await step(
  'Unit tests and outside checks',
  bin('vitest/vitest.mjs'),
  ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${join(results, 'unit.json')}`],
  json('unit.json', (told) => ({
    passed: told.numPassedTests,
    failed: told.numFailedTests + (told.numFailedTestSuites > 0 && told.numFailedTests === 0 ? 1 : 0),
  })),
);
await step(
  'Browser journeys',
  bin('@playwright/test/cli.js'),
  ['test'],
  json('journeys.json', (told) => ({ passed: told.stats.expected + told.stats.flaky, failed: told.stats.unexpected })),
);
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
