import { fileURLToPath } from 'node:url';

import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

const router = (file: string): string => fileURLToPath(new URL(`node_modules/react-router/dist/development/${file}`, import.meta.url));
const exclude = ['**/node_modules/**', '**/dist/**'];
const common = { exclude, testTimeout: 60_000, hookTimeout: 120_000 };
// most of what a test makes is gone before it is collected, and both cores are busy with tests; what the runner was started with goes on
const execArgv = [...process.execArgv, '--max-semi-space-size=128', '--min-semi-space-size=64', '--single-threaded-gc'];

/** The files that take longest begin first, so that no worker is left with one at the end. */
const LONGEST = ['faults/change-faults', 'faults/import-faults', 'outside/analytic-sql', 'faults/processes'];
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number =>
      LONGEST.findIndex((name) => moduleId.includes(name)) + 1 || LONGEST.length + 1 + (moduleId.endsWith('x') ? 1 : 0);
    const sorted = await super.sort(files);
    return sorted.sort((a, b) => rank(a) - rank(b));
  }
}

/**
 * Two kinds of tests. Files of one kind share a process and its modules, since loading them again for each file
 * takes longer than most of the tests: a test leaves no global and no module changed behind it.
 */
export default defineConfig({
  test: {
    maxWorkers: 2,
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        // computation and wording: no server, no document
        test: {
          ...common,
          name: 'core',
          include: ['packages/**/*.test.ts', 'apps/web/**/*.test.ts', 'demo/**/*.test.ts'],
          pool: 'threads',
          isolate: false,
          sequence: { groupOrder: 2 },
        },
      },
      {
        // the server, the command line, and pages in a document without a browser against a real server; their router is the browser's
        oxc: { jsx: { runtime: 'automatic', development: false } },
        resolve: {
          alias: [
            { find: /^react-router$/, replacement: router('index.mjs') },
            { find: /^react-router\/dom$/, replacement: router('dom-export.mjs') },
          ],
        },
        test: {
          ...common,
          name: 'server',
          include: ['apps/server/**/*.test.ts', 'apps/cli/**/*.test.ts', 'tests/**/*.test.ts', 'tests/**/*.test.tsx'],
          globalSetup: ['tests/support/bundled-worker.ts', 'tests/support/demo-folder.ts'],
          setupFiles: ['tests/support/page-setup.ts'],
          pool: 'forks',
          execArgv,
          isolate: false,
          sequence: { groupOrder: 0 },
        },
      },
    ],
  },
});
