import { lazyTask } from '../work/task.ts';

/**
 * The files of the demo companies, by folder and name: CSV files without `.csv`, bank statements with their ending. Always
 * the same for the same release.
 */
export type DemoFiles = Readonly<Record<DemoFolder, Readonly<Record<string, string>>>>;
export type DemoFolder = 'tern-island' | 'gannet-rock';

/** Writes the ledgers of both demo companies: about a second of work, for a worker. */
export const DEMO_FILES = lazyTask<undefined, DemoFiles>('demoFiles', async () => {
  const { gannetRockFiles, ternIslandFiles } = await import('@wise-margin/demo');
  return () => {
    const { bank, ...tables } = ternIslandFiles();
    return Promise.resolve({ 'tern-island': { ...tables, ...bank }, 'gannet-rock': gannetRockFiles() });
  };
});
