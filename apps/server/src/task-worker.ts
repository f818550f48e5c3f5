import { TASKS } from './tasks.ts';
import { type Outcome, runTask } from './work/task.ts';

/** The entry of a worker thread: runs one task at a time. */
export default (asked: { readonly name: string; readonly input: unknown }): Promise<Outcome> => runTask(TASKS, asked);
