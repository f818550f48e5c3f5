import { AsyncLocalStorage } from 'node:async_hooks';

/** The key of a request under way, as its first transaction writes it down. */
export type RequestKey = {
  readonly key: string;
  /** a digest of what is asked, so that a key is used for one request alone */
  readonly request: string;
  readonly at: string;
  /** set by the transaction that wrote it, once */
  isWritten: boolean;
};

const underWay = new AsyncLocalStorage<RequestKey>();

/** Does what a request asks; the first transaction in it writes the key, so that the change and its key are stored together or not at all. */
export const underKey = <Result>(key: RequestKey, work: () => Result): Result => underWay.run(key, work);
export const keyUnderWay = (): RequestKey | undefined => underWay.getStore();
