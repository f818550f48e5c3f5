import type { TestProject } from 'vitest/node';

import { madeOnce } from './made-once.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    /** data folder of both demo companies, each with an approved budget of its year in progress */
    demoFolder: string;
    /** data folder as the first start makes it: every table, no company */
    emptyFolder: string;
  }
}

/** Folders made once; servers of tests take copies. What makes them is loaded only when they are not there. */
export default async function provideFolders(project: TestProject): Promise<void> {
  const make = () => import('./make-folders.ts');
  const empty = await madeOnce('empty', async (folder) => (await make()).makeEmptyFolder(folder));
  project.provide('emptyFolder', empty);
  project.provide('demoFolder', await madeOnce('companies', async (folder) => (await make()).makeDemoFolder(empty, folder)));
}
