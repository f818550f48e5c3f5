// npm test: installs what the tests need; types, format, lint and dependency rule beside the build; unit tests and browser journeys; ends with the count.
import { readFileSync, rmSync, mkdirSync } from 'node:fs';
import { freemem } from 'node:os';
import { join } from 'node:path';
import { journeysResult, unitResult } from './test-results.mjs';
import {
  bin,
  build,
  checkedFiles,
  compileDatabase,
  ensureChromium,
  hasPassed,
  installPackages,
  node,
  notePassed,
  root,
  run,
  say,
} from './steps.mjs';

const [chromium] = await Promise.all([ensureChromium(), installPackages()]);
// sqlite3 is compiled beside the steps that read no data
const database = compileDatabase();
const results = join(root, '.cache', 'results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
/** What failed, in words: repeated at the end, so that the last page of a long log says it. */
const failures = [];
// most code of a test runs a few times: it is compiled for speed four times later than usual, which decision 180 measures.
// Processes that a runner starts take the option over; later versions of Node refuse it.
const COMPILES_LATE = process.version.startsWith('v20.') ? ['--interrupt-budget=300000'] : [];
/** Runs a step and counts it; a step that runs beside others shows what it printed when it ends. */
async function step(name, command, args, { read, beside = false, environment = {}, engine = [] } = {}) {
  const output = [];
  if (!beside) say(`\n== ${name}`);
  const options = { env: { ...process.env, ...environment, CHROMIUM_PATH: chromium } };
  // fills what the steps that others wait for leave of the processor
  const aside = { ...options, stdio: ['ignore', 'pipe', 'pipe'], output, niceness: 5 };
  const code = await run(node, [...engine, command, ...args], beside ? aside : options);
  const printed = output.join('').trimEnd();
  if (beside) say(`\n== ${name}\n${printed}`.trimEnd());
  const result = read?.() ?? { passed: code === 0 ? 1 : 0, failures: code === 0 ? [] : [printed] };
  passed += result.passed;
  failures.push(...result.failures.map((failure) => `${name}: ${failure}`));
  // A runner that fails outside its tests (a type error, a crash) counts as one failure.
  if (code !== 0 && result.failures.length === 0) failures.push(`${name}: ended with code ${code} although no test failed`);
}
const json = (name, read) => () => {
  try {
    return read(JSON.parse(readFileSync(join(results, name), 'utf8')));
  } catch (error) {
    return { passed: 0, failures: [`no result can be read from ${name}: ${error.message}`] };
  }
};
const files = checkedFiles();
// types and lint spend a fifth of their time on giving back memory that they could as well keep where there is plenty
const keepsMemory = freemem() > 8 * 2 ** 30 ? { GOGC: 'off', GOMEMLIMIT: '4GiB' } : {};
/** A step that looks at files alone: what passed on the same files is not looked at again. */
async function check(name, tool, args) {
  const stamp = name.toLowerCase().replaceAll(' ', '-');
  if (hasPassed(stamp, files)) {
    passed += 1;
    return say(`\n== ${name}\nPassed before, on the same files.`);
  }
  const failed = failures.length;
  await step(name, bin(tool), args, { beside: true, environment: keepsMemory });
  if (failures.length === failed) notePassed(stamp, files);
}
/** The tests of a project of `vitest.config.ts`, in one worker when they run beside others. */
const unitTests = (name, project, { beside = false } = {}) => {
  const file = `unit-${project}.json`;
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${join(results, file)}`];
  const args = ['run', '--project', project, ...(beside ? ['--maxWorkers=1'] : []), ...reporters];
  return step(name, bin('vitest/vitest.mjs'), args, { read: json(file, unitResult), beside, engine: COMPILES_LATE });
};
// what needs no database, one after the other: beside the build, the compiler of sqlite3 and the tests that need it
const withoutDatabase = (async () => {
  await check('Types', 'typescript-native/bin/tsc', ['-b']);
  await check('Format', 'oxfmt/bin/oxfmt', ['--check', '.']);
  await check('Lint', 'oxlint/bin/oxlint', []);
  const rule = ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo'];
  await check('Dependency rule', 'dependency-cruiser/bin/dependency-cruise.mjs', rule);
  await unitTests('Unit tests of the core', 'core', { beside: true });
})();
await build();
await database;
await unitTests('Unit tests of server and pages, outside checks', 'server');
await withoutDatabase;
await step('Browser journeys', bin('@playwright/test/cli.js'), ['test'], {
  read: json('journeys.json', journeysResult),
  engine: COMPILES_LATE,
});
if (failures.length > 0) say(`\n== Failed\n${failures.join('\n\n')}`);
say(`\n${passed} passed, ${failures.length} failed`);
process.exit(failures.length === 0 ? 0 : 1);
