import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';

import { stagedPath } from './staging.ts';

/** What a check staged: fingerprints of its files and how much they hold. Posting takes nothing else. */
export type Seal = { readonly staged: string; readonly setup: string; readonly entries: number; readonly lines: number };

/** The fingerprints of what is staged in a folder; null when a file of it is gone. */
export async function fingerprints(directory: string): Promise<Pick<Seal, 'staged' | 'setup'> | null> {
  const paths = [stagedPath(directory, 'staged.sqlite'), stagedPath(directory, 'setup.json')] as const;
  if (!paths.every((path) => existsSync(path))) return null;
  const [staged, setup] = await Promise.all(paths.map(sha256));
  return { staged: staged!, setup: setup! };
}

async function sha256(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>) hash.update(chunk);
  return hash.digest('hex');
}
