import { expect as look, type Locator, type MatcherReturnType } from '@playwright/test';

type Matcher = (this: { isNot: boolean; timeout: number }, locator: Locator, ...given: unknown[]) => Promise<MatcherReturnType>;
/** What a look comes to, as its matcher tells it; one that failed says what Playwright said. */
async function resultOf(isNot: boolean, look: Promise<unknown>): Promise<MatcherReturnType> {
  const failure = await look.then(
    () => null,
    (error: Error) => error.message,
  );
  return { pass: isNot === (failure !== null), message: () => failure ?? '' };
}
const visible: Matcher = function (locator, options) {
  const { timeout = this.timeout } = (options ?? {}) as { timeout?: number };
  return resultOf(this.isNot, locator.waitFor({ state: this.isNot ? 'hidden' : 'visible', timeout }));
};
/** Playwright's matcher of what an element says, after a wait for the element. */
const afterWait = (name: 'toContainText' | 'toHaveText' | 'toHaveValue'): Matcher =>
  async function (locator, expected, options) {
    const { timeout = this.timeout } = (options ?? {}) as { timeout?: number };
    // one that never comes, and several where one is meant, are told by the look itself
    if (!this.isNot && !Array.isArray(expected)) await locator.waitFor({ state: 'attached', timeout }).catch(() => undefined);
    const there = this.isNot ? look(locator).not : look(locator);
    return resultOf(this.isNot, there[name](expected as string, { timeout, ...(options as object) }));
  };
/** Playwright's, but for what is not there yet: each look of its own that finds nothing writes down the whole page. */
export const expect = look.extend({
  toBeVisible: visible,
  toContainText: afterWait('toContainText'),
  toHaveText: afterWait('toHaveText'),
  toHaveValue: afterWait('toHaveValue'),
}) as typeof look;
