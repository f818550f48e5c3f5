import type { Actor } from '../database/audit.ts';
import type { ScheduleService } from './schedule-service.ts';

const MILLISECONDS_BETWEEN = 20_000;
type Parts = {
  readonly schedules: ScheduleService;
  readonly actor: Actor;
  readonly report: (error: unknown) => void;
  readonly wake: () => void;
};

/** Looks every twenty seconds for what is due. */
export class ScheduleClock {
  readonly #parts: Parts;
  #timer: NodeJS.Timeout | null = null;
  #running: Promise<void> = Promise.resolve();
  #isClosed = false;
  #isRecovered = false;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** Begins, with what was under way when the server stopped. */
  start(): void {
    this.#running = this.#round();
  }

  async close(): Promise<void> {
    this.#isClosed = true;
    if (this.#timer) clearTimeout(this.#timer);
    await this.#running;
  }

  async #round(): Promise<void> {
    const { schedules, actor, report, wake } = this.#parts;
    try {
      // tried again in the next round where it fails
      if (!this.#isRecovered) await schedules.recover();
      this.#isRecovered = true;
      if ((await schedules.runDue(actor.now())) > 0) wake();
    } catch (error) {
      // such as a full disk: the next round tries again
      report(error);
    }
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => {
      this.#running = this.#round();
    }, MILLISECONDS_BETWEEN);
    this.#timer.unref();
  }
}
