import type { Actor } from '../database/audit.ts';
import type { MailService } from './mail-service.ts';
import type { MailStore } from './mail-store.ts';
import { MailRefusal, type MailTransport } from './mail-transport.ts';

// another process may queue a message; it waits no longer than this
const MOST_WAIT = 15_000;
type Parts = {
  readonly store: MailStore;
  readonly mail: MailService;
  /** null without a mail server: nothing is queued then */
  readonly transport: MailTransport | null;
  readonly actor: Actor;
  readonly report: (error: unknown) => void;
};

/** Sends what is queued, one message after the other, in the background. */
export class MailSender {
  readonly #parts: Parts;
  #timer: NodeJS.Timeout | null = null;
  #running: Promise<void> | null = null;
  /** asked to send soon while a round is under way */
  #isWoken = false;
  #isClosed = false;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** Begins to send, now and whenever a message is due. */
  async start(): Promise<void> {
    const { store, transport, actor } = this.#parts;
    await store.recover(actor.now());
    if (transport) this.#wait(0);
  }

  /** Sends every message that is due. @returns how many were tried */
  async sendDue(): Promise<number> {
    const { store, transport, actor } = this.#parts;
    if (transport === null) return 0;
    let tried = 0;
    while (!this.#isClosed) {
      const row = await store.claim(actor.now());
      if (row === null) break;
      tried += 1;
      try {
        await transport.send(await this.#parts.mail.raw(row));
      } catch (error) {
        const isRefusal = error instanceof MailRefusal;
        if (!isRefusal) this.#parts.report(error);
        const words = isRefusal ? error.message : 'The message could not be written.';
        await store.failed(row, { error: words, isPermanent: isRefusal && error.isPermanent, now: actor.now() });
        continue;
      }
      await store.sent(row, actor.now());
    }
    return tried;
  }

  /** Stops; a message that is being sent is finished first. */
  async close(): Promise<void> {
    this.#isClosed = true;
    if (this.#timer) clearTimeout(this.#timer);
    await this.#running;
    this.#parts.transport?.close();
  }

  #wait(milliseconds: number): void {
    if (this.#isClosed) return;
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = setTimeout(() => {
      this.#timer = null;
      this.#running = this.#round();
    }, milliseconds);
    this.#timer.unref();
  }

  async #round(): Promise<void> {
    const { store, actor, report } = this.#parts;
    let wait = MOST_WAIT;
    try {
      await this.sendDue();
      const due = await store.nextDue();
      if (due) wait = Math.min(MOST_WAIT, Math.max(200, due.getTime() - actor.now().getTime()));
    } catch (error) {
      // the database is full or locked: the next round tries again
      report(error);
    }
    this.#running = null;
    this.#wait(this.#isWoken ? 0 : wait);
    this.#isWoken = false;
  }

  /** Sends soon, such as right after a message was queued. */
  wake(): void {
    if (this.#isClosed || this.#parts.transport === null) return;
    // one loop: the round under way begins the next one, or the timer is set again
    if (this.#running !== null) this.#isWoken = true;
    else if (this.#timer !== null) this.#wait(0);
  }
}
