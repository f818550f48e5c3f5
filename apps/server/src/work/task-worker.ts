import { ProblemError } from '../http/problem.ts';
import { TASKS, type TaskName } from './tasks.ts';

/** What a task came to: its result, or a refusal meant for whoever asked. */
export type Outcome =
  | { readonly ok: true; readonly result: unknown }
  | { readonly ok: false; readonly problem: { readonly status: number; readonly title: string; readonly detail: string } };

/** Runs one task; failures that are not refusals reach the pool as they are. */
export default async function runTask({ name, input }: { readonly name: TaskName; readonly input: unknown }): Promise<Outcome> {
  try {
    return { ok: true, result: await (TASKS[name] as (given: unknown) => Promise<unknown>)(input) };
  } catch (error) {
    // a class does not cross between threads; what it says does
    if (error instanceof ProblemError) return { ok: false, problem: { status: error.status, title: error.title, detail: error.detail } };
    throw error;
  }
}
