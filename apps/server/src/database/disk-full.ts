/** Whether something failed because the disk has no room: the file system's word for it, or SQLite's. */
export function isDiskFull(error: unknown): boolean {
  for (let cause: unknown = error; cause instanceof Error; cause = (cause as { parent?: unknown }).parent ?? cause.cause) {
    const { code } = cause as NodeJS.ErrnoException;
    if (code === 'ENOSPC' || code === 'EDQUOT' || code === 'SQLITE_FULL') return true;
    if (/database or disk is full/.test(cause.message)) return true;
  }
  return false;
}
