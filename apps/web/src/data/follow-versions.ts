const ASK = 'ask';

/**
 * Follows the version of a company's books. All windows of a browser share one connection to the server, held by one of
 * them: a browser allows a server only a few, and each would take one. A window that was asleep asks for what it missed.
 * @returns what ends the following
 */
export function followVersions(company: number, onVersion: (version: number) => void): () => void {
  // a document without a browser, such as in a test
  if (typeof EventSource === 'undefined' || typeof BroadcastChannel === 'undefined') return () => undefined;
  const ended = new AbortController();
  const channel = new BroadcastChannel(`wise-margin.versions.${company}`);
  let last: number | null = null;
  let isHolder = false;
  const take = (version: number): void => {
    last = version;
    onVersion(version);
  };
  channel.onmessage = ({ data }: MessageEvent<unknown>) => {
    if (data === ASK && isHolder && last !== null) channel.postMessage(last);
    if (typeof data === 'number') take(data);
  };
  const hold = (): Promise<void> =>
    new Promise((resolve) => {
      isHolder = true;
      const source = new EventSource(`/api/companies/${company}/events`);
      source.onmessage = ({ data }: MessageEvent<string>) => {
        const { version } = JSON.parse(data) as { version: number };
        take(version);
        channel.postMessage(version);
      };
      ended.signal.addEventListener('abort', () => {
        source.close();
        resolve();
      });
    });
  const ask = (): void => {
    if (document.visibilityState === 'visible') channel.postMessage(ASK);
  };
  // without locks (a page that was not opened over a secure connection) each window has its own
  if ('locks' in navigator)
    navigator.locks.request(`wise-margin.versions.${company}`, { signal: ended.signal }, hold).catch((error: unknown) => {
      // the window closed while it waited for its turn
      if (!(error instanceof DOMException && error.name === 'AbortError')) throw error;
    });
  else void hold();
  ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    ended.abort();
    channel.close();
    document.removeEventListener('visibilitychange', ask);
  };
}
