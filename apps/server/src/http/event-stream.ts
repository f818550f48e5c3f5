const HEARTBEAT_MILLISECONDS = 25_000;
const RETRY_MILLISECONDS = 1000;

/**
 * Server-sent events, one for each value; a comment now and then keeps connections open that close when nothing is said.
 * Ends when the signal is aborted.
 * @param listen starts the values, and gives what ends them
 */
export async function* eventStream<Value>(
  listen: (next: (value: Value) => void) => () => void,
  signal: AbortSignal,
): AsyncGenerator<string> {
  const waiting: string[] = [`retry: ${RETRY_MILLISECONDS}\n\n`];
  let wake: () => void = () => undefined;
  const say = (text: string): void => {
    waiting.push(text);
    wake();
  };
  const stop = listen((value) => say(`data: ${JSON.stringify(value)}\n\n`));
  const heartbeat = setInterval(() => say(': still here\n\n'), HEARTBEAT_MILLISECONDS);
  heartbeat.unref();
  const onAbort = (): void => wake();
  signal.addEventListener('abort', onAbort);
  try {
    while (!signal.aborted) {
      const next = waiting.shift();
      if (next !== undefined) yield next;
      else
        await new Promise<void>((resolve) => {
          wake = resolve;
        });
    }
  } finally {
    stop();
    clearInterval(heartbeat);
    signal.removeEventListener('abort', onAbort);
  }
}
