import { ProblemError } from '../http/problem.ts';

/** Work that takes long enough to hold up other requests. What goes in and comes out is plain data, so that it can cross to a worker thread. */
export type Task<Input, Result> = { readonly name: string; readonly run: (input: Input) => Promise<Result> };

/** A task whose code is read when it first runs, so that a thread begins with what it needs. */
export const lazyTask = <Input, Result>(name: string, read: () => Promise<(input: Input) => Promise<Result>>): Task<Input, Result> => ({
  name,
  run: async (input) => (await read())(input),
});

/** The end of a task: its result, or an error meant for whoever asked. */
export type Outcome =
  | { readonly ok: true; readonly result: unknown }
  | { readonly ok: false; readonly problem: { readonly status: number; readonly title: string; readonly detail: string } };

/** Runs one of the tasks by its name. Errors that are not meant for whoever asked reach the pool unchanged. @throws RangeError for an unknown name */
export async function runTask(
  tasks: readonly Task<never, unknown>[],
  { name, input }: { readonly name: string; readonly input: unknown },
): Promise<Outcome> {
  const task = tasks.find((each) => each.name === name);
  if (!task) throw new RangeError(`There is no task "${name}".`);
  try {
    return { ok: true, result: await task.run(input as never) };
  } catch (error) {
    // a class does not cross between threads; what it says does
    if (error instanceof ProblemError) return { ok: false, problem: { status: error.status, title: error.title, detail: error.detail } };
    throw error;
  }
}
