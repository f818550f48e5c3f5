// npm test: installs what the tests need; types, format, lint and dependency rule beside the build; unit tests and browser journeys; ends with the count.
import { readFileSync, rmSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, compileDatabase, ensureChromium, installPackages, node, root, run, say } from './steps.mjs';

await installPackages();
const chromium = await ensureChromium();
// sqlite3 is compiled beside the steps that read no data
const database = compileDatabase();
const results = join(root, '.cache', 'results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;
const count = (good, bad) => {
  passed += good;
  failed += bad;
};
/** Runs a step and counts it; a step that runs beside others shows what it printed when it ends. */
async function step(name, command, args, { read, beside = false } = {}) {
  const output = [];
  if (!beside) say(`\n== ${name}`);
  const options = { env: { ...process.env, CHROMIUM_PATH: chromium } };
  const code = await run(node, [command, ...args], beside ? { ...options, stdio: ['ignore', 'pipe', 'pipe'], output } : options);
  if (beside) say(`\n== ${name}\n${output.join('')}`.trimEnd());
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
const cache = (name) => ['--cache', '--cache-strategy', 'content', '--cache-location', join(root, '.cache', name)];
// one after the other, beside the build and the unit tests; each looks at changed files only
const checks = (async () => {
  await step('Types', bin('typescript/bin/tsc'), ['-b'], { beside: true });
  await step('Format', bin('prettier/bin/prettier.cjs'), ['--check', '.', '--log-level', 'warn', ...cache('prettier')], { beside: true });
  await step('Lint', bin('eslint/bin/eslint.js'), ['.', ...cache('eslint')], { beside: true });
  const rule = ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo'];
  await step('Dependency rule', bin('dependency-cruiser/bin/dependency-cruise.mjs'), rule, { beside: true });
})();
await build();
await database;
await step(
  'Unit tests and outside checks',
  bin('vitest/vitest.mjs'),
  ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${join(results, 'unit.json')}`],
  {
    read: json('unit.json', (told) => ({
      passed: told.numPassedTests,
      failed: told.numFailedTests + (told.numFailedTestSuites > 0 && told.numFailedTests === 0 ? 1 : 0),
    })),
  },
);
await checks;
await step('Browser journeys', bin('@playwright/test/cli.js'), ['test'], {
  read: json('journeys.json', (told) => ({ passed: told.stats.expected + told.stats.flaky, failed: told.stats.unexpected })),
});
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
