import { closeSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';

/** The data folder is served by another process. */
export class FolderInUseError extends Error {
  override readonly name = 'FolderInUseError';
  constructor(
    readonly directory: string,
    readonly owner: number,
  ) {
    super(`The data folder ${directory} is in use by process ${owner}. Stop that server first, or choose another folder.`);
  }
}

/** Whether a process runs on this machine. */
function isRunning(id: number): boolean {
  try {
    process.kill(id, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * Takes a data folder for one server. A lock left by a process that was killed is taken over.
 * @returns what gives the folder back
 * @throws FolderInUseError while another server has it
 */
export function lockFolder(directory: string): () => void {
  const path = join(directory, 'server.lock');
  for (let tries = 0; ; tries += 1) {
    try {
      const file = openSync(path, 'wx', 0o600);
      writeSync(file, String(process.pid));
      closeSync(file);
      return () => {
        if (ownerOf(path) === process.pid) rmSync(path, { force: true });
      };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const owner = ownerOf(path);
      if ((owner !== process.pid && isRunning(owner)) || tries > 5) throw new FolderInUseError(directory, owner);
      rmSync(path, { force: true });
    }
  }
}

const ownerOf = (path: string): number => {
  try {
    return Number(readFileSync(path, 'utf8')) || 0;
  } catch {
    return 0; // gone since: nobody has it
  }
};
