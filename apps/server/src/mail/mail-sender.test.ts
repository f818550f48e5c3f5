import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

import { MailSender } from './mail-sender.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A sender over a store without messages that counts how often it is asked. */
function idleSender() {
  let asked = 0;
  const sender = new MailSender({
    store: {
      recover: () => Promise.resolve(),
      claim: () => {
        asked += 1;
        return Promise.resolve(null);
      },
      nextDue: () => Promise.resolve(null),
    },
    mail: {},
    transport: { send: () => Promise.resolve(), close: () => undefined },
    actor: { name: 'Test', now: () => new Date('2026-11-09T08:00:00Z') },
    report: (error: unknown) => {
      throw error;
    },
  } as unknown as ConstructorParameters<typeof MailSender>[0]);
  return { sender, asked: () => asked };
}

describe('a sender of mail', () => {
  it('keeps one loop, however often it is woken', async () => {
    const { sender, asked } = idleSender();
    await sender.start();
    await vi.advanceTimersByTimeAsync(100);
    for (let time = 0; time < 5; time += 1) {
      sender.wake();
      sender.wake();
    }
    await vi.advanceTimersByTimeAsync(10 * 60_000);
    // every fifteen seconds, and once for the waking
    expect(asked()).toBeLessThanOrEqual(1 + 1 + (10 * 60) / 15);
    expect(vi.getTimerCount()).toBe(1);
    await sender.close();
    expect(vi.getTimerCount()).toBe(0);
  });
  it('woken during a round begins the next one at once', async () => {
    const { sender, asked } = idleSender();
    await sender.start();
    vi.advanceTimersByTime(1);
    sender.wake();
    await vi.advanceTimersByTimeAsync(10);
    expect(asked()).toBe(2);
    await sender.close();
  });
});
