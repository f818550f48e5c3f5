import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));
const STORE = join(root, '.cache', 'test-data');
/** All that decides what the data is: the code that makes it, and the libraries under it. */
const SOURCES = [
  'packages',
  'apps/server/src',
  'apps/cli/src',
  'demo/src',
  'tests/support',
  'tests/journeys/global-setup.ts',
  'package-lock.json',
];
const SKIPPED = ['node_modules', 'dist'];

/**
 * A data folder that tests begin with, made by the code as it is: made again after any change of it, and taken
 * from the last run otherwise. Tests work on copies.
 * @param make fills a new empty folder
 */
export async function madeOnce(name: string, make: (folder: string) => Promise<void>): Promise<string> {
  const folder = join(STORE, `${name}-${digestOfSources()}`);
  if (existsSync(folder)) return folder;
  mkdirSync(STORE, { recursive: true });
  for (const old of readdirSync(STORE)) if (old.startsWith(`${name}-`)) rmSync(join(STORE, old), { recursive: true, force: true });
  const making = mkdtempSync(join(STORE, 'making-'));
  try {
    await make(making);
    renameSync(making, folder);
  } finally {
    rmSync(making, { recursive: true, force: true });
  }
  return folder;
}

function digestOfSources(): string {
  const hash = createHash('sha256').update(process.version);
  const read = (path: string): void => {
    const entries = readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
    for (const entry of entries) {
      const inside = join(path, entry.name);
      if (entry.isDirectory()) {
        if (!SKIPPED.includes(entry.name)) read(inside);
      } else if (/\.[cm]?[jt]sx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name)) hash.update(inside).update(readFileSync(inside));
    }
  };
  for (const source of SOURCES) {
    const path = join(root, source);
    if (/\.\w+$/.test(source)) hash.update(path).update(readFileSync(path));
    else read(path);
  }
  return hash.digest('hex').slice(0, 16);
}
